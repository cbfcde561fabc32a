"""Times that are taken already. The plan stands above and tells them through a hook."""

import itertools
from datetime import datetime

from dakika_server.shared.hooks import Hook
from dakika_server.sources.models import Profile

times_taken: Hook[[Profile, datetime], list[datetime]] = Hook("instants at which something is planned")


def planned_times(profile: Profile, now: datetime) -> list[datetime]:
    """Instants after `now` at which something is planned for the profile."""
    return list(itertools.chain(*times_taken(profile, now)))
