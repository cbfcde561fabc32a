"""Promise: whatever is asked, the figures are those that a plain second reckoning from the raw readings gives.

The reckoning here shares no code with the application: loops over readings, interpolation written out.
"""

import math
import random
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise
from typing import Any

import pytest
from dakika_core.metrics.catalogue import CATALOGUE
from dakika_core.metrics.metric import OF_ONE_POST
from django.db import transaction
from scipy.interpolate import PchipInterpolator

from dakika_server.brands.models import Brand, Campaign
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.testing import make_profile
from dakika_server.results.models import PostTag, Tag
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts, take_profile_days
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
BEGIN = datetime(2026, 9, 20, tzinfo=UTC)
DAYS, POSTS = 50, 22
FIRST, LAST = date(2026, 10, 5), date(2026, 10, 30)  # Lisbon's clocks go back on 25 October
PERIOD = f"first={FIRST}&last={LAST}"
PARTS = ("reactions", "comments", "shares", "saves")
COUNTED = (*PARTS, "reach", "impressions", "link_clicks")
NETWORKS = ("commons", "brevi", "pictor")
# Ten half-lives (5 h, 45 min, 20 h), three days at least.
GROWS = {"commons": 72.0, "brevi": 72.0, "pictor": 200.0}
NAMED = (
    "followers", "net_followers", "gained_followers", "lost_followers", "follower_growth", "following", "posts_total",
    "posts", "posts_per_week", "daily_reach", "daily_impressions", "daily_profile_visits", "reach", "impressions",
    "interactions", "er_reach", "er_impressions", "clicks", "ctr", "tracked_clicks", "visits", "conversions",
    "visit_rate", "conversion_rate", "er_followers", "interactions_per_1000", "interactions_per_post", "index",
    "reactions", "comments", "shares", "saves", "applause", "conversation", "amplification", "save_rate", "share_rate",
    "reach_rate", "view_through", "completion", "watch_time",
)  # fmt: skip
METRICS = "interactions,reach,impressions,er_reach,er_impressions,ctr,net_followers,followers,posts"


@dataclass
class Made:
    """A post as it was given to the application."""

    network: str
    at: datetime
    format: str
    language: str
    is_boosted: bool | None
    campaign: int | None
    readings: list[tuple[datetime, dict[str, int]]]
    tags: set[str] = field(default_factory=set)
    pk: int = 0


@dataclass
class Told:
    """All that was given: posts, and days of followers by network."""

    posts: list[Made]
    days: dict[str, list[tuple[date, int, int, int]]]
    campaigns: list[int]
    tags: dict[str, int]


def draw_readings(rng: random.Random, at: datetime) -> list[tuple[datetime, dict[str, int]]]:
    """Some to many, at any age; counters grow, are now and then corrected, and not every network tells every one."""
    told = [name for name in COUNTED if rng.random() < 0.75] or ["reactions"]
    level = {name: rng.randint(50, 3000) for name in told}
    readings, age, grown = [], 0.0, dict.fromkeys(told, 0.0)
    for _ in range(rng.randint(0, 7)):
        age += rng.choice([0.4, 2, 6, 20, 50, 120]) * rng.uniform(0.6, 1.4)
        for name in told:
            grown[name] += level[name] * rng.uniform(-0.05 if rng.random() < 0.1 else 0.05, 0.5)
        seen = {name: max(0, round(grown[name])) for name in told if rng.random() < 0.9}
        if seen:
            readings.append(((at + timedelta(hours=age)).replace(microsecond=0), seen))
    return readings


@pytest.fixture(scope="module")
def brand(kept: None) -> Brand:
    return Brand.objects.create(name="Orrery House", slug="orrery-house", time_zone="Europe/Lisbon")


@pytest.fixture(scope="module", params=[1, 2, 3])
def told(request: pytest.FixtureRequest, brand: Brand) -> Iterator[Told]:
    """A small world, another one for each number, given to the application as a collection would."""
    with transaction.atomic():
        yield a_world(random.Random(request.param), brand)
        transaction.set_rollback(True)


