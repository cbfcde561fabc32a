"""Webhooks, as they hand themselves in: what is written into the log is told, and so is what areas tell."""

from dakika_server.accounts.permissions import permit
from dakika_server.brands.everything import person_going
from dakika_server.notices.changes import Watched, watch
from dakika_server.notices.choices import KINDS as NOTICES
from dakika_server.notices.choices import Kind
from dakika_server.shared.areas import Area
from dakika_server.shared.audit import recorded
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.webhooks import monitored
from dakika_server.webhooks.events import tell_of_entry, unname
from dakika_server.webhooks.permissions import ROWS
from dakika_server.webhooks.sending import NOTICE

_BRAND = "(SELECT brand_id FROM webhooks_webhook hook WHERE hook.id = touched.webhook_id)"


def _connect() -> None:
    monitored.connect()
    permit(ROWS)
    NOTICES.add(NOTICE, Kind(words="Another program does not take what it is told"))
    recorded.add("webhooks", tell_of_entry)
    person_going.add("webhooks", unname)
    # An address may hold a key of the other side.
    note_changes({"webhooks_webhook": Noted(columns=("name", "kinds", "is_on"), has_rows=False)})
    watch({"webhooks_webhook": "webhooks", "webhooks_hookdelivery": Watched(thing="webhooks", brand=_BRAND)})


AREA = Area(name="webhooks", urls="dakika_server.webhooks.urls", connect=_connect)
