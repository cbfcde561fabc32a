"""Timing, as it hands itself in."""

from dakika_server.results.findings import finders
from dakika_server.shared.areas import Area
from dakika_server.timing.findings import missed_hours


def _connect() -> None:
    finders.add("timing", missed_hours)


AREA = Area(name="timing", urls="dakika_server.timing.urls", connect=_connect)
