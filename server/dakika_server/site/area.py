"""Site, as it hands itself in: files of conversions come in through sources, visits are metrics of results."""

from typing import Any

from dakika_server.accounts.permissions import permit
from dakika_server.brands.first_steps import first_steps
from dakika_server.figures.kinds import register
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.notices.changes import watch
from dakika_server.results.brought import brought, brought_by_post, currency_told
from dakika_server.results.related import related_elsewhere
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.site import jobs
from dakika_server.site.brought import conversions_by_post, related_visits, visits_brought
from dakika_server.site.currencies import currency_of
from dakika_server.site.exports import CONVERSIONS
from dakika_server.site.first_steps import steps_of
from dakika_server.site.imports import take_conversions_batch
from dakika_server.site.kinds import KINDS
from dakika_server.site.permissions import ROWS
from dakika_server.sources.files.exporting import TABLES
from dakika_server.sources.files.rows_in import INTAKES
from dakika_server.sources.files.undoing import import_undone


def _take_out(cursor: Any, import_id: int) -> int:
    """The conversions that a file brought; how many those were."""
    cursor.execute(
        "DELETE FROM site_conversionstage s USING site_conversion c WHERE s.conversion_id = c.id AND c.import_id = %s",
        [import_id],
    )
    cursor.execute("DELETE FROM site_conversion WHERE import_id = %s", [import_id])
    return int(cursor.rowcount)


def _connect() -> None:
    note_changes({
        "site_site": None, "site_goal": None,
        "site_conversion": Noted(columns=("stage", "cents", "goal_id"), has_rows=False),
    })  # fmt: skip
    watch({"site_site": "sites", "site_goal": "sites", "site_conversion": "sites", "site_accesslog": "sites"})
    permit(ROWS)
    first_steps.add("site", steps_of)
    register(*KINDS)
    add_waiting(jobs.WAITING)
    brought.add("site", visits_brought)
    brought_by_post.add("site", conversions_by_post)
    currency_told.add("site", currency_of)
    related_elsewhere.add("site", related_visits)
    INTAKES.add("conversions", take_conversions_batch)
    import_undone.add("site", _take_out)
    TABLES.add(CONVERSIONS.name, CONVERSIONS)


AREA = Area(name="site", urls="dakika_server.site.urls", connect=_connect)
