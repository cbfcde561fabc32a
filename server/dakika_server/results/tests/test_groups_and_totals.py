"""Promise: groups, totals and rankings are those of the posts themselves, in a fixed number of queries."""

from typing import Any

import numpy as np
import pytest
from dakika_core.metrics.catalogue import POST_UNITS
from dakika_core.metrics.formula import evaluate, read_formula
from dakika_core.results.groups import compare_groups, indicators
from django.db import connection
from django.test.utils import CaptureQueriesContext

from dakika_server.brands.models import Brand
from dakika_server.measures.models import PostMeasure
from dakika_server.measures.testing import QUERY, fill, make_profile
from dakika_server.sources.models import Post

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
JSON = {"content_type": "application/json"}


@pytest.fixture(scope="module")
def brand(kept: None) -> Brand:
    return Brand.objects.create(name="Orrery House", slug="orrery-house", time_zone="Europe/Lisbon")


@pytest.fixture(scope="module")
def two_profiles(brand: Brand) -> None:
    rng = np.random.default_rng(7)
    for number, network in enumerate(("commons", "brevi")):
        kinds = rng.choice(["text", "image", "link"], 90)

        def made(i: int, kinds: Any = kinds, number: int = number, network: str = network) -> dict[str, Any]:
            lift = 1.8 if kinds[i] == "image" else 1.0
            counts = {"reactions": int(40 * (1 + number) * lift * rng.lognormal(0, 0.4)) + 1, "comments": 1}
            if network == "commons":
                counts |= {"reach": 900 + i, "impressions": 1500}
            return {"counts": counts, "format": str(kinds[i]), "text": "#Sky tonight" if i % 4 == 0 else "x" * (40 + 3 * i),
                    "language": "pt" if i % 5 == 0 else "en", "is_boosted": i % 9 == 0}  # fmt: skip

        fill(make_profile(brand, network, network), 90, made)


def test_groups_are_those_of_the_core_on_the_posts_themselves(client: Any, two_profiles: None) -> None:
    """The sums by cell that the database makes give what the core makes of every single post."""
    rows = list(
        PostMeasure.objects.filter(age_hours=72, profile_index__gt=0).values_list(
            "profile_index", "profile_id", "post__format", "post__language", "post__is_boosted"
        )
    )
    index = np.array([row[0] for row in rows])
    formats, languages = [row[2] for row in rows], [row[3] for row in rows]
    profiles = indicators([str(row[1]) for row in rows])
    cases = {
        "format": (formats, profiles),
        "language": (languages, np.column_stack([profiles, indicators(formats)])),
        "boosted": (
            ["boosted" if row[4] else "not boosted" for row in rows],
            np.column_stack([profiles, indicators(formats)]),
        ),
    }  # fmt: skip
    for by, (values, controls) in cases.items():
        expected = {r.name: r for r in compare_groups(index, {v: np.array(values) == v for v in set(values)}, controls)}
        said = {g["name"]: g for g in client.get(f"{BASE}/groups?{QUERY}&by={by}").json()["groups"]}
        assert set(said) == set(expected)
        for name, group in said.items():
            wanted = expected[name]
            assert (group["n"], group["verdict"]) == (wanted.n, wanted.verdict)
            assert group["index"] == pytest.approx(wanted.index)
            for kind in ("raw", "adjusted"):
                ratio = getattr(wanted, kind)
                assert group[kind]["value"] == pytest.approx(ratio.value)
                assert group[kind]["interval"]["low"] == pytest.approx(ratio.interval.low)
                assert group[kind]["p"] == pytest.approx(ratio.p, abs=1e-9)


def test_what_does_better_is_found(client: Any, two_profiles: None) -> None:
    groups = {g["name"]: g for g in client.get(f"{BASE}/groups?{QUERY}&by=format").json()["groups"]}
    assert groups["image"]["verdict"] == "better"
    assert groups["image"]["adjusted"]["interval"]["low"] < 1.8 < groups["image"]["adjusted"]["interval"]["high"]


