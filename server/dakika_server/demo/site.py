"""The demo's sites, goals, visits and conversions, as the page script would have told of them."""

from collections.abc import Mapping
from datetime import datetime, timedelta
from hashlib import sha256
from typing import Any
from urllib.parse import urlsplit

from dakika_core.links.agents import browser_of, device_of
from dakika_core.site.visits import arrival_of

from dakika_server.brands.models import Brand
from dakika_server.demo.links import Clicks
from dakika_server.demo.outside import Outside
from dakika_server.shared import clock
from dakika_server.site.models import Goal, Site
from dakika_server.site.visiting import VisitIn, take_visits

GOALS = {
    "orrery": (("Ticket", "thanks-tickets", 1400), ("Membership", "thanks-membership", 4800),
               ("Newsletter", "thanks-newsletter", 0)),
    "lantern": (("Booking", "thanks-booking", 9600), ("Timetable kept", "timetable-saved", 0)),
}  # fmt: skip
VISITS_AT_ONCE = 4000


def load_visits(
    visits: Mapping[str, list[dict[str, Any]]], brands: Mapping[str, Brand], clicks: Clicks, outside: Outside
) -> None:
    """Sites, goals, and half a year of visits, as the page script would have told of them."""
    for owner, brand in brands.items():
        host = urlsplit(outside.site(owner)).netloc
        site = Site.objects.create(
            brand=brand, name=brand.name, hosts=[host], key=outside.key(owner), created_at=clock.now()
        )
        for name, page, cents in GOALS[owner]:
            Goal.objects.create(brand=brand, name=name, kind=Goal.Kind.PAGE, pattern=f"*/{page}", cents=cents)
        rows = [_visit(site, row, clicks) for row in visits[owner]]
        for i in range(0, len(rows), VISITS_AT_ONCE):
            take_visits(site, rows[i : i + VISITS_AT_ONCE], "script")


def _visit(site: Site, row: dict[str, Any], clicks: Clicks) -> VisitIn:
    started = datetime.fromisoformat(row["at"])
    click = clicks.get((row["click"][0], row["click"][1])) if row["click"] else None
    target = f"{row['pages'][0]}?dk={click.hex}" if click else row["pages"][0]
    person = row["person"] or f"{row['at']} {row['agent']}"
    agent = row["agent"]
    return VisitIn(
        visitor=sha256(f"{site.pk} {person}".encode()).digest()[:16],
        arrival=arrival_of(target, row["referrer"], site.hosts), started=started,
        ended=started + timedelta(seconds=row["seconds"]), pages=len(row["pages"]), paths=row["pages"],
        device=device_of(agent), browser=browser_of(agent), language=row["language"], country=row["country"],
    )  # fmt: skip
