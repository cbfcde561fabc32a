"""Pages on paper, as they hand themselves in."""

from dakika_server.jobs.forgotten import WAITING
from dakika_server.printing import jobs
from dakika_server.shared.areas import Area


def _connect() -> None:
    for waiting in jobs.WAITING:
        WAITING.add(waiting.task, waiting)


AREA = Area(name="printing", urls="dakika_server.printing.urls", connect=_connect)
