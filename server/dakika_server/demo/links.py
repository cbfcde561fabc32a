"""The demo's links, clicks, visits and conversions, through the same intake as everything else."""

import uuid
from collections.abc import Mapping
from datetime import datetime, timedelta
from hashlib import sha256
from typing import Any
from urllib.parse import urlsplit

from dakika_core.links.addresses import clean_destination, with_parameters
from dakika_core.links.agents import browser_of, device_of
from dakika_core.links.bots import classify, known_crawlers
from dakika_core.links.utm import UtmRules, filled
from dakika_core.links.visitors import visitor_hash
from dakika_core.links.visits import arrival_of
from django.conf import settings
from django.db import connection

from dakika_server.brands.models import Brand, Campaign
from dakika_server.links.actions import Draft, make_link, save_page
from dakika_server.links.jobs import count_people, mark_bursts
from dakika_server.links.models import Goal, LinkSettings, LinkUse, Site, TrackedLink
from dakika_server.links.visiting import VisitIn, take_visits
from dakika_server.networks.definitions import network
from dakika_server.shared import clock
from dakika_server.sources.models import Post

SITES = {"orrery": "orreryhouse", "lantern": "lanternline"}
# The stand-in sites carry these keys in their pages.
KEYS = {"orrery": "demo-orreryhouse", "lantern": "demo-lanternline"}
GOALS = {
    "orrery": (("Ticket", "thanks-tickets", 1400), ("Membership", "thanks-membership", 4800),
               ("Newsletter", "thanks-newsletter", 0)),
    "lantern": (("Booking", "thanks-booking", 9600), ("Timetable kept", "timetable-saved", 0)),
}  # fmt: skip
VISITS_AT_ONCE = 4000
Clicks = dict[tuple[str, int], uuid.UUID]


def load_links(
    editor: Any, rows: list[dict[str, Any]], brands: Mapping[str, Brand], campaigns: Mapping[tuple[str, str], Campaign]
) -> Clicks:
    """Links with their clicks, and a page of links; returns the clicks' identifiers by code and place."""
    agents, keys, clicks = known_crawlers(), Clicks(), []
    for row in rows:
        link = _link(row, brands[row["owner"]], campaigns.get((row["owner"], row["campaign"])))
        clicks += [(link, i, click) for i, click in enumerate(row["clicks"])]
    with (
        connection.cursor() as cursor,
        cursor.copy(
            "COPY links_click (brand_id, link_id, key, at, referrer, device, browser, language, country, visitor, "
            "bot_reason) FROM STDIN"
        ) as copy,
    ):
        for link, i, click in clicks:
            reason = classify("GET", {"user-agent": click["agent"]}, agents)
            salt = sha256(f"demo {click['at'][:10]}".encode()).digest()
            keys[link.code, i] = uuid.uuid4()
            copy.write_row((
                link.brand_id, link.pk, keys[link.code, i], click["at"], click["referrer"], device_of(click["agent"]),
                browser_of(click["agent"]), click["language"], click["country"],
                visitor_hash(click["address"], click["agent"], salt), reason.value,
            ))  # fmt: skip
    _page(editor, brands["orrery"])
    mark_bursts(hours=24 * 400)
    for brand in brands.values():
        count_people(brand.pk)
    return keys


def _link(row: dict[str, Any], brand: Brand, campaign: Campaign | None) -> TrackedLink:
    definition = network(row["network"])
    known = {
        "network": definition.utm_source or definition.key,
        "medium": definition.utm_medium,
        "campaign": row["campaign"],
    }
    utm = filled(UtmRules(), known).as_parameters()
    page = clean_destination(f"{settings.STANDINS_ADDRESS}/sites/{SITES[row['owner']]}/{row['path']}")
    link = TrackedLink.objects.create(
        brand=brand, code=row["code"], name=row["name"], destination=page, target=with_parameters(page, utm),
        utm={k: v for k, v in utm.items() if v}, network=row["network"], campaign=campaign,
        created_at=row["created_at"],
    )  # fmt: skip
    post = Post.objects.filter(brand=brand, external_id=row["post"]).first()
    if post is not None:
        LinkUse.objects.create(link=link, post=post)
    return link


def _page(editor: Any, brand: Brand) -> None:
    """A page for profiles whose texts may hold no links, and the way home for links that are over."""
    site = f"{settings.STANDINS_ADDRESS}/sites/{SITES['orrery']}"
    titles = {
        "tickets": "Tickets",
        "repaired-hour": "The Repaired Hour",
        "workshops": "Workshops",
        "sky-tonight": "The sky tonight",
    }
    entries = []
    for path, title in titles.items():
        draft = Draft(
            destination=f"{site}/{path}", name=title, utm={"source": "links", "medium": "page"}, code=f"orrery-{path}"
        )
        entries.append((make_link(editor, brand, draft).pk, title))
    save_page(
        editor, brand, slug="orreryhouse", title="Orrery House", words="What is on in Port Aldous.", entries=entries
    )
    LinkSettings.objects.create(brand=brand, home=site, over_words="This has passed. See what is on at the house now.")


def load_visits(visits: Mapping[str, list[dict[str, Any]]], brands: Mapping[str, Brand], clicks: Clicks) -> None:
    """Sites, goals, and half a year of visits, as the page script would have told of them."""
    host = urlsplit(settings.STANDINS_ADDRESS).netloc
    for owner, brand in brands.items():
        site = Site.objects.create(brand=brand, name=brand.name, hosts=[host], key=KEYS[owner], created_at=clock.now())
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
