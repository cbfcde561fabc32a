"""Promise: few posts prove nothing, and posts without any reaction break nothing."""

from typing import Any

import pytest

from dakika_server.measures.testing import QUERY, fill, make_profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"


def test_a_rate_of_few_tops_nothing(client: Any, brand: Any) -> None:
    def made(i: int) -> dict[str, Any]:
        counts = {"reactions": 5, "reach": 6} if i == 0 else {"reactions": 60 + 2 * i, "reach": 1000}
        return {"counts": counts}

    fill(make_profile(brand), 40, made)
    said = client.get(f"{BASE}/posts/top?{QUERY}&metric=er_reach&limit=5").json()
    assert said["is_shrunk"]
    assert said["posts"][0]["text"] == "Post 39"
    assert all(p["low"] <= p["judged"] <= p["high"] for p in said["posts"])
    bottom = client.get(f"{BASE}/posts/top?{QUERY}&metric=er_reach&end=bottom&limit=3").json()["posts"]
    assert bottom[0]["text"] == "Post 1"
    plain = client.get(f"{BASE}/posts/top?{QUERY}&metric=interactions&limit=3").json()
    assert (plain["is_shrunk"], plain["posts"][0]["text"]) == (False, "Post 39")


def test_a_post_without_interactions_breaks_nothing(client: Any, brand: Any) -> None:
    """Zero has no logarithm: it is left out of the index and counted everywhere else."""
    fill(make_profile(brand), 30, lambda i: {"counts": {"reactions": 0 if i == 4 else 20 + i, "reach": 100}})
    metrics = client.get(f"{BASE}/summary?{QUERY}&metrics=index,reactions").json()["metrics"]
    assert [m["now"]["n"] for m in metrics] == [29, 30]
    assert client.get(f"{BASE}/groups?{QUERY}&by=format").json()["left_out"] == 1
    assert client.get(f"{BASE}/posts/totals?{QUERY}&columns=index").json()["whole"]["n"]["index"] == 29