def a_world(rng: random.Random, brand: Brand) -> Told:
    campaigns = [
        Campaign.objects.create(brand=brand, name=n, first_day=FIRST, last_day=LAST).pk for n in ("Night", "Hour")
    ]
    tags = {name: Tag.objects.create(brand=brand, name=name, colour=1).pk for name in ("clocks", "people")}
    posts, days = [], {}
    for network in NETWORKS:
        profile = make_profile(brand, network=network)
        mine = []
        for _ in range(POSTS):
            at = BEGIN + timedelta(seconds=rng.randrange(DAYS * 86_400))
            mine.append(
                Made(
                    network=network, at=at, format=rng.choice(["text", "image", "link"]),
                    language=rng.choice(["en", "pt"]), is_boosted=rng.choice([True, False, None]),
                    campaign=rng.choice([None, *campaigns]), readings=draw_readings(rng, at),
                )
            )  # fmt: skip
        give(profile, mine, rng, tags)
        days[network] = give_followers(profile, rng)
        measure_profile(profile)
        posts += mine
    return Told(posts=posts, days=days, campaigns=campaigns, tags=tags)


def give(profile: Profile, mine: list[Made], rng: random.Random, tags: dict[str, int]) -> None:
    take_posts(
        profile,
        [
            PostIn(
                external_id=str(i), published_at=post.at, format=post.format, text=f"Post {i}", url="",
                readings=[(at, seen, None) for at, seen in post.readings], language=post.language,
                is_boosted=post.is_boosted, campaign_id=post.campaign,
            )
            for i, post in enumerate(mine)
        ],
    )  # fmt: skip
    keys = dict(Post.objects.filter(profile=profile).values_list("external_id", "pk"))
    for i, post in enumerate(mine):
        post.pk = keys[str(i)]
        post.tags = {name for name in tags if rng.random() < 0.4}
        for name in post.tags:
            PostTag.objects.create(tag_id=tags[name], post_id=post.pk, is_off=False)
        for name in set(tags) - post.tags:
            if rng.random() < 0.3:  # taken off by hand: it does not count, and stays off
                PostTag.objects.create(tag_id=tags[name], post_id=post.pk, is_off=True)


def give_followers(profile: Profile, rng: random.Random) -> list[tuple[date, int, int, int]]:
    total, rows = rng.randint(500, 5000), []
    for n in range(DAYS):
        came, went = rng.randint(0, 40), rng.randint(0, 20)
        total += came - went
        rows.append(((BEGIN + timedelta(days=n)).date(), total, came, went))
    take_profile_days(profile, rows, taken_at=clock.now())
    return rows


# -- the second reckoning


def on_curve(points: list[tuple[float, float]], hours: float) -> float:
    """On the monotone cubic over log(1 + age) through the points; of two at one age the later counts."""
    at = dict(points)
    if len(at) == 1 or hours >= points[-1][0]:
        return points[-1][1]
    return float(PchipInterpolator([math.log1p(age) for age in at], list(at.values()))(math.log1p(hours)))


def grown_to(post: Made, name: str, hours: float) -> float | None:
    """A counter at an age: from zero at the start through the readings."""
    known = [((at - post.at).total_seconds() / 3600, seen[name]) for at, seen in post.readings if name in seen]
    return on_curve([(0.0, 0.0), *known], hours) if known else None


def counted_by(post: Made, name: str, hours: float) -> float | None:
    """A counter at the end of a day, for what was gained on days.

    As above, but a first reading later than four days says nothing of the days before: all of it
    counts from the start. Later ones that lie further apart than four days and than two and a half
    times the age are reached within the hours in which posts of the network grow.
    """
    known = [((at - post.at).total_seconds() / 3600, seen[name]) for at, seen in post.readings if name in seen]
    if not known:
        return None
    points = [(0.0, 0.0) if known[0][0] <= 96 else (0.0, known[0][1]), known[0]]
    for (a, _), (b, high) in pairwise(known):
        if b - a > 96 and b > 2.5 * a:
            points.append((min(b, a + GROWS[post.network]), high))
        points.append((b, high))
    return on_curve(points, hours)


def gains(post: Made, brand: Brand) -> dict[date, dict[str, float]]:
    """What a post gained by day of the brand's clocks, up to the day of its last reading."""
    found: dict[date, dict[str, float]] = defaultdict(dict)
    if not post.readings:
        return found
    last = post.readings[-1][0].astimezone(brand.zone).date()
    day, before = post.at.astimezone(brand.zone).date(), dict.fromkeys(COUNTED, 0.0)
    while day <= last:
        midnight = datetime.combine(day + timedelta(days=1), datetime.min.time(), tzinfo=brand.zone).astimezone(UTC)
        hours = (midnight - post.at).total_seconds() / 3600
        for name in COUNTED:
            value = counted_by(post, name, hours)
            if value is not None:
                found[day][name] = value - before[name]
                before[name] = value
        parts = [found[day][name] for name in PARTS if name in found[day]]
        if parts:
            found[day]["interactions"] = sum(parts)
        day += timedelta(days=1)
    return found


