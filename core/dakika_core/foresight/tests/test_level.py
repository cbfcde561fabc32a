"""Promise: what a planned post will bring follows from the posts before it, with an interval from how far off that was."""

import numpy as np
import pytest
from numpy.testing import assert_allclose
from sklearn.linear_model import Ridge

from dakika_core.foresight import level as module
from dakika_core.foresight.level import PostFeatures, expected_post, expected_sum, fit_level


def _posts(n: int, rng: np.random.Generator, *, days: float = 180.0) -> PostFeatures:
    return PostFeatures(
        day=np.sort(rng.uniform(0, days, n)), hour=rng.normal(0, 0.1, n), labels=[frozenset({"workshop"} if i % 3 else ())
        for i in range(n)], formats=[("text", "image", "video")[i % 3] for i in range(n)],
    )  # fmt: skip


def _one(posts: PostFeatures, kind: str, labels: frozenset[str] = frozenset(), hour: float = 0.0) -> PostFeatures:
    return PostFeatures(day=posts.day[-1:] + 2, hour=np.array([hour]), formats=[kind], labels=[labels])


def test_format_hour_and_label_are_told_apart() -> None:
    rng = np.random.default_rng(1)
    posts = _posts(300, rng)
    lift = {"text": 0.0, "image": 0.3, "video": 0.8}
    logs = 4.0 + posts.hour + np.array([lift[kind] for kind in posts.formats]) + rng.normal(0, 0.2, 300)
    logs += np.array([0.4 if "workshop" in of else 0.0 for of in posts.labels])
    model = fit_level(posts, logs)
    assert model is not None
    usual = model.expected(_one(posts, "image", frozenset({"workshop"})))[0]
    assert usual == pytest.approx(4.7, abs=0.15)
    assert model.expected(_one(posts, "image", frozenset({"workshop"}), hour=0.2))[0] == pytest.approx(usual + 0.2)
    assert model.spread == pytest.approx(0.2, abs=0.05)


def test_it_is_a_weighted_ridge_regression(monkeypatch: pytest.MonkeyPatch) -> None:
    """A second reckoning by scikit-learn, without reweighting for heavy tails and with the noise given."""
    rng = np.random.default_rng(3)
    posts = _posts(80, rng)
    logs = 3.0 + posts.hour + rng.normal(0, 0.5, 80)
    monkeypatch.setattr(module, "_FREEDOM", 1e9)
    monkeypatch.setattr(module, "_ROUNDS", 1)
    found, formats, labels = module._fit(posts, logs, float(posts.day[-1]))
    y = logs - posts.hour
    variance = float(np.var(y))
    design = module._design(posts, float(posts.day[-1]), formats, labels)
    deviations = np.array([10.0, 0.12, *[0.35] * len(formats), *[0.25] * len(labels)])
    weights = 2.0 ** (-(posts.day[-1] - posts.day) / module.HALF_LIFE_DAYS)
    ridge = Ridge(alpha=variance, fit_intercept=False, solver="cholesky").fit(
        design * deviations, y, sample_weight=weights
    )
    assert_allclose(found, ridge.coef_ * deviations, rtol=1e-6, atol=1e-8)


def test_a_level_that_rose_is_followed_and_a_trend_is_not_believed_for_ever() -> None:
    rng = np.random.default_rng(4)
    posts = _posts(200, rng)
    logs = 3.0 + posts.hour + np.where(posts.day > 90, 1.0, 0.0) + rng.normal(0, 0.2, 200)
    model = fit_level(posts, logs)
    assert model is not None
    assert model.expected(_one(posts, "text"))[0] == pytest.approx(4.0, abs=0.3)
    far = PostFeatures(day=posts.day[-1:] + 400, hour=np.zeros(1), formats=["text"], labels=[frozenset()])
    near = PostFeatures(day=posts.day[-1:] + 14, hour=np.zeros(1), formats=["text"], labels=[frozenset()])
    assert model.expected(far)[0] == pytest.approx(model.expected(near)[0])


def test_too_few_posts_say_nothing_and_what_is_missing_is_left_out() -> None:
    rng = np.random.default_rng(5)
    posts = _posts(10, rng)
    logs = np.full(10, 2.0)
    logs[:3] = np.nan
    assert fit_level(posts, logs) is None
    logs[:3] = 2.0
    assert fit_level(posts, logs) is not None


def test_a_new_format_and_a_rare_label_are_expected_like_the_profile() -> None:
    rng = np.random.default_rng(6)
    posts = _posts(60, rng)
    model = fit_level(posts, 3.0 + rng.normal(0, 0.2, 60))
    assert model is not None
    assert model.expected(_one(posts, "album", frozenset({"never"})))[0] == pytest.approx(3.0, abs=0.3)


def test_sums_are_surer_than_single_posts_but_not_as_if_each_erred_for_itself() -> None:
    rng = np.random.default_rng(7)
    posts = _posts(250, rng)
    week = np.floor(posts.day / 7).astype(int)
    logs = 4.0 + posts.hour + rng.normal(0, 0.25, week.max() + 1)[week] + rng.normal(0, 0.5, 250)
    model = fit_level(posts, logs)
    assert model is not None
    one = expected_post(model, 4.0)
    ten = expected_sum([(model, np.full(10, 4.0))])
    assert ten.low < ten.value < ten.high
    apart, together = np.log(one.high / one.low), np.log(ten.high / ten.low)
    assert apart / 10**0.5 * 1.2 < together < apart * 0.8
    assert expected_sum([(model, np.full(10, 4.0))]) == ten, "the same question, the same answer"
    assert expected_sum([]).value == 0
