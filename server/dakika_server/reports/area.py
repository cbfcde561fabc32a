"""Reports, as they hand themselves in."""

from dakika_server.accounts.permissions import permit
from dakika_server.brands.actions import zone_changed
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.notices.changes import Watched, watch
from dakika_server.reports import jobs
from dakika_server.reports.deliveries import reckon_anew
from dakika_server.reports.permissions import ROWS
from dakika_server.shared.areas import Area

BRAND_OF_VERSION = "(SELECT brand_id FROM reports_report WHERE id = touched.report_id)"


def _connect() -> None:
    permit(ROWS)
    add_waiting(jobs.WAITING)
    zone_changed.add("reports", reckon_anew)
    watch({
        "reports_report": "reports", "reports_reportlink": "reports", "reports_delivery": "reports",
        "reports_deliveryrun": "reports",
        "reports_reportversion": Watched(thing="reports", brand=BRAND_OF_VERSION),
    })  # fmt: skip


AREA = Area(name="reports", urls="dakika_server.reports.urls", connect=_connect)
