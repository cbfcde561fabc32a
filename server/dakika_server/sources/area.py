"""Sources, as they hand themselves in."""

from dakika_server.jobs.forgotten import WAITING
from dakika_server.shared.areas import Area
from dakika_server.sources import jobs


def _connect() -> None:
    for waiting in jobs.WAITING:
        WAITING.add(waiting.task, waiting)


AREA = Area(name="sources", urls="dakika_server.sources.urls", connect=_connect)
