"""The seeded world: audiences, posts, how they grow. Every figure follows from the seed and the anchor day.

A quantity at an instant is a pure function, so that asking twice gives the same answer and any
two endpoints agree. The truth (effects of hour, format and topic) is readable here by tests.
"""

import hashlib
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime, time, timedelta
from functools import cached_property, lru_cache
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray

from dakika_standins.world.people import COMMENTS, NAMES, audience_base
from dakika_standins.world.rules import HALF_LIFE_HOURS, RULES
from dakika_standins.world.scenario import (
    ACCOUNTS,
    CAMPAIGNS,
    FORMAT_EFFECT,
    HASHTAGS,
    OTHER_TEXTS,
    TAILS,
    TEXTS,
    TOPIC_EFFECT,
    Account,
)

HISTORY_DAYS = 183
FUTURE_DAYS = 120
# Numbers of posts that are sent through an API begin here.
SENT_FROM = 10_000
SPIKE_DAYS_AGO = 24
CLUMSY_DAYS_AGO = 41
# One owner's post in so many is written in the audience's other language, or shown to more people for money.
OTHER_LANGUAGE_IN = 7
BOOSTED_IN = 18
BOOST = 0.64
# How people feel about most posts, and about the one that told off those without plans.
FEELINGS = {"warmth": 0.11, "amusement": 0.05, "wonder": 0.09, "dismay": 0.01}
DISMAYED = {"warmth": 0.02, "amusement": 0.06, "wonder": 0.02, "dismay": 0.58}
CLUMSY_WORDS = "people without plans"
# Going round the town is one thing, going round the world ten thousand times another.
MOST_LUCK = 2.3
BOOSTING_NETWORKS = ("commons", "pictor", "guildhall")
Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class WorldPost:
    """A post of the world. The finals are what its counters grow towards."""

    id: str
    account: str
    published_at: datetime
    format: str
    topic: str
    text: str
    campaign: str = ""
    link: str = ""
    language: str = "en"
    is_boosted: bool = False
    finals: dict[str, int] = field(default_factory=dict)


def kinds_of_reactions(post: WorldPost, reactions: int) -> dict[str, int]:
    """Reactions by kind; what says no more than that somebody likes it is the rest."""
    shares = DISMAYED if CLUMSY_WORDS in post.text else FEELINGS
    made = {kind: int(reactions * share) for kind, share in shares.items()}
    return {"like": reactions - sum(made.values()), **made}


@dataclass(frozen=True, kw_only=True)
class WorldComment:
    """What somebody wrote under a post."""

    id: str
    author: str
    text: str
    at: datetime


def seed_of(*parts: object) -> int:
    """A seed that depends on nothing but its parts."""
    return int.from_bytes(hashlib.sha256("/".join(map(str, parts)).encode()).digest()[:8], "big")


def presence(hour: float, weekday: int) -> float:
    """Share of an audience that is online at a local hour, in arbitrary units, about 0.1 to 1."""
    if weekday < 5:
        bumps = ((8, 1.6, 0.45), (13, 1.8, 0.5), (20.5, 2.4, 1.0))
    else:
        bumps = ((11, 2.6, 0.7), (17, 2.5, 0.4), (21, 2.4, 0.85))
    total = 0.09
    for middle, width, height in bumps:
        gap = min(abs(hour - middle), 24 - abs(hour - middle))
        total += height * math.exp(-0.5 * (gap / width) ** 2)
    return total


def _offset_hours(zone: str, monday: date) -> float:
    noon = datetime.combine(monday, time(12), tzinfo=ZoneInfo(zone))
    offset = noon.utcoffset() or timedelta()
    return offset.total_seconds() / 3600


