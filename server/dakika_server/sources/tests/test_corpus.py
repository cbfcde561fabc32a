"""Promise: whatever tool, language and habit a file comes from, it leads to the very figures that are true, or asks.

More than sixty small files made from one known truth (corpus/), through the API, each held against it.
Dates in words are written by babel from the Unicode CLDR.
"""

from collections import Counter
from datetime import datetime
from typing import Any

import pytest

from dakika_server.sources.models import Post, PostReading, ProfileReading
from dakika_server.sources.testing import FILES, bring_in, brought, settle, upload
from dakika_server.sources.tests.corpus.files import UTC_END_OF_EXPORT, Case, all_cases, day_files
from dakika_server.sources.tests.corpus.truth import DAYS, LISBON, POSTS

pytestmark = pytest.mark.django_db
CASES = all_cases()
RESULTS = "/api/brands/orrery-house/results"


def test_there_are_at_least_sixty_and_no_two_are_the_same() -> None:
    assert len(CASES) + len(day_files()) >= 60
    assert max(Counter(case.name for case in CASES).values()) == 1


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    return client_of(editor)


@pytest.mark.parametrize("case", CASES, ids=str)
def test_a_file_leads_to_the_figures_that_are_true(case: Case, client: Any) -> None:
    preview = upload(client, case.content, case.file_name).json()
    assert "item" in preview, preview
    number = preview["item"]["id"]
    assert preview["item"]["kind"] == "posts", preview["mapping"]
    if case.settle:
        if "options" in case.settle:
            assert [choice["order"] for choice in preview["date_choices"]] == ["dmy", "mdy"]
            assert "more than one order" in preview["mapping_problems"][0]
        settled = settle(client, number, **case.settle)
        assert settled.status_code == 200, settled.content
        preview = settled.json()
    assert preview["mapping_problems"] == [], preview["mapping"]
    done = bring_in(client, number)
    assert (done.state, done.refused) == ("done", case.refused), list(done.problems.values("column", "message"))
    assert any(case.told in note["message"] for note in done.notes) or not case.told, done.notes
    by_text = {post.text: post for post in Post.objects.all()}
    true = [post for post in POSTS if post.text in by_text]
    assert len(by_text) == done.posts_added == len(true) >= 3, list(by_text)
    if "both ways" not in case.name:
        assert len(true) == len(POSTS)
    for place, post in enumerate(true):
        here = by_text[post.text]
        assert here.has_time is case.has_time
        assert here.published_at == expected_instant(post.at, has_time=case.has_time), post.text
        reading = PostReading.objects.get(post=here)
        assert reading.taken_at.date() == UTC_END_OF_EXPORT.date()
        for key in case.metrics:
            told = None if place in case.missing.get(key, set()) else getattr(post, key)
            assert getattr(reading, key) == told, (post.text, key)
        if "addresses" in case.name:
            assert here.url == post.url
    check_results(client, case, [by_text[post.text] for post in true])


def expected_instant(at: datetime, *, has_time: bool) -> datetime:
    local = at.astimezone(LISBON)
    return at if has_time else local.replace(hour=0, minute=0, second=0, microsecond=0)


def check_results(client: Any, case: Case, here: list[Post]) -> None:
    """The counts are months old: they are final, and Results stands on them without being told to."""
    known = [
        sum(v for v in (r.reactions, r.comments, r.shares) if v is not None)
        for r in PostReading.objects.filter(post__in=here)
    ]
    query = "first=2026-06-01&last=2026-08-31"
    found = client.get(f"{RESULTS}/posts?{query}&limit=50").json()
    assert found["age_hours"] == -1
    assert found["too_young"] == 0
    assert sum(post["interactions"] for post in found["posts"]) == sum(known)
    assert any(post["index"] for post in found["posts"]) == (len(here) > 8)
    summary = client.get(f"{RESULTS}/summary?{query}&metrics=interactions").json()
    assert "final count" in summary["age_why"]
    (metric,) = summary["metrics"]
    assert metric["now"]["value"] == pytest.approx(sum(known))
    assert "on the day of publishing" in metric["missing_note"]


@pytest.mark.parametrize("name", day_files())
def test_days_of_a_profile_come_in_from_every_layout(name: str, client: Any) -> None:
    file_name, content = day_files()[name]
    preview = upload(client, content, file_name).json()
    assert preview["item"]["kind"] == "profile_readings", preview["columns"]
    done = bring_in(client, preview["item"]["id"])
    assert (done.refused, done.added) == (0, len(DAYS))
    for day, values in DAYS:
        reading = ProfileReading.objects.get(day=day)
        assert {key: getattr(reading, key) for key in values} == values
    found = client.get(
        f"{RESULTS}/summary?first=2026-09-21&last=2026-09-30&metrics=daily_reach,followers,net_followers"
    ).json()["metrics"]
    assert found[0]["now"]["value"] == pytest.approx(sum(values["reach"] for _, values in DAYS) / len(DAYS))
    assert found[1]["now"]["value"] == DAYS[-1][1]["followers"]
    assert found[2]["now"]["value"] == sum(values["gained"] - values["lost"] for _, values in DAYS)


def test_every_file_of_the_corpus_is_the_same_posts(client: Any) -> None:
    """One file after another into the same profile: the posts are there once, whatever file speaks of them."""
    alike = [c for c in CASES if c.has_time and c.has_text and "both ways" not in c.name and not c.settle][::4]
    first = brought(client, alike[0].content, alike[0].file_name)
    for case in alike[1:]:
        preview = upload(client, case.content, case.file_name).json()
        number = preview["item"]["id"]
        told = client.put(f"{FILES}/{number}", {"profile_id": first.profile_id}, content_type="application/json").json()
        if told["known_in_sample"]:
            assert told["known_in_sample"]["known"] == len(POSTS), case.name
        done = bring_in(client, number, profile_id=first.profile_id)
        assert (done.posts_added, done.known) == (0, len(POSTS)), case.name
    assert Post.objects.count() == len(POSTS)
