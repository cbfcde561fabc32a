"""Sources, as they hand themselves in."""

from dakika_server.accounts.permissions import permit
from dakika_server.brands.first_steps import first_steps
from dakika_server.brands.overview import overview_parts
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.notices.changes import watch
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.sources import jobs, monitored, retention
from dakika_server.sources.first_steps import steps_of
from dakika_server.sources.overview import part_of
from dakika_server.sources.permissions import ROWS
from dakika_server.sources.told import KINDS as TOLD
from dakika_server.webhooks.events import EVENTS

_WATCHED = {
    "sources_collectionrun": "sources", "sources_profile": "sources", "sources_connection": "sources",
    "sources_import": "files", "sources_profilerebuild": "files", "sources_feed": "feeds",
}  # fmt: skip


def _connect() -> None:
    monitored.connect()
    retention.connect()
    note_changes({
        "sources_competitor": None, "sources_peerset": None, "sources_feed": Noted(columns=("is_followed", "title")),
        "sources_profile": Noted(columns=("handle", "name", "kind", "is_followed", "competitor_id")),
        "sources_post": Noted(columns=("campaign_id",), has_rows=False),
    })  # fmt: skip
    watch(_WATCHED)
    EVENTS.add_all(TOLD)
    permit(ROWS)
    first_steps.add("sources", steps_of)
    add_waiting(jobs.WAITING)
    overview_parts.add("sources", part_of)


AREA = Area(name="sources", urls="dakika_server.sources.urls", connect=_connect)
