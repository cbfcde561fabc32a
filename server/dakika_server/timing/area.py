"""Timing, as it hands itself in."""

from dakika_server.figures.kinds import register
from dakika_server.results.findings import finders
from dakika_server.shared.areas import Area
from dakika_server.timing.findings import missed_hours
from dakika_server.timing.kinds import WeekHours


def _connect() -> None:
    finders.add("timing", missed_hours)
    register(WeekHours())


AREA = Area(name="timing", urls="dakika_server.timing.urls", connect=_connect)
