"""The demo's links and clicks, through the same intake as everything else."""

import uuid
from collections import Counter
from collections.abc import Mapping
from datetime import datetime
from hashlib import sha256
from typing import Any

from dakika_core.links.addresses import clean_destination, with_parameters
from dakika_core.links.agents import browser_of, device_of
from dakika_core.links.bots import classify, known_crawlers
from dakika_core.links.utm import UtmRules, filled
from dakika_core.links.visitors import visitor_hash
from django.db import connection

from dakika_server.brands.models import Brand, Campaign
from dakika_server.demo.outside import Outside
from dakika_server.links.actions import Draft, make_link, save_page
from dakika_server.links.bursts import mark_bursts
from dakika_server.links.jobs import count_people
from dakika_server.links.models import LinkPage, LinkSettings, LinkUse, PageView, TrackedLink
from dakika_server.networks.definitions import network
from dakika_server.plan.boosts.asking import PAID_MEDIUM
from dakika_server.sources.models import Post

Clicks = dict[tuple[str, int], uuid.UUID]


def load_links(
    editor: Any,
    rows: list[dict[str, Any]],
    on_page: list[dict[str, Any]],
    brands: Mapping[str, Brand],
    campaigns: Mapping[tuple[str, str], Campaign],
    outside: Outside,
) -> tuple[dict[str, TrackedLink], Clicks]:
    """Links with their clicks, and a page of links.

    Returns the links by the world's code, and the clicks' identifiers by that code and place.
    """
    agents, keys = known_crawlers(), Clicks()
    links: dict[str, TrackedLink] = {}
    clicks: list[tuple[TrackedLink, str, int | None, int, dict[str, Any]]] = []
    for row in rows:
        link = links[row["code"]] = _link(
            row, brands[row["owner"]], campaigns.get((row["owner"], row["campaign"])), outside
        )
        clicks += [(link, row["code"], None, i, click) for i, click in enumerate(row["clicks"])]
    page = _page(editor, brands["orrery"], outside)
    entries = [entry.link for entry in page.entries.order_by("position")]
    clicks += [
        (entries[v["entry"]], entries[v["entry"]].code, page.pk, i, v) for i, v in enumerate(on_page) if v["entry"] >= 0
    ]
    _views(page, on_page)
    with (
        connection.cursor() as cursor,
        cursor.copy(
            "COPY links_click (brand_id, link_id, key, at, referrer, device, browser, language, country, visitor, "
            "bot_reason, page_id) FROM STDIN"
        ) as copy,
    ):
        for link, code, page_id, i, click in clicks:
            reason = classify("GET", {"user-agent": click["agent"]}, agents)
            salt = sha256(f"demo {click['at'][:10]}".encode()).digest()
            keys[code, i] = uuid.uuid4()
            copy.write_row((
                link.brand_id, link.pk, keys[code, i], click["at"], click["referrer"], device_of(click["agent"]),
                browser_of(click["agent"]), click["language"], click["country"],
                visitor_hash(click["address"], click["agent"], salt), reason.value, page_id,
            ))  # fmt: skip
    mark_bursts()
    for brand in brands.values():
        count_people(brand.pk)
    return links, keys


def _link(row: dict[str, Any], brand: Brand, campaign: Campaign | None, outside: Outside) -> TrackedLink:
    definition = network(row["network"])
    known = {
        "network": definition.utm_source or definition.key,
        "medium": PAID_MEDIUM if row.get("is_paid") else definition.utm_medium,
        "campaign": row["campaign"],
    }
    utm = filled(UtmRules(), known).as_parameters()
    page = clean_destination(f"{outside.site(row['owner'])}/{row['path']}")
    link = TrackedLink.objects.create(
        brand=brand, code=outside.code(row["code"]), name=row["name"], destination=page,
        target=with_parameters(page, utm),
        utm={k: v for k, v in utm.items() if v}, network=row["network"], campaign=campaign,
        created_at=row["created_at"], is_paid=row.get("is_paid", False),
    )  # fmt: skip
    post = Post.objects.filter(brand=brand, external_id=row["post"]).first()
    if post is not None:
        LinkUse.objects.create(link=link, post=post)
    return link


def _views(page: LinkPage, rows: list[dict[str, Any]]) -> None:
    """How often the page was opened, by the quarter of an hour, as the redirect counts it."""
    agents, counts = known_crawlers(), Counter[tuple[datetime, bool]]()
    for row in rows:
        at = datetime.fromisoformat(row["at"])
        quarter = at.replace(minute=at.minute // 15 * 15, second=0, microsecond=0)
        counts[quarter, agents.match(row["agent"])] += 1
    PageView.objects.bulk_create(
        PageView(brand_id=page.brand_id, page=page, at=at, people=counts[at, False], bots=counts[at, True])
        for at in sorted({at for at, _ in counts})
    )


def _page(editor: Any, brand: Brand, outside: Outside) -> LinkPage:
    """A page for profiles whose texts may hold no links, and the way home for links that are over."""
    site = outside.site("orrery")
    titles = {
        "tickets": "Tickets",
        "repaired-hour": "The Repaired Hour",
        "workshops": "Workshops",
        "sky-tonight": "The sky tonight",
    }
    entries = []
    for path, title in titles.items():
        draft = Draft(
            destination=f"{site}/{path}",
            name=title,
            utm={"source": "links", "medium": "page"},
            code=outside.code(f"orrery-{path}"),
        )
        entries.append((make_link(editor, brand, draft).pk, title))
    LinkSettings.objects.create(brand=brand, home=site, over_words="This has passed. See what is on at the house now.")
    return save_page(
        editor,
        brand,
        slug=outside.code("orreryhouse"),
        title="Orrery House",
        words="What is on in Port Aldous.",
        entries=entries,
    )
