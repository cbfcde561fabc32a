"""Promise: a study of several, or of all but some, is the sum of its parts; all kept sums agree with the posts."""

from typing import Any

import pytest
from django.test import Client

from figures.conftest import QUERY

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house"
ADDED = (
    "posts",
    "reach",
    "interactions",
    "clicks",
    "tracked_clicks",
    "visits",
    "conversions",
    "reactions",
    "net_followers",
)
# What is a sum over whatever divides posts; clicks and visits of no post stand in no part.
OF_POSTS = ("posts", "reach", "interactions", "clicks", "reactions")


@pytest.fixture(scope="module")
def client(world: Any) -> Client:
    from dakika_server.accounts.models import User

    client = Client()
    client.force_login(User.objects.earliest("pk"), backend="django.contrib.auth.backends.ModelBackend")
    return client


def values(client: Client, metrics: tuple[str, ...] = ADDED, **study: str) -> dict[str, float]:
    answer = client.get(f"{HOME}/results/summary", {**QUERY, "metrics": ",".join(metrics), **study})
    assert answer.status_code == 200, answer.content
    return {m["key"]: m["now"]["value"] or 0.0 for m in answer.json()["metrics"]}


def added(*every: dict[str, float]) -> dict[str, float]:
    return {key: sum(one[key] for one in every) for key in every[0]}


def keys_of(world: Any, what: str) -> list[str]:
    from dakika_server.brands.models import Campaign
    from dakika_server.sources.models import Post, Profile

    if what == "network":
        return ["brevi", "commons", "pictor"]
    if what == "format":
        return sorted(set(Post.objects.filter(brand=world).values_list("format", flat=True)))
    if what == "language":
        return ["en", "pt"]
    found = {
        "profile": Profile.objects.filter(brand=world, kind="own"),
        "campaign": Campaign.objects.filter(brand=world),
    }
    return [str(pk) for pk in found[what].order_by("pk").values_list("pk", flat=True)]


@pytest.mark.parametrize("what", ["network", "format", "language", "profile", "campaign"])
@pytest.mark.parametrize("age", ["72", "0"])
def test_any_of_two_is_both_and_not_is_the_rest(client: Client, world: Any, what: str, age: str) -> None:
    first, second, *_ = keys_of(world, what)
    metrics = ADDED if what == "network" else OF_POSTS
    one, other = (values(client, metrics, age=age, **{what: key}) for key in (first, second))
    both = values(client, metrics, age=age, **{what: f"{first},{second}"})
    assert both == pytest.approx(added(one, other))
    assert any(both.values())
    every = values(client, OF_POSTS, age=age)
    without = values(client, OF_POSTS, age=age, **{what: f"!{first},{second}"})
    posts = {key: both[key] for key in OF_POSTS}
    assert added(posts, without) == pytest.approx(every)


def test_a_post_with_two_tags_is_studied_once(client: Client, world: Any) -> None:
    from dakika_server.results.models import PostTag, Tag
    from dakika_server.sources.models import Post

    tags = [str(pk) for pk in Tag.objects.filter(brand=world).order_by("pk").values_list("pk", flat=True)]
    post = Post.objects.filter(brand=world, profile__kind="own").order_by("-published_at")[0]
    for tag in tags:
        PostTag.objects.update_or_create(post=post, tag_id=tag, defaults={"is_off": False})
    both = values(client, OF_POSTS, tag=",".join(tags))
    marked = Post.objects.filter(
        brand=world, profile__kind="own", post_tags__is_off=False, published_at__gte="2026-09-27T23:00Z",
        published_at__lt="2026-11-09T00:00Z",
    ).distinct()  # fmt: skip
    assert both["posts"] == marked.count()
    assert added(both, values(client, OF_POSTS, tag=f"!{','.join(tags)}")) == pytest.approx(values(client, OF_POSTS))


def test_lists_follow_the_same_sets(client: Client, world: Any) -> None:
    for path, name in (("results/posts", "total"), ("links", None)):
        lists = [
            client.get(f"{HOME}/{path}", {**QUERY, "network": n}).json() for n in ("brevi", "pictor", "brevi,pictor")
        ]
        one, other, both = (found[name] if name else len(found["links"]) for found in lists)
        assert both == one + other > 0


def test_all_but_ours_never_brings_in_competitors(client: Client, world: Any) -> None:
    own = keys_of(world, "profile")[0]
    found = client.get(f"{HOME}/results/posts", {**QUERY, "profile": f"!{own}", "limit": "100"}).json()
    assert {row["profile_id"] for row in found["posts"]} < {int(key) for key in keys_of(world, "profile")}


def test_the_sentence_says_what_is_studied(client: Client, world: Any) -> None:
    def sentence(**study: str) -> str:
        return str(client.get(f"{HOME}/figures/results.course", {**QUERY, **study}).json()["study"])

    days = "28 September to 8 November 2026, posts at 72 hours, against 17 August to 27 September 2026"
    assert sentence() == f"Studying all profiles, {days}"
    told = sentence(network="brevi,pictor", boosted="no", format="!image,link")
    assert told == f"Studying Brevi and Pictor, not image or link, not boosted, {days}"
    assert "tagged something unknown" in sentence(tag="987654")
    assert "all profiles but those on Brevi" in sentence(network="!brevi")
