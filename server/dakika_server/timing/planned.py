"""What is planned already. The plan stands above and tells it through hooks."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from dakika_server.shared.hooks import Hook
from dakika_server.sources.models import Profile


@dataclass(frozen=True, kw_only=True)
class Planned:
    """A planned post on a profile: its number, when, in words, the edition that was read, and its state.

    tags: numbers of those that it is to have.
    """

    id: int
    profile_id: int
    at: datetime
    title: str
    edition: int
    state: str
    format: str
    campaign_id: int | None
    tags: frozenset[int] = frozenset()


times_taken: Hook[[Profile, datetime], list[datetime]] = Hook("instants at which something is planned")
planned_on: Hook[[Sequence[int], datetime, datetime], list[Planned]] = Hook("what is planned on profiles in a time")


def planned_times(profile: Profile, now: datetime) -> list[datetime]:
    """Instants after `now` at which something is planned for the profile."""
    return list(itertools.chain(*times_taken(profile, now)))


def planned_between(profiles: Sequence[int], start: datetime, end: datetime) -> list[Planned]:
    """What is planned on some profiles in [start, end), in the order of time."""
    return sorted(itertools.chain(*planned_on(profiles, start, end)), key=lambda one: (one.at, one.id))
