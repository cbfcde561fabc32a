"""Pages on paper, as they hand themselves in."""

from dakika_server.jobs.forgotten import add_waiting
from dakika_server.printing import jobs
from dakika_server.shared.areas import Area


def _connect() -> None:
    add_waiting(jobs.WAITING)


AREA = Area(name="printing", urls="dakika_server.printing.urls", connect=_connect)