def received(posts: list[Made], brand: Brand, first: date, last: date) -> dict[str, float | None]:
    """Sums over the period, and rates as ratios of sums over what has both."""
    sums: dict[str, float] = {}
    for post in posts:
        for day, of_day in gains(post, brand).items():
            if not first <= day <= last:
                continue
            for name, value in of_day.items():
                sums[name] = sums.get(name, 0.0) + value
            for above, below in (
                ("interactions", "reach"),
                ("interactions", "impressions"),
                ("link_clicks", "impressions"),
            ):
                if above in of_day and below in of_day:
                    for name, other in ((above, below), (below, above)):
                        key = f"{name} with {other}"
                        sums[key] = sums.get(key, 0.0) + of_day[name]

    def rate(above: str, below: str) -> float | None:
        over = sums.get(f"{below} with {above}")
        return sums[f"{above} with {below}"] / over if over else None

    return {
        "interactions": sums.get("interactions"), "reach": sums.get("reach"), "impressions": sums.get("impressions"),
        "er_reach": rate("interactions", "reach"), "er_impressions": rate("interactions", "impressions"),
        "ctr": rate("link_clicks", "impressions"),
    }  # fmt: skip


def near(told: float | None, own: float | None, tolerance: float) -> bool:
    if told is None or own is None:
        return told is None and own is None
    return math.isclose(told, own, rel_tol=2e-3, abs_tol=tolerance)


QUESTIONS: dict[str, Any] = {
    "": lambda p, t: True,
    "network=brevi": lambda p, t: p.network == "brevi",
    "format=image": lambda p, t: p.format == "image",
    "format=link&network=pictor": lambda p, t: (p.format, p.network) == ("link", "pictor"),
    "language=pt": lambda p, t: p.language == "pt",
    "boosted=yes": lambda p, t: p.is_boosted is True,
    "boosted=no": lambda p, t: p.is_boosted is not True,
    "campaign={0}": lambda p, t: p.campaign == t.campaigns[0],
    "tag={clocks}": lambda p, t: "clocks" in p.tags,
    "tag={people}&language=en&boosted=no": lambda p, t: "people" in p.tags and p.language == "en" and not p.is_boosted,
    "campaign={1}&format=text": lambda p, t: (p.campaign, p.format) == (t.campaigns[1], "text"),
}


def filled(question: str, told: Told) -> str:
    return question.format(*told.campaigns, **told.tags)


def test_sums_and_rates_of_any_question(told: Told, brand: Brand, client: Any) -> None:
    before_first = FIRST - (LAST - FIRST) - timedelta(days=1)
    for question, takes in QUESTIONS.items():
        answer = client.get(f"{BASE}/summary?{PERIOD}&{filled(question, told)}&metrics={METRICS}").json()
        posts = [post for post in told.posts if takes(post, told)]
        for side, first, last in (("now", FIRST, LAST), ("before", before_first, FIRST - timedelta(days=1))):
            own = received(posts, brand, first, last)
            for metric in answer["metrics"]:
                if metric["key"] in own:
                    # Gains below a twentieth are not kept by day; there are some hundred days of posts.
                    tolerance = 0.003 if metric["unit"] == "rate" else 4.0
                    value = metric[side]["value"]
                    assert near(value, own[metric["key"]], tolerance), (question, metric["key"], side)


def test_days_and_networks_add_up_to_the_figure(told: Told, client: Any) -> None:
    for metric in client.get(f"{BASE}/summary?{PERIOD}&metrics=interactions,reach,posts,net_followers").json()[
        "metrics"
    ]:
        total = metric["now"]["value"]
        assert math.fsum(v or 0 for v in metric["days"]) == pytest.approx(total, abs=0.01)
        if metric["networks"]:
            assert math.fsum(part["value"] or 0 for part in metric["networks"]) == pytest.approx(total, abs=0.01)


