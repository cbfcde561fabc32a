"""Media, as they hand themselves in: files wait for a look, and who looks through them is told when it is done."""

from dakika_server.accounts.permissions import permit
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.media.jobs import WAITING
from dakika_server.media.permissions import ROWS
from dakika_server.notices.changes import watch
from dakika_server.shared.areas import Area


def _connect() -> None:
    permit(ROWS)
    add_waiting(WAITING)
    watch({"media_asset": "media"})


AREA = Area(name="media", urls="dakika_server.media.urls", connect=_connect)
