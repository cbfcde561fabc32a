"""Reports, as they hand themselves in."""

from dakika_server.accounts.permissions import permit
from dakika_server.brands.actions import zone_changed
from dakika_server.brands.belongings import BELONGINGS, Belonging
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.notices.changes import Watched, watch
from dakika_server.notices.choices import KINDS as NOTICES
from dakika_server.notices.choices import Kind
from dakika_server.reports import jobs
from dakika_server.reports.deliveries import TOLD, reckon_anew
from dakika_server.reports.models import Delivery
from dakika_server.reports.permissions import ROWS
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.webhooks.events import EVENTS

BRAND_OF_VERSION = "(SELECT brand_id FROM reports_report WHERE id = touched.report_id)"


def _connect() -> None:
    NOTICES.add("report", Kind(words="Reports that were sent, held up, or stopped by a reader"))
    note_changes({
        "reports_report": Noted(columns=("title", "label", "language", "study", "look", "pages", "removed_at")),
        "reports_reportlink": Noted(columns=("name", "until", "revoked_at")), "reports_delivery": None,
        "reports_deliveryreader": None,
    })  # fmt: skip
    EVENTS.add_all(TOLD)
    permit(ROWS)
    add_waiting(jobs.WAITING)
    zone_changed.add("reports", reckon_anew)
    BELONGINGS.add(
        "reports.deliveries",
        Belonging(
            one="delivery", many="deliveries", field="made_by",
            rows=lambda brand, person: Delivery.objects.filter(brand=brand, made_by=person),
        ),
    )  # fmt: skip
    watch({
        "reports_report": "reports", "reports_reportlink": "reports", "reports_delivery": "reports",
        "reports_deliveryrun": "reports",
        "reports_reportversion": Watched(thing="reports", brand=BRAND_OF_VERSION),
    })  # fmt: skip


AREA = Area(name="reports", urls="dakika_server.reports.urls", connect=_connect)