def test_what_made_the_difference_adds_up_for_every_figure_and_question(told: Told, brand: Brand, client: Any) -> None:
    told_of = 0
    named = [metric for metric in CATALOGUE.values() if metric.key in NAMED]
    others = [metric for metric in CATALOGUE.values() if metric.key not in NAMED and metric.of is None]
    # The others are made alike: each world takes some of them.
    metrics = [*named, *(m for m in others[len(told.posts[0].readings) :: 9] if m.way not in OF_ONE_POST)]
    questions = ("", "network=brevi", "format=image", "tag={clocks}", "boosted=no")
    for place, metric in enumerate(metrics):
        # Each metric of all posts, and of one of the other questions.
        for question in ("", questions[1 + place % 4]):
            query = f"{PERIOD}&{filled(question, told)}&age=72"
            found = client.get(f"{BASE}/decomposition?{query}&metric={metric.key}").json()
            (figure,) = client.get(f"{BASE}/summary?{query}&metrics={metric.key}").json()["metrics"]
            if found["reason"]:
                # Nothing stands on one side: no figure, or a count of no posts at all.
                assert {figure["now"]["value"], figure["before"]["value"]} & {None, 0}, (metric.key, question)
                continue
            told_of += 1
            change = figure["change"]["difference"]
            assert found["change"] == pytest.approx(change, rel=1e-3, abs=1e-3), (metric.key, question)
            assert math.fsum(i["contribution"] for i in found["items"]) + found["rest_contribution"] == pytest.approx(
                found["change"], abs=1e-6
            ), (metric.key, question)
            for groups in ("networks", "formats", "factors"):
                if found[groups]:
                    total = math.fsum(group["contribution"] for group in found[groups])
                    assert total == pytest.approx(found["change"], abs=1e-6), (metric.key, question, groups)
    assert told_of > 30


def test_a_posts_part_is_what_it_gained_less_what_it_gained_before(told: Told, brand: Brand, client: Any) -> None:
    found = client.get(f"{BASE}/decomposition?{PERIOD}&metric=interactions").json()
    own = {post.pk: gains(post, brand) for post in told.posts}
    before = FIRST - (LAST - FIRST) - timedelta(days=1)
    for item in found["items"]:
        days = {day: gained.get("interactions", 0.0) for day, gained in own[item["id"]].items()}
        now = math.fsum(v for day, v in days.items() if FIRST <= day <= LAST)
        then = math.fsum(v for day, v in days.items() if before <= day < FIRST)
        assert item["contribution"] == pytest.approx(now - then, abs=0.2)
    largest = [abs(item["contribution"]) for item in found["items"]]
    assert largest == sorted(largest, reverse=True)
    # Posts that tell nothing of it are not among those that are counted, and it is said how many there are.
    number = {f["key"]: (f["now"], f["before"]) for f in found["factors"]}["number"]
    days_of = [post.at.astimezone(brand.zone).date() for post in told.posts]
    every = sum(FIRST <= d <= LAST for d in days_of), sum(before <= d < FIRST for d in days_of)
    for counted, posts, words in zip(number, every, ("of these days", "of the comparison"), strict=True):
        assert counted <= posts
        silent = f"{int(posts - counted)} post"
        assert (silent in found["note"] and words in found["note"]) or posts == counted


def test_followers_and_posts(told: Told, brand: Brand, client: Any) -> None:
    for network in ("", *NETWORKS):
        query = f"{PERIOD}&metrics=followers,net_followers,posts" + (f"&network={network}" if network else "")
        found = {m["key"]: m["now"]["value"] for m in client.get(f"{BASE}/summary?{query}").json()["metrics"]}
        days = {n: rows for n, rows in told.days.items() if network in ("", n)}
        assert found["followers"] == sum({r[0]: r[1] for r in rows}[LAST] for rows in days.values())
        assert found["net_followers"] == sum(
            r[2] - r[3] for rows in days.values() for r in rows if FIRST <= r[0] <= LAST
        )
        out = [
            p for p in told.posts if network in ("", p.network) and FIRST <= p.at.astimezone(brand.zone).date() <= LAST
        ]
        assert found["posts"] == len(out)


def at_age(post: Made, hours: float) -> dict[str, float]:
    """Counters at an age that the readings reach, and where the first of them came soon enough to know."""
    found = {}
    for name in COUNTED:
        ages = [(at - post.at).total_seconds() / 3600 for at, seen in post.readings if name in seen]
        if ages and ages[-1] >= hours and (ages[0] <= 2 * hours):
            value = grown_to(post, name, hours)
            assert value is not None
            found[name] = value
    parts = [found[name] for name in PARTS if name in found]
    if parts:
        found["interactions"] = sum(parts)
    return found


