"""Times that are taken already. The plan stands above and tells them through a hook."""

from collections.abc import Callable
from datetime import datetime

from dakika_server.sources.models import Profile

PlannedTimes = Callable[[Profile, datetime], list[datetime]]
_sources: list[PlannedTimes] = []


def register_planned(times: PlannedTimes) -> None:
    """Called once by the area of the plan."""
    _sources[:] = [times]


def planned_times(profile: Profile, now: datetime) -> list[datetime]:
    """Instants after `now` at which something is planned for the profile."""
    return [at for times in _sources for at in times(profile, now)]
