"""Who clicked on the brands' tracked links in the past half-year."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import numpy as np

from dakika_standins.world.model import HISTORY_DAYS, World, seed_of

AGENTS = (
    "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile Safari/537.36",
    "Mozilla/5.0 (Phone; CPU OS 17_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Mobile/15E148",
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Safari/537.36",
    "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101",
    "Mozilla/5.0 (Tablet; Android 13) AppleWebKit/537.36 (KHTML, like Gecko) Safari/537.36",
)
AGENT_SHARES = (0.36, 0.27, 0.2, 0.09, 0.08)
PAGE_DAYS = 75
BOT_AGENTS = ("ExampleBot/1.0 (+https://example.org/bot)", "linkpreview-bot/2.1", "curl/8.5.0")
REFERRERS = {
    "commons": (("commons.example", 0.7), ("", 0.25), ("search.example", 0.05)),
    "brevi": (("brevi.example", 0.6), ("", 0.4)),
}
# Where the people of a brand's links are, and what they read.
HOMES = {
    "orrery": (
        (("PT", "pt"), 0.5),
        (("BR", "pt"), 0.3),
        (("PT", "en"), 0.06),
        (("GB", "en"), 0.08),
        (("ES", "es"), 0.06),
    ),
    "lantern": (
        (("GR", "el"), 0.55),
        (("IT", "it"), 0.15),
        (("DE", "de"), 0.15),
        (("GB", "en"), 0.1),
        (("GR", "en"), 0.05),
    ),
}
# One address of each country, for those who click now (registries' allocations, from memory).
ADDRESSES = {"PT": "2.80.7.{}", "BR": "177.32.9.{}", "GB": "2.24.5.{}", "ES": "2.136.4.{}", "GR": "2.84.3.{}",
             "IT": "2.32.8.{}", "DE": "2.160.6.{}"}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class WorldLink:
    """A tracked link that a brand used, with the post that it stood in."""

    code: str
    owner: str
    name: str
    path: str
    network: str
    campaign: str
    post: str
    created_at: datetime


PATHS = {
    "orrery": (
        "tickets",
        "night-openings",
        "repaired-hour",
        "workshops",
        "membership",
        "school-mornings",
        "sky-tonight",
    ),
    "lantern": ("book", "timetable", "cabins", "dogs-aboard"),
}


def links_of(world: World) -> list[WorldLink]:
    """One link for a share of the brands' link posts."""
    links = []
    for account in world.accounts.values():
        if account.owner not in PATHS or account.is_personal:
            continue
        rng = np.random.default_rng(seed_of(world.seed, "links", account.key))
        end = datetime.combine(world.anchor, datetime.min.time(), tzinfo=UTC)
        for post in world.posts_of(account.key, end):
            if post.format == "link" and rng.random() < 0.6:
                path = str(rng.choice(PATHS[account.owner]))
                links.append(
                    WorldLink(
                        code=f"{seed_of(world.seed, post.id) % 36**6:06d}"[:6], owner=account.owner,
                        name=post.text[:60].rstrip(), path=path, network=account.network, campaign=post.campaign,
                        post=post.id, created_at=post.published_at - timedelta(hours=2),
                    )
                )  # fmt: skip
    return list({link.code: link for link in links}.values())


def clicks_on(
    world: World, link: WorldLink, final: int, *, is_evergreen: bool, is_stormed: bool, until: datetime
) -> list[dict[str, str]]:
    """Clicks on a link, people's and bots': instants ISO 8601, addresses of documentation ranges (RFC 5737)."""
    rng = np.random.default_rng(seed_of(world.seed, "clicks", link.code))
    count = int(final * rng.uniform(1.0, 1.4)) + 3
    half = {"commons": 5.0, "brevi": 1.2}.get(link.network, 20.0)
    ages = half * (rng.exponential(1.0, count) * 1.3) ** 1.4
    if is_evergreen:
        ages = np.append(ages, rng.uniform(0, HISTORY_DAYS * 24, 700))
    clicks = []
    names, shares = zip(*REFERRERS.get(link.network, ((f"{link.network}.example", 0.6), ("", 0.4))), strict=True)
    for age in ages:
        clicks.append((link.created_at + timedelta(hours=2 + float(age)), str(rng.choice(AGENTS, p=AGENT_SHARES)),
                       str(rng.choice(names, p=shares)), f"198.51.100.{rng.integers(1, 255)}"))  # fmt: skip
    for _ in range(int(count * 0.12) + 1):
        at = link.created_at + timedelta(hours=2, seconds=float(rng.exponential(3000)))
        clicks.append((at, str(rng.choice(BOT_AGENTS)), "", f"203.0.113.{rng.integers(1, 20)}"))
    if is_stormed:
        begin = link.created_at + timedelta(days=3, hours=1)
        clicks += [(begin + timedelta(seconds=i * 0.7), AGENTS[2], "", "203.0.113.77") for i in range(1500)]
    rows = sorted((c for c in clicks if c[0] <= until), key=lambda c: c[0])
    homes = home_of(link.owner, np.random.default_rng(seed_of(world.seed, "homes", link.code)), len(rows))
    return [
        {"at": at.isoformat(), "agent": agent, "referrer": referrer, "address": address,
         "country": home[0] if address.startswith("198.") else "", "language": home[1] if address.startswith("198.") else ""}
        for (at, agent, referrer, address), home in zip(rows, homes, strict=True)
    ]  # fmt: skip


def page_visits(world: World, until: datetime) -> list[dict[str, str | int]]:
    """Who opened the museum's page of links in the past weeks, evenings most, and the place of the entry that they took.

    -1 is none: more than half only look.
    """
    rng = np.random.default_rng(seed_of(world.seed, "page"))
    begins = datetime.combine(world.anchor - timedelta(days=PAGE_DAYS), datetime.min.time(), tzinfo=UTC)
    rows: list[dict[str, str | int]] = []
    for day in range(PAGE_DAYS + 1):
        at = begins + timedelta(days=day)
        for _ in range(int(rng.poisson(16 + 7 * (at.weekday() >= 4)))):
            when = at + timedelta(hours=float(np.clip(rng.normal(19, 3.5), 0, 23.99)))
            is_bot = rng.random() < 0.06
            home = home_of("orrery", rng, 1)[0]
            row: dict[str, str | int] = {
                "at": when.isoformat(), "agent": str(rng.choice(BOT_AGENTS if is_bot else AGENTS)), "referrer": "pictor.example",
                "address": f"{203 if is_bot else 198}.{'0.113' if is_bot else '51.100'}.{rng.integers(1, 255)}",
                "country": home[0], "language": home[1],
                "entry": -1 if is_bot or rng.random() < 0.58 else int(rng.choice(4, p=(0.4, 0.3, 0.17, 0.13))),
            }  # fmt: skip
            if when <= until:
                rows.append(row)
    return rows


def home_of(owner: str, rng: np.random.Generator, count: int) -> list[tuple[str, str]]:
    """Country and language of people who click, drawn at random."""
    homes, shares = zip(*HOMES[owner], strict=True)
    return [homes[i] for i in rng.choice(len(homes), count, p=shares)]
