"""Promise: what a network says may be nonsense or hostile; it costs a message and a missing figure, never a wrong one."""

from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

import pytest

from dakika_server.networks.connectors.brevi import BreviConnector
from dakika_server.sources.models import Post, PostReading, Profile
from dakika_server.sources.testing import run_to_end

pytestmark = pytest.mark.django_db


def say(monkeypatch: Any, change: Any) -> None:
    """Have Brevi's pages say something else."""
    honest = BreviConnector.page

    def page(self: Any, target: Any, cursor: Any) -> Any:
        told = honest(self, target, cursor)
        return replace(told, posts=[change(i, post) for i, post in enumerate(told.posts)])

    monkeypatch.setattr(BreviConnector, "page", page)


def test_impossible_counts_are_missing_and_said(competitor_profile: Any, world: Any, monkeypatch: Any) -> None:
    odd = {"reactions": 2**63, "comments": -4, "shares": 7}
    say(monkeypatch, lambda i, post: replace(post, metrics=odd if i == 0 else post.metrics))
    run = run_to_end(competitor_profile("brevi"))
    assert run.state == "complete"
    assert "could not be right" in run.message
    reading = PostReading.objects.filter(shares=7).order_by("-post__published_at").first()
    assert (reading.reactions, reading.comments) == (None, None)


@pytest.mark.parametrize("year", [1, 9999])
def test_impossible_dates_are_left_out(year: int, competitor_profile: Any, world: Any, monkeypatch: Any) -> None:
    when = datetime(year, 6, 1, tzinfo=UTC)
    say(monkeypatch, lambda i, post: replace(post, published_at=when) if i == 1 else post)
    run = run_to_end(competitor_profile("brevi"))
    assert run.state == "complete"
    assert not Post.objects.filter(published_at=when).exists()


def test_any_text_is_stored_as_text(competitor_profile: Any, world: Any, monkeypatch: Any) -> None:
    texts = [
        "nul\x00here",
        "\u202eright to left \u05e9\u05dc\u05d5\u05dd",
        "👩‍👩‍👧‍👦" * 400,
        "=1+1",
        "\ud800 alone",
        "x" * 10_000_000,
    ]
    say(monkeypatch, lambda i, post: replace(post, text=texts[i]) if i < len(texts) else post)
    profile = competitor_profile("brevi")
    assert run_to_end(profile).state == "complete"
    stored = list(Post.objects.order_by("-published_at").values_list("text", flat=True)[: len(texts)])
    assert stored[0] == "nulhere"
    assert stored[1] == texts[1]
    assert stored[4] == "? alone"
    assert len(stored[5]) == 20_000


def test_a_name_of_anything_is_a_name(competitor_profile: Any, world: Any, monkeypatch: Any) -> None:
    honest = BreviConnector.account
    monkeypatch.setattr(BreviConnector, "account", lambda self, t: replace(honest(self, t), name="\x00🕰️" + "n" * 999))
    profile = competitor_profile("brevi")
    assert run_to_end(profile).state == "complete"
    assert Profile.objects.get(pk=profile.pk).name.startswith("🕰️nn")


def test_answers_of_another_shape_end_the_run_with_a_message(
    competitor_profile: Any, world: Any, monkeypatch: Any
) -> None:
    def changed(self: Any, target: Any, cursor: Any) -> Any:
        return {"items": []}["posts"]

    monkeypatch.setattr(BreviConnector, "page", changed)
    run = run_to_end(competitor_profile("brevi"))
    assert run.state == "failed"
    assert "not understood" in run.message
    assert run.missing