@pytest.mark.parametrize(
    ("by", "names"),
    [
        ("hashtag", {"#sky"}),
        ("weekday", {"Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"}),
        ("length", {"up to 80", "81 to 160", "161 to 280", "longer than 280"}),
        ("campaign", {"in no campaign"}),
        ("tag", set()),
    ],
)
def test_every_grouping_answers(client: Any, two_profiles: None, by: str, names: set[str]) -> None:
    said = client.get(f"{BASE}/groups?{QUERY}&by={by}").json()
    assert {g["name"] for g in said["groups"]} == names
    assert said["posts"] == 180


def test_another_metric_is_held_against_the_profiles_own_level(client: Any, two_profiles: None) -> None:
    said = client.get(f"{BASE}/groups?{QUERY}&by=format&metric=reactions").json()
    image = next(g for g in said["groups"] if g["name"] == "image")
    assert image["raw"]["value"] == pytest.approx(1.8, rel=0.2)
    # What the ratio is of, in the metric's own unit: by hand, each post from its profile's level and back to the middle.
    posts = PostMeasure.objects.filter(age_hours=72, reactions__gt=0).values_list("profile_id", "format", "reactions")
    logs = {profile: np.log([r for p, _, r in posts if p == profile]) for profile in {row[0] for row in posts}}
    means = {profile: values.mean() for profile, values in logs.items()}
    middle = np.mean([means[profile] for profile, _, _ in posts])
    for name, is_in in (("typical", True), ("others", False)):
        own = [np.log(r) - means[p] for p, kind, r in posts if (kind == "image") is is_in]
        assert image[name] == pytest.approx(np.exp(np.mean(own) + middle))
    assert image["typical"] / image["others"] == pytest.approx(image["raw"]["value"])
    reach = client.get(f"{BASE}/groups?{QUERY}&by=format&metric=er_reach").json()
    assert reach["left_out"] == 90  # Brevi reports no reach
    assert client.get(f"{BASE}/groups?{QUERY}&by=format&metric=followers").status_code == 400


def test_totals_go_by_each_metrics_own_rule(client: Any, two_profiles: None) -> None:
    columns = "interactions,er_reach,index,applause"
    said = client.get(f"{BASE}/posts/totals?{QUERY}&columns={columns}&by=network").json()
    rows = list(PostMeasure.objects.filter(age_hours=72).values_list("interactions", "reach", "index", "reactions"))
    table = np.array(rows, dtype=float)
    both = ~np.isnan(table[:, 1])
    whole = said["whole"]
    assert whole["posts"] == 180
    assert whole["values"]["interactions"] == pytest.approx(np.nansum(table[:, 0]))
    assert whole["values"]["er_reach"] == pytest.approx(table[both, 0].sum() / table[both, 1].sum())
    assert whole["n"]["er_reach"] == 90
    assert whole["values"]["applause"] == pytest.approx(np.nanmean(table[:, 3]))
    known = table[:, 2] > 0
    assert whole["values"]["index"] == pytest.approx(np.exp(np.log(table[known, 2]).mean()))
    groups = {g["name"]: g for g in said["groups"]}
    assert groups["Brevi"]["values"]["er_reach"] is None
    assert groups["Commons"]["values"]["er_reach"] == pytest.approx(whole["values"]["er_reach"])
    assert sum(g["values"]["interactions"] for g in said["groups"]) == pytest.approx(whole["values"]["interactions"])


@pytest.mark.parametrize("by", ["format", "network", "profile", "campaign", "language", "weekday", "tag"])
def test_the_posts_of_groups_are_those_of_the_whole(client: Any, two_profiles: None, by: str) -> None:
    numbers = list(Post.objects.values_list("pk", flat=True)[:30])
    client.post(f"{BASE}/posts/tags", {"posts": numbers, "add": ["one"]}, **JSON)
    said = client.get(f"{BASE}/posts/totals?{QUERY}&columns=reactions&by={by}").json()
    assert sum(g["posts"] for g in said["groups"]) == (30 if by == "tag" else 180)


