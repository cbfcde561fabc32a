"""Links, as they hand themselves in: files of clicks come in through sources, which stand below."""

from typing import Any

from dakika_server.accounts.permissions import permit
from dakika_server.brands.actions import zone_changed
from dakika_server.brands.belongings import BELONGINGS, Belonging
from dakika_server.brands.first_steps import first_steps
from dakika_server.brands.models import Brand
from dakika_server.figures.kinds import register
from dakika_server.links import jobs, monitored, retention
from dakika_server.links.brought import clicks_brought, clicks_by_post
from dakika_server.links.exports import CLICKS, LINKS
from dakika_server.links.first_steps import steps_of
from dakika_server.links.imports import recount_click, take_clicks_batch
from dakika_server.links.kinds import KINDS
from dakika_server.links.models import LinkUse, TrackedLink
from dakika_server.links.permissions import ROWS
from dakika_server.links.uses import find_uses
from dakika_server.notices.changes import watch
from dakika_server.results.brought import brought, brought_by_post
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import note_changes
from dakika_server.sources.files.exporting import TABLES
from dakika_server.sources.files.rows_in import INTAKES, RECOUNTS
from dakika_server.sources.files.undoing import import_undone
from dakika_server.sources.forget import posts_forgotten
from dakika_server.sources.models import Profile
from dakika_server.sources.rebuilding import collected


def _forget_posts(post_ids: list[int]) -> None:
    LinkUse.objects.filter(post_id__in=post_ids)._raw_delete("default")


def _take_out(cursor: Any, import_id: int) -> int:
    """The clicks that a file brought; how many those were."""
    cursor.execute("SELECT brand_id, min(at) FROM links_click WHERE import_id = %s GROUP BY 1", [import_id])
    touched = cursor.fetchall()
    cursor.execute("DELETE FROM links_click WHERE import_id = %s", [import_id])
    count = int(cursor.rowcount)
    for brand_id, first in touched:
        jobs.forget_people_since(brand_id, first.date())
    return count


def _find_uses(profile: Profile) -> None:
    if profile.kind == "own":
        find_uses(profile.brand_id, profile)


def _sum_anew(brand: Brand) -> None:
    jobs.sum_clicks_anew.defer(brand_id=brand.pk)


def _connect() -> None:
    monitored.connect()
    retention.connect()
    note_changes({
        "links_linksettings": None, "links_linkdomain": None, "links_linkpage": None, "links_linkpageentry": None,
        "links_trackedlink": None,
    })  # fmt: skip
    watch(
        {
            "links_trackedlink": "links",
            "links_clickday": "links",
            "links_linkpage": "pages",
            "links_linksettings": "rules",
        }
    )
    permit(ROWS)
    first_steps.add("links", steps_of)
    BELONGINGS.add(
        "links.links",
        Belonging(
            one="tracked link", many="tracked links", field="created_by",
            rows=lambda brand, person: TrackedLink.objects.filter(brand=brand, created_by=person),
        ),
    )  # fmt: skip
    register(*KINDS)
    brought.add("links", clicks_brought)
    brought_by_post.add("links", clicks_by_post)
    INTAKES.add("clicks", take_clicks_batch)
    RECOUNTS.add("clicks", recount_click)
    import_undone.add("links", _take_out)
    posts_forgotten.add("links", _forget_posts)
    collected.add("links", _find_uses)
    zone_changed.add("links", _sum_anew)
    for table in (LINKS, CLICKS):
        TABLES.add(table.name, table)


AREA = Area(name="links", urls="dakika_server.links.urls", connect=_connect)
