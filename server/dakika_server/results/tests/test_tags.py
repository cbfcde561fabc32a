"""Promise: tags go on many posts at once and by rule, what somebody took off stays off, merging loses nothing."""

from typing import Any

import pytest

from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.testing import QUERY, fill, make_profile
from dakika_server.results.models import PostTag, Tag, TagRule
from dakika_server.results.tagging import apply_rules
from dakika_server.shared.models import AuditEntry
from dakika_server.sources.models import Post

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
JSON = {"content_type": "application/json"}


@pytest.fixture
def posts(brand: Any) -> list[int]:
    texts = [
        "Sunday workshop",
        "Build a sundial #Workshop",
        "The sun over Port Aldous",
        "Night  opening\nthis week",
        "#work",
    ]
    fill(make_profile(brand), 5, lambda i: {"text": texts[i], "format": "image" if i == 2 else "text"})
    return list(Post.objects.order_by("pk").values_list("pk", flat=True))


def tag(client: Any, posts: list[int], *names: str, take_off: list[int] | None = None) -> int:
    body = {"posts": posts, "add": list(names), "take_off": take_off or []}
    answer = client.post(f"{BASE}/posts/tags", body, **JSON)
    assert answer.status_code == 200, answer.content
    return int(answer.json()["changed"])


def on(name: str) -> list[int]:
    return sorted(PostTag.objects.filter(tag__name=name, is_off=False).values_list("post_id", flat=True))


def test_many_posts_at_once_and_names_that_are_no_tags_yet(client: Any, posts: list[int]) -> None:
    assert tag(client, posts[:3], "restoration", "Staff") == 3
    assert tag(client, posts[:3], "RESTORATION") == 0
    assert on("restoration") == posts[:3]
    rows = client.get(f"{BASE}/posts?{QUERY}").json()["posts"]
    assert sorted(len(row["tags"]) for row in rows) == [0, 0, 2, 2, 2]
    assert {t["name"]: t["posts"] for t in client.get(f"{BASE}/tags").json()} == {"restoration": 3, "Staff": 3}
    assert AuditEntry.objects.filter(action="tag_posts").count() == 2


def test_somebody_elses_posts_are_not_there(client: Any, posts: list[int], stranger: Any) -> None:
    other = fill(make_profile(stranger.memberships.get().brand), 1)
    theirs = Post.objects.get(profile=other).pk
    assert tag(client, [theirs, posts[0]], "mine") == 1
    assert on("mine") == [posts[0]]
    assert client.patch(f"{BASE}/posts/{theirs}", {"campaign_id": None}, **JSON).status_code == 404


@pytest.mark.parametrize(
    ("kind", "value", "caught"),
    [
        ("text", "sun", [2]),  # a whole word: neither Sunday nor sundial
        ("text", "SUNDAY", [0]),
        ("text", "night opening", [3]),
        ("text", "(", []),
        ("hashtag", "#workshop", [1]),  # neither #work nor the word
        ("hashtag", "work", [4]),
        ("format", "image", [2]),
    ],
)
def test_a_rule_shows_what_it_would_catch_and_changes_nothing(
    client: Any, posts: list[int], kind: str, value: str, caught: list[int]
) -> None:
    found = client.get(f"{BASE}/tags/caught", {"kind": kind, "value": value}).json()
    assert [p["id"] for p in found["posts"]] == [posts[i] for i in reversed(caught)]
    assert (found["caught"], found["of"]) == (len(caught), 5)
    assert PostTag.objects.count() == 0


def test_a_rule_that_looks_for_nothing_is_refused(client: Any, posts: list[int]) -> None:
    for kind, value in (("text", "   "), ("hashtag", "#"), ("campaign", "99"), ("campaign", "x"), ("nonsense", "x")):
        assert client.get(f"{BASE}/tags/caught", {"kind": kind, "value": value}).status_code == 400


def test_a_rule_tags_what_is_there_and_what_comes(client: Any, posts: list[int], brand: Any) -> None:
    number = client.post(f"{BASE}/tags", {"name": "workshop", "colour": 3}, **JSON).json()["id"]
    made = client.post(f"{BASE}/tags/{number}/rules", {"kind": "text", "value": "workshop"}, **JSON)
    assert (made.status_code, made.json()) == (201, {"changed": 2})
    assert on("workshop") == posts[:2]
    again = client.post(f"{BASE}/tags/{number}/rules", {"kind": "text", "value": " workshop "}, **JSON)
    assert again.status_code == 400
    more = fill(make_profile(brand, "brevi"), 1, lambda i: {"text": "A workshop for two"})
    apply_rules(brand.pk, Post.objects.filter(profile=more))
    assert len(on("workshop")) == 3