@pytest.mark.parametrize("age", [24, 72, 168])
def test_every_post_at_equal_age(age: int, told: Told, brand: Brand, client: Any) -> None:
    page = client.get(f"{BASE}/posts?{PERIOD}&age={age}&columns=reach,er_reach&limit=200").json()
    shown = {row["id"]: row for row in page["posts"]}
    out = [p for p in told.posts if FIRST <= p.at.astimezone(brand.zone).date() <= LAST]
    assert set(shown) == {p.pk for p in out}
    for post in out:
        own, row = at_age(post, age), shown[post.pk]
        if row["present_hours"] is not None:
            # Not known at the age: what is shown instead is marked, and is what was last read.
            assert "interactions" not in own
            last = {name: count for _, seen in post.readings for name, count in seen.items()}
            assert row["interactions"] == sum(last[name] for name in PARTS if name in last)
            continue
        assert near(row["interactions"], own.get("interactions"), 0.01)
        assert near(row["values"].get("reach"), own.get("reach"), 0.01)
        rate = own["interactions"] / own["reach"] if own.get("reach") and "interactions" in own else None
        assert near(row["values"].get("er_reach"), rate, 1e-6)


@pytest.mark.parametrize("metric", ["interactions", "reach", "er_reach"])
@pytest.mark.parametrize("sign", ["", "-"])
def test_any_order_is_the_one_of_the_figures_with_the_unknown_last(
    metric: str, sign: str, told: Told, client: Any
) -> None:
    rows = client.get(f"{BASE}/posts?{PERIOD}&age=72&sort={sign}{metric}&columns=reach,er_reach&limit=200").json()[
        "posts"
    ]
    # What is shown of posts that are not known at the age is marked, and takes no part in the order.
    values = [
        None if row["present_hours"] is not None
        else row["interactions"] if metric == "interactions" else row["values"].get(metric)
        for row in rows
    ]  # fmt: skip
    known = [value for value in values if value is not None]
    assert values == sorted(known, reverse=sign == "-") + [None] * (len(values) - len(known))
    assert len({row["id"] for row in rows}) == len(rows)


@pytest.mark.parametrize("young", ["after", "among"])
@pytest.mark.parametrize(
    "sort",
    [
        "interactions",
        "-reach",
        "er_reach",
        "-index",
        "published_at",
        "-format",
        "profile",
        "-campaign",
        "language",
        "x",
    ],
)
def test_part_by_part_each_post_stands_in_one_place(sort: str, young: str, told: Told, client: Any) -> None:
    asked = f"{BASE}/posts?{PERIOD}&age=72&sort={sort}&young={young}"
    whole = [row["id"] for row in client.get(f"{asked}&limit=500").json()["posts"]]
    parts, cursor = [], ""
    while cursor is not None:
        part = client.get(f"{asked}&limit=20&cursor={cursor}" if cursor else f"{asked}&limit=20").json()
        parts += [row["id"] for row in part["posts"]]
        cursor = part["next"]
    assert parts == whole
    assert len(parts) == len(set(parts)) == part["total"]


@pytest.mark.parametrize("by", ["network", "format", "campaign", "tag"])
def test_totals_of_groups_are_their_posts_own(by: str, told: Told, brand: Brand, client: Any) -> None:
    answer = client.get(f"{BASE}/posts/totals?{PERIOD}&age=72&by={by}&columns=interactions,reach,er_reach").json()
    out = [p for p in told.posts if FIRST <= p.at.astimezone(brand.zone).date() <= LAST]
    belongs: dict[str, Any] = {
        "network": lambda p: {p.network}, "format": lambda p: {p.format},
        "campaign": lambda p: {str(p.campaign)} if p.campaign else set(),
        "tag": lambda p: {str(told.tags[name]) for name in p.tags},
    }  # fmt: skip
    groups: dict[str, list[Made]] = defaultdict(list)
    for post in out:
        for key in belongs[by](post):
            groups[key].append(post)
    shown = {row["key"]: row for row in [*answer["groups"], answer["whole"] | {"key": "whole"}]}
    for key, posts in [*groups.items(), ("whole", out)]:
        at_72 = [at_age(post, 72) for post in posts]
        both = [v for v in at_72 if "interactions" in v and "reach" in v]
        row = shown[key]
        assert row["posts"] == len(posts)
        assert near(row["values"].get("interactions"), _sum(at_72, "interactions"), 0.01)
        assert near(row["values"].get("reach"), _sum(at_72, "reach"), 0.01)
        reach = math.fsum(v["reach"] for v in both)
        rate = math.fsum(v["interactions"] for v in both) / reach if reach else None
        assert near(row["values"].get("er_reach"), rate, 1e-6)


def _sum(rows: list[dict[str, float]], name: str) -> float | None:
    known = [row[name] for row in rows if name in row]
    return math.fsum(known) if known else None