class World:
    """Everything outside, as seen at any instant."""

    def __init__(self, *, seed: int, anchor: date) -> None:
        self.seed = seed
        self.anchor = anchor
        self.accounts: dict[str, Account] = {account.key: account for account in ACCOUNTS}

    @property
    def begins(self) -> date:
        """First day of the history."""
        return self.anchor - timedelta(days=HISTORY_DAYS)

    def account(self, network: str, handle: str) -> Account | None:
        """An account by network and handle."""
        return self.accounts.get(f"{network}-{handle.lower()}") or next(
            (a for a in ACCOUNTS if a.network == network and a.handle == handle.lower()), None
        )

    # -- audiences

    def activity(self, key: str, week_of: date) -> Array:
        """Audience online by hour of the UTC week that holds `week_of`: shape (168,), share of followers."""
        account = self.accounts[key]
        monday = week_of - timedelta(days=week_of.weekday())
        zones = tuple(account.zones.items())
        return self._activity(zones, tuple(_offset_hours(zone, monday) for zone, _ in zones))

    @lru_cache(maxsize=256)  # noqa: B019 (one world per process)
    def _activity(self, zones: tuple[tuple[str, float], ...], offsets: tuple[float, ...]) -> Array:
        curve = np.zeros(168)
        for (_, share), offset in zip(zones, offsets, strict=True):
            for hour in range(168):
                local = (hour + 0.5 + offset) % 168
                curve[hour] += share * presence(local % 24, int(local // 24))
        return curve * 0.25

    def hour_effect(self, key: str, week_of: date) -> Array:
        """The truth: log effect of publishing at each hour of the UTC week, mean zero over the week: (168,)."""
        return self._hour_effect(HALF_LIFE_HOURS[self.accounts[key].network], self.activity(key, week_of).tobytes())

    @lru_cache(maxsize=256)  # noqa: B019
    def _hour_effect(self, half: float, activity: bytes) -> Array:
        curve = np.frombuffer(activity)
        steps = np.arange(24)
        weights = 0.5 ** (steps / half)
        ahead = np.array([(weights * curve[(h + steps) % 168]).sum() for h in range(168)]) / weights.sum()
        logs = 0.75 * np.log(ahead)
        return np.asarray(logs - logs.mean())

    def followers(self, key: str, day: date) -> int:
        """Followers at the end of a day."""
        return int(self._followers(key)[self._day(day)])

    def followers_moved(self, key: str, day: date) -> tuple[int, int]:
        """Followers gained and lost on a day."""
        gained, lost = self._moves(key)
        at = self._day(day)
        return int(gained[at]), int(lost[at])

    def _day(self, day: date) -> int:
        return min(max((day - self.begins).days, 0), HISTORY_DAYS + FUTURE_DAYS)

    @lru_cache(maxsize=256)  # noqa: B019
    def _moves(self, key: str) -> tuple[Array, Array]:
        account = self.accounts[key]
        rng = np.random.default_rng(seed_of(self.seed, "moves", key))
        days = HISTORY_DAYS + FUTURE_DAYS + 1
        churn = account.followers * 0.0011
        gained = rng.poisson(account.followers * account.daily_growth + churn, days).astype(float)
        lost = rng.poisson(churn, days).astype(float)
        if account.owner == "orrery" and not account.is_personal:
            gained[HISTORY_DAYS - SPIKE_DAYS_AGO : HISTORY_DAYS - SPIKE_DAYS_AGO + 3] += account.followers * np.array(
                [0.008, 0.005, 0.002]
            )
            lost[HISTORY_DAYS - CLUMSY_DAYS_AGO : HISTORY_DAYS - CLUMSY_DAYS_AGO + 2] += account.followers * np.array(
                [0.006, 0.003]
            )
        return np.round(gained), np.round(lost)

    @lru_cache(maxsize=256)  # noqa: B019
    def _followers(self, key: str) -> Array:
        gained, lost = self._moves(key)
        return np.asarray(self.accounts[key].followers + np.cumsum(gained - lost))

    # -- posts

    @cached_property
    def _posts(self) -> dict[str, list[WorldPost]]:
        return {
            key: sorted(self._make_posts(account), key=lambda p: p.published_at)
            for key, account in self.accounts.items()
        }

    def all_posts_of(self, key: str) -> list[WorldPost]:
        """Posts of an account, those still to come included, oldest first."""
        return self._posts[key]

    def add_bulk(self, key: str, count: int) -> None:
        """Give an account so many more posts in its past, evenly spread: for measuring, not for looking at."""
        account = self.accounts[key]
        rng = np.random.default_rng(seed_of(self.seed, "bulk", key, count))
        end = datetime.combine(self.anchor, time(), tzinfo=UTC)
        step = timedelta(days=HISTORY_DAYS) / max(1, count)
        kind = next(iter(account.formats))
        for i in range(count):
            post = WorldPost(
                id=f"bulk{key}{i}" if account.network != "brevi" else str(10**12 + i), account=key,
                published_at=(end - step * (i + 1)).replace(microsecond=0), format=kind, topic="visitors",
                text=f"Number {i} of many",
            )  # fmt: skip
            self._posts[key].append(replace(post, finals=self.finals(account, post, rng)))
        self._posts[key].sort(key=lambda p: p.published_at)

    def posts_of(self, key: str, until: datetime) -> list[WorldPost]:
        """Posts of an account that are out by an instant, oldest first."""
        return [post for post in self._posts[key] if post.published_at <= until]

    def _make_posts(self, account: Account) -> Iterator[WorldPost]:
        rng = np.random.default_rng(seed_of(self.seed, "posts", account.key))
        zone = ZoneInfo(account.home_zone)
        # Dakika's own brands post through Dakika from the anchor on; everybody else goes on by themselves.
        days = HISTORY_DAYS + (0 if account.owner else FUTURE_DAYS)
        number = 0
        for offset in range(days):
            day = self.begins + timedelta(days=offset)
            rate = account.posts_per_week / 7 * (1.15 if day.weekday() < 5 else 0.6)
            for _ in range(int(rng.poisson(rate))):
                number += 1
                yield self._make_post(account, rng, zone, day, number)

    def _make_post(
        self, account: Account, rng: np.random.Generator, zone: ZoneInfo, day: date, number: int
    ) -> WorldPost:
        hour = int(rng.choice(account.hours)) if rng.random() < 0.86 else int(rng.integers(7, 22))
        local = datetime.combine(day, time(hour, int(rng.integers(0, 60)), int(rng.integers(0, 60))), tzinfo=zone)
        at = local.astimezone(UTC)
        kinds = list(account.formats)
        kind = str(rng.choice(kinds, p=[account.formats[k] for k in kinds]))
        topics = list(TEXTS[account.subject])
        topic = str(rng.choice(topics))
        text = str(rng.choice(TEXTS[account.subject][topic])) + str(rng.choice(TAILS))
        language = "en"
        if account.owner and seed_of(self.seed, "language", account.key, number) % OTHER_LANGUAGE_IN == 0:
            language, texts = OTHER_TEXTS[account.subject]
            text = texts[topic]
        if rng.random() < 0.55:
            text += " " + HASHTAGS[account.subject][topic]
        days_ago = (self.anchor - day).days
        campaign, lift = self._campaign(account, rng, days_ago)
        if account.owner == "orrery" and days_ago == SPIKE_DAYS_AGO and account.handle == "orreryhouse" and hour < 14:
            campaign, lift, topic = "The Repaired Hour", 2.1, "opening"
            language = "en"
            text = "It strikes again. The Repaired Hour opens tonight, and the harbour clock with it. #nightopening"
        if account.owner == "orrery" and days_ago == CLUMSY_DAYS_AGO and account.handle == "orreryhouse":
            language = "en"
            text = "Rainy Sundays are for people without plans. Lucky us: you have none."
            lift, campaign = 0.6, ""
        post = WorldPost(
            id=self._identifier(account, at, number), account=account.key, published_at=at, format=kind, topic=topic,
            text=text, campaign=campaign, language=language,
            is_boosted=account.owner != "" and account.network in BOOSTING_NETWORKS
            and seed_of(self.seed, "boost", account.key, number) % BOOSTED_IN == 0,
        )  # fmt: skip
        return replace(post, finals=self.finals(account, post, rng, lift))

    def _campaign(self, account: Account, rng: np.random.Generator, days_ago: int) -> tuple[str, float]:
        for campaign in reversed(CAMPAIGNS):
            is_on = campaign.owner == account.owner and campaign.end_days_ago <= days_ago <= campaign.start_days_ago
            if is_on and rng.random() < campaign.share:
                return campaign.name, campaign.lift
        return "", 0.0

    def _identifier(self, account: Account, at: datetime, number: int) -> str:
        if account.network == "brevi" and number >= SENT_FROM:
            # Those that are sent are numbered: however many in a second, none is called as another.
            return str(int(at.timestamp()) * 1000 + number % 1000)
        if account.network == "brevi":
            return str(int(at.timestamp()) * 1000 + seed_of(account.key, number) % 1000)
        return f"p{seed_of(self.seed, account.key, number):x}"

    def finals(self, account: Account, post: WorldPost, rng: np.random.Generator, lift: float = 0.0) -> dict[str, int]:
        """What a post's counters grow towards: audience x hour x format x topic x trend x heavy-tailed luck."""
        day = post.published_at.date()
        monday_hours = post.published_at.weekday() * 24 + post.published_at.hour
        effect = self.hour_effect(account.key, day)[monday_hours]
        luck = rng.normal(0, 0.45) + (min(rng.exponential(1.2), MOST_LUCK) if rng.random() < 0.015 else 0.0)
        trend = 0.15 * ((day - self.begins).days / HISTORY_DAYS - 0.5)
        rules = RULES[account.network]
        size = self.followers(account.key, day) * rules.seen
        log = (
            effect
            + FORMAT_EFFECT[post.format]
            + TOPIC_EFFECT.get(post.topic, 0.0)
            + trend
            + lift
            + luck
            + BOOST * post.is_boosted
        )
        shown = size * account.strength * math.exp(log)
        warm = math.exp(rng.normal(0, 0.25))
        has_link = post.format == "link" or "http" in post.text or account.network in ("corkboard", "doorstep")
        by_metric = {
            "comments": warm * (2.5 if "?" in post.text else 1.0), "reactions": warm, "shares": warm, "saves": warm,
            "link_clicks": (1.0 if has_link else 0.06) * math.exp(rng.normal(0, 0.4)),
            "negative": 25 if CLUMSY_WORDS in post.text else 1,
        }  # fmt: skip
        expected = {"impressions": shown, "video_views": shown, "reach": shown * rng.uniform(0.72, 0.84)}
        expected |= {name: shown * share * by_metric.get(name, 1.0) for name, share in rules.shares.items()}
        wanted = {*rules.own, *rules.public}
        finals = {name: int(rng.poisson(mean)) for name, mean in expected.items() if name in wanted}
        # Chance of its own, so that nothing else of the world moves when a network tells more.
        luck_of_parts = np.random.default_rng(seed_of(self.seed, "parts", post.id))
        for name, (whole, part) in rules.parts.items():
            finals[name] = int(luck_of_parts.binomial(finals[whole], part))
        return finals

    def grown(self, network: str, age_hours: float) -> float:
        """Share of its final counters that a post has at an age: half after the network's half-life."""
        if age_hours <= 0:
            return 0.0
        return 1 - 2.0 ** (-((age_hours / HALF_LIFE_HOURS[network]) ** 0.75))

    def counters(self, post: WorldPost, at: datetime) -> dict[str, int]:
        """A post's counters at an instant."""
        network = self.accounts[post.account].network
        share = self.grown(network, (at - post.published_at).total_seconds() / 3600)
        return {name: round(final * share) for name, final in post.finals.items()}

    def age_when_grown(self, network: str, share: float) -> float:
        """Age in hours at which a post has a share of its final counters: the life curve read backwards."""
        return float(HALF_LIFE_HOURS[network] * (-math.log2(max(1e-9, 1 - share))) ** (1 / 0.75))

    def comments(self, post: WorldPost, at: datetime) -> list[WorldComment]:
        """Comments on a post at an instant, oldest first: as many as its counter says."""
        network = self.accounts[post.account].network
        final = post.finals.get("comments", 0)
        made = []
        for i in range(self.counters(post, at).get("comments", 0)):
            seed = seed_of(self.seed, "comment", post.id, i)
            age = min(self.age_when_grown(network, (i + 0.5) / max(1, final)), 24.0 * HISTORY_DAYS)
            made.append(
                WorldComment(
                    id=f"{post.id}-{i}",
                    author=NAMES[seed % len(NAMES)],
                    text=COMMENTS[seed // 97 % len(COMMENTS)],
                    at=post.published_at + timedelta(hours=age),
                )
            )
        return made

    def audience(self, key: str, day: date) -> dict[str, dict[str, float]]:
        """Make-up of a profile's audience on a day: dimension to segment to share, drifting slowly."""
        account = self.accounts[key]
        months = (day - self.begins).days / 30
        made = {}
        for dimension, base in audience_base(account.subject, account.network).items():
            weights = {
                segment: share * math.exp(0.02 * months * math.sin(seed_of(key, dimension, segment) % 628 / 100))
                for segment, share in base.items()
            }
            total = sum(weights.values())
            made[dimension] = {segment: round(weight / total, 4) for segment, weight in weights.items()}
        return made

    def published_here(
        self, key: str, *, text: str, at: datetime, format: str, number: int, identifier: str | None = None,
        share: float = 1.0,
    ) -> WorldPost:  # fmt: skip
        """A post that somebody published through an API: its fate comes from the same model.

        share: what part of the audience may see it.
        """
        account = self.accounts[key]
        at = at.replace(microsecond=0)
        rng = np.random.default_rng(seed_of(self.seed, "here", key, number))
        topic = next((t for t, tag in HASHTAGS[account.subject].items() if tag in text), "visitors")
        post = WorldPost(
            id=identifier or self._identifier(account, at, SENT_FROM + number), account=key, published_at=at,
            format=format, topic=topic, text=text,
        )  # fmt: skip
        finals = self.finals(account, post, rng)
        return replace(
            post, finals={name: round(final * share) for name, final in finals.items()} if share < 1 else finals
        )

    def share_of(self, key: str, countries: Sequence[str], day: date) -> float:
        """What part of an audience lives in some countries; all of it where none is named."""
        made = self.audience(key, day).get("country", {})
        return sum(made.get(country, 0.0) for country in set(countries)) if countries else 1.0