@pytest.mark.parametrize(
    ("narrow", "posts"),
    [("language=pt", 36), ("boosted=yes", 20), ("boosted=no", 160), ("network=brevi", 90), ("language=xx", 0)],
)
def test_every_filter_narrows_table_and_figures_alike(client: Any, two_profiles: None, narrow: str, posts: int) -> None:
    assert client.get(f"{BASE}/posts?{QUERY}&{narrow}").json()["total"] == posts
    metrics = client.get(f"{BASE}/summary?{QUERY}&{narrow}&metrics=posts,interactions,reactions").json()["metrics"]
    found = {m["key"]: m["now"] for m in metrics}
    assert found["posts"]["value"] == posts
    table = client.get(f"{BASE}/posts/totals?{QUERY}&{narrow}&columns=reactions").json()["whole"]
    assert table["values"]["reactions"] == (found["reactions"]["value"] and pytest.approx(found["reactions"]["value"]))


def test_the_table_asks_a_fixed_number_of_questions(client: Any, two_profiles: None) -> None:
    client.post(
        f"{BASE}/posts/tags", {"posts": list(Post.objects.values_list("pk", flat=True)), "add": ["a", "b"]}, **JSON
    )
    counts = []
    for limit in (5, 150):
        with CaptureQueriesContext(connection) as caught:
            client.get(f"{BASE}/posts?{QUERY}&limit={limit}&columns=interactions,er_reach,index&sort=-er_reach")
        counts.append(len(caught))
    assert counts[0] == counts[1]
    assert counts[0] <= 14


@pytest.mark.parametrize(
    "formula",
    ["comments + 2 * shares", "interactions / reach", "max(shares, comments) / reach", "min(shares, comments, 3)",
     "abs(shares - reactions)", "-comments + reactions", "reactions / (comments - comments)",
     "1000 * interactions / max(followers, 1)", "reactions / posts"],
)  # fmt: skip
def test_the_database_reckons_a_formula_as_the_core_does(client: Any, two_profiles: None, formula: str) -> None:
    """Post by post, with what is missing and what is divided by zero: Brevi's posts have no reach, none has shares."""
    key = client.post(f"{BASE}/metrics", {"name": "Tried", "formula": formula}, **JSON).json()["key"]
    rows = client.get(f"{BASE}/posts?{QUERY}&columns={key}&sort={key}&limit=200").json()["posts"]
    tree = read_formula(formula, POST_UNITS)
    measured = {m["post_id"]: m for m in PostMeasure.objects.filter(age_hours=72).values()}
    known = [row["values"][key] for row in rows if row["values"][key] is not None]
    assert known == sorted(known)
    for row in rows:
        measure = {**measured[row["id"]], "posts": 1.0}
        values = {n: np.array(np.nan if measure[n] is None else measure[n], dtype=float) for n in tree.names}
        wanted = float(evaluate(tree.tree, values))
        assert row["values"][key] == (None if wanted != wanted else pytest.approx(wanted)), row["network"]


@pytest.mark.parametrize(
    "path",
    ["summary?tag=99999999999999999999", "posts?campaign=-1", "summary?language=PORTUGUESE", "summary?boosted=perhaps",
     "posts?text=%00", "groups?by=nonsense", "posts/totals?by=nonsense", "summary?format=poem", "summary?tag=1,x",
     "summary?network=!", "summary?profile=3,-4",
     "spikes/behind?metric=reach&day=0000-00-00", "spikes?metric=nonsense", "summary?first=2026-10-30&last=2026-10-01"],
)  # fmt: skip
def test_what_makes_no_sense_is_refused_in_words(client: Any, two_profiles: None, path: str) -> None:
    answer = client.get(f"{BASE}/{path}")
    assert answer.status_code == 400
    assert answer.json()["detail"]


@pytest.mark.parametrize("path", ["summary?tag=987654", "posts?tag=987654", "groups?by=tag&campaign=987654"])
def test_what_is_somebody_elses_or_gone_finds_nothing(client: Any, two_profiles: None, path: str) -> None:
    assert client.get(f"{BASE}/{path}").status_code == 200
    assert client.get(f"{BASE}/posts?{QUERY}&tag=987654").json()["total"] == 0
