"""Promise: outstanding posts are those of the posts themselves; how few brought half is counted, and all of it opens."""

from typing import Any
from urllib.parse import parse_qsl

import numpy as np
import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from dakika_server.brands.models import Brand, Campaign
from dakika_server.measures.models import PostMeasure
from dakika_server.measures.testing import QUERY, fill, make_profile
from dakika_server.results.models import Finding
from dakika_server.sources.models import Post

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/figures"
ASKED = dict(parse_qsl(QUERY))
LOUD = ("Moonrise over the river", "The Repaired Hour begins")


@pytest.fixture
def posts(brand: Brand) -> None:
    """Forty posts of which two got as much as all others together; the first two are of one campaign."""
    rng = np.random.default_rng(3)

    def made(i: int) -> dict[str, Any]:
        few = int(rng.integers(5, 30))
        return {"counts": {"reactions": 400 if i < 2 else few, "comments": 2, "reach": 3000},
                "text": LOUD[i] if i < 2 else "Good evening" if i < 5 else f"Star number {i}"}  # fmt: skip

    fill(make_profile(brand, "commons", "Orrery House"), 40, made)


def cells(client: Any, kind: str, **asked: str) -> tuple[dict[str, Any], dict[str, Any]]:
    told = client.get(f"{BASE}/{kind}", {**ASKED, **asked}).json()
    return {cell["key"]: cell for cell in told["cells"]}, told


def reckoned() -> tuple[int, int, float]:
    """The fewest posts with half of the interactions, reckoned without the database."""
    values = np.sort([float(v) for v in PostMeasure.objects.filter(age_hours=72, interactions__isnull=False)
                      .values_list("interactions", flat=True)])[::-1]  # fmt: skip
    return int(np.searchsorted(np.cumsum(values), values.sum() / 2) + 1), len(values), float(values.sum())


def test_how_few_posts_brought_half_is_counted(client: Any, brand: Brand, posts: None) -> None:
    found, _ = cells(client, "results.top")
    fewest, many, whole = reckoned()
    assert [found[key]["now"]["value"] for key in ("half", "posts", "total")] == [fewest, many, whole]
    assert found["half"]["column"] == ""
    campaign = Campaign.objects.create(
        brand=brand, name="The Repaired Hour", first_day="2026-01-01", last_day="2026-12-31"
    )
    Post.objects.filter(text__in=LOUD).update(campaign=campaign)
    found, _ = cells(client, "results.top")
    shared = "The Repaired Hour" if fewest == len(LOUD) else ""
    assert found["half"]["column"] == shared
    # Averages are no sum: nothing is said of their half. Nor is it of nine posts.
    assert "half" not in cells(client, "results.top", metric="er_reach")[0]
    assert "half" not in cells(client, "results.top", end="bottom")[0]


def test_each_post_is_a_row_of_its_own_however_alike_their_words(client: Any, posts: None) -> None:
    found, told = cells(client, "results.top", limit="24", metric="reach")
    rows = [row["row"] for row in told["rows"]]
    assert len(rows) == len({*rows}) == 24
    assert {cell["row"] for cell in found.values()} - {""} == {*rows}
    best = cells(client, "results.top", limit="2")[1]["rows"]
    assert {row["text"] for row in best} == {*LOUD}
    assert all(row["path"].startswith("results/posts/") and len(row["at"]) == 16 for row in best)


def test_another_brands_post_and_what_is_no_post_open_nothing(client: Any, posts: None) -> None:
    other = Brand.objects.create(name="Half Moon", slug="half-moon", time_zone="UTC")
    fill(make_profile(other, "brevi", "Half Moon"), 3, lambda i: {"counts": {"reactions": 1}, "text": "x"})
    theirs = Post.objects.get(brand=other, text="x", pk=Post.objects.filter(brand=other).earliest("pk").pk)
    for cell in (f"{theirs.pk}.interactions", "x.interactions", "-1.interactions", "9" * 30 + ".interactions",
                 "1.reach", "total.", "\x00.index"):  # fmt: skip
        answer = client.get(f"{BASE}/results.top/basis", {**ASKED, "cell": cell})
        assert answer.status_code == 400, cell
    assert client.get(f"{BASE}/results.top?{QUERY}&metric=followers").status_code == 400
    assert client.get(f"{BASE}/results.top?{QUERY}&limit=25").status_code == 400


def test_more_posts_cost_no_more_queries(client: Any, posts: None) -> None:
    asked = []
    for limit in ("2", "24"):
        with CaptureQueriesContext(
            connection,
        ) as captured:
            cells(client, "results.top", limit=limit)
        asked.append(len(captured))
    assert asked[0] == asked[1]


def finding(brand: Brand, key: str, kind: str, evidence: dict[str, Any], **more: Any) -> Finding:
    now = timezone.now()
    return Finding.objects.create(
        brand=brand, key=key, kind=kind, evidence=evidence, first_found_at=now, found_at=now,
        **{"weight": 1.0, "text": f"About {key}", **more},
    )  # fmt: skip


def test_findings_are_told_in_their_order_without_those_put_aside(client: Any, brand: Brand) -> None:
    ratio = {"by": "tag", "name": "Moon", "ratio": 1.8, "low": 1.4, "high": 2.3, "n": 22}
    finding(brand, "group:tag:Moon", "group", ratio, weight=0.5)
    finding(
        brand, "spike:2026-10-04", "spike", {"metric": "Reach", "day": "2026-10-04", "value": 900.0, "level": 200.0}
    )
    finding(brand, "hole:1", "hole", {}, state="pinned", weight=0.1)
    finding(brand, "group:tag:Sun", "group", ratio, state="dismissed", weight=9.0)
    finding(brand, "group:tag:Old", "group", ratio, is_current=False, weight=9.0)
    found, told = cells(client, "results.findings")
    assert [row["text"] for row in told["rows"]] == ["About hole:1", "About spike:2026-10-04", "About group:tag:Moon"]
    by_row = {cell["row"]: cell for cell in found.values()}
    assert by_row["About group:tag:Moon"]["name"] == "Posts tagged Moon"
    assert by_row["About group:tag:Moon"]["now"]["interval"]["high"] == 2.3
    assert by_row["About spike:2026-10-04"]["before"]["value"] == 200
    assert len(cells(client, "results.findings", limit="1")[1]["rows"]) == 1
    # One that is pinned from before has no number any more: it may hold no longer.
    finding(brand, "group:tag:Comet", "group", ratio, state="pinned", is_current=False, text="Comets did well")
    found, told = cells(client, "results.findings")
    (old,) = [row for row in told["rows"] if row["text"] == "Comets did well"]
    assert old["detail"].startswith("Last found on ")
    assert "Comets did well" not in {cell["row"] for cell in found.values()}
    # What files hold of them is no formula.
    finding(brand, "group:tag:=1+1", "group", ratio, text="=HYPERLINK(1)", weight=7.0)
    file = client.get(f"{BASE}/results.findings/table?{QUERY}&form=csv")
    assert "\n=HYPERLINK" not in b"".join(file.streaming_content).decode()
