"""Reports, as they hand themselves in."""

from dakika_server.accounts.permissions import permit
from dakika_server.notices.changes import Watched, watch
from dakika_server.reports import jobs  # noqa: F401 (its entry points are known by being loaded)
from dakika_server.reports.permissions import ROWS
from dakika_server.shared.areas import Area

BRAND_OF_VERSION = "(SELECT brand_id FROM reports_report WHERE id = touched.report_id)"


def _connect() -> None:
    permit(ROWS)
    watch({
        "reports_report": "reports", "reports_reportlink": "reports",
        "reports_reportversion": Watched(thing="reports", brand=BRAND_OF_VERSION),
    })  # fmt: skip


AREA = Area(name="reports", urls="dakika_server.reports.urls", connect=_connect)