def test_what_somebody_took_off_no_rule_puts_on_again(client: Any, posts: list[int], brand: Any) -> None:
    number = client.post(f"{BASE}/tags", {"name": "w"}, **JSON).json()["id"]
    client.post(f"{BASE}/tags/{number}/rules", {"kind": "text", "value": "workshop"}, **JSON)
    assert tag(client, posts, take_off=[number]) == 2
    apply_rules(brand.pk, Post.objects.filter(brand=brand))
    assert on("w") == []
    assert tag(client, posts[:1], "w") == 1
    assert on("w") == posts[:1]


def test_taking_a_rule_away_keeps_its_posts_or_not(client: Any, posts: list[int]) -> None:
    number = client.post(f"{BASE}/tags", {"name": "w"}, **JSON).json()["id"]
    for keeps, left in (("true", 2), ("false", 0)):
        client.post(f"{BASE}/tags/{number}/rules", {"kind": "text", "value": "workshop"}, **JSON)
        if keeps == "false":
            PostTag.objects.update(rule=TagRule.objects.get())
        rule = TagRule.objects.get().pk
        assert client.delete(f"{BASE}/tags/{number}/rules/{rule}?keeps_posts={keeps}").status_code == 204
        assert len(on("w")) == left


def test_merging_brings_posts_and_rules_together(client: Any, posts: list[int]) -> None:
    tag(client, posts[:2], "a")
    tag(client, posts[1:4], "b")
    a, b = Tag.objects.get(name="a"), Tag.objects.get(name="b")
    client.post(f"{BASE}/tags/{a.pk}/rules", {"kind": "text", "value": "aldous"}, **JSON)
    assert client.post(f"{BASE}/tags/{a.pk}/merge", {"into": a.pk}, **JSON).status_code == 400
    merged = client.post(f"{BASE}/tags/{a.pk}/merge", {"into": b.pk}, **JSON).json()
    assert (merged["name"], merged["posts"], len(merged["rules"])) == ("b", 4, 1)
    assert not Tag.objects.filter(name="a").exists()
    assert on("b") == posts[:4]


def test_names_are_taken_once_in_any_case(client: Any, posts: list[int]) -> None:
    number = client.post(f"{BASE}/tags", {"name": "Sky tonight"}, **JSON).json()["id"]
    assert "Merge" in client.post(f"{BASE}/tags", {"name": " sky  TONIGHT "}, **JSON).json()["errors"]["name"][0]
    assert client.put(f"{BASE}/tags/{number}", {"name": "SKY TONIGHT", "colour": 5}, **JSON).json()["colour"] == 5
    assert client.post(f"{BASE}/tags", {"name": "  "}, **JSON).status_code == 400
    assert client.delete(f"{BASE}/tags/{number}").status_code == 204
    assert client.get(f"{BASE}/tags").json() == []


def test_the_campaign_of_a_post_is_changed_and_rules_follow(client: Any, posts: list[int], brand: Any) -> None:
    made = {"name": "Night Openings", "first_day": "2026-10-01", "last_day": "2026-11-30"}
    campaign = client.post("/api/brands/orrery-house/campaigns", made, **JSON).json()["id"]
    number = client.post(f"{BASE}/tags", {"name": "evening"}, **JSON).json()["id"]
    client.post(f"{BASE}/tags/{number}/rules", {"kind": "campaign", "value": str(campaign)}, **JSON)
    assert client.patch(f"{BASE}/posts/{posts[0]}", {"campaign_id": campaign}, **JSON).status_code == 204
    assert on("evening") == [posts[0]]
    detail = client.get(f"{BASE}/posts/{posts[0]}").json()
    assert (detail["campaign"], [t["name"] for t in detail["tags"]]) == ("Night Openings", ["evening"])
    assert detail["tags"][0]["is_by_rule"]
    assert client.patch(f"{BASE}/posts/{posts[0]}", {"campaign_id": 999}, **JSON).status_code == 400


def test_measuring_again_keeps_tags(client: Any, posts: list[int]) -> None:
    tag(client, posts, "kept")
    measure_profile(Post.objects.get(pk=posts[0]).profile)
    assert on("kept") == posts
