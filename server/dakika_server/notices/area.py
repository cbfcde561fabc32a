"""Notices, as they hand themselves in: what changes is told, what is due is asked for, letters go out."""

from dakika_server.brands.actions import zone_changed
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.notices.changes import watch
from dakika_server.notices.jobs import WAITING
from dakika_server.notices.schedules import reckon_anew
from dakika_server.shared.areas import Area


def _connect() -> None:
    add_waiting(WAITING)
    zone_changed.add("notices", reckon_anew)
    watch({"notices_notification": "notices", "brands_campaign": "campaigns"})


AREA = Area(name="notices", urls="dakika_server.notices.urls", connect=_connect)
