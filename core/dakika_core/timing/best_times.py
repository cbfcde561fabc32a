"""At which hours of the week do a profile's posts do better than typical?

The effect of the hour is told apart from format, from a slow trend and from who happened to
post when. Method: a Gaussian linear model in one pass. log(1 + interactions at 72 h) =
level + format + slow trend + effect of the hour of week + noise. The hour effect has a
Gaussian-process prior on the circle: a daily curve that all days share, what weekdays and
weekend have of their own, and single days, each only as far as the data carry it. Ranges and
amplitudes are averaged over a grid of 24 points by marginal likelihood with the noise variance
integrated out (conjugate; Gelman et al., Bayesian Data Analysis, 3rd ed., ch. 14 and 21, from
memory). Heavy tails: Student-t weights with four degrees of freedom by reweighting (Lange,
Little and Taylor 1989).
"""

import math
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from itertools import product
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import cho_factor, cho_solve
from scipy.special import ndtri

from dakika_core.values.period import HOURS_PER_WEEK, hour_of_week

Array = NDArray[np.float64]

FEWEST_POSTS = 30
FREEDOM = 4.0
# How much more likely the data must be with an hour effect than without, before one is claimed.
CLAIM_ODDS = 4.0
_AMPLITUDES = (0.15, 0.35, 0.75)
_RANGES = (0.55, 1.1)
_WEEKEND = (0.25, 0.9)
_DAYS = (0.0, 0.35)
_TREND_KNOTS = 6
# What presence alone is taken to say: one standard deviation of log presence moves a post by this
# much, give or take as much. Data of the profile's own override it.
_PRESENCE_SLOPE = 0.15


class Certainty(StrEnum):
    """How sure an hour's effect is: its 95 % or its 80 % interval leaves out 1.00, or neither does."""

    SURE = "sure"
    LIKELY = "likely"
    OPEN = "open"


@dataclass(frozen=True, kw_only=True)
class HourEffects:
    """Effect of each hour of week as an index, 1.00 = the usual result at the hours used so far.

    index, low80, high80, low95, high95, nearby, from_posts: shape (168,). nearby: posts within
    two hours; from_posts: share (0 to 1) of the statement that rests on posts rather than on the
    prior. has_effect: whether an effect of the hour may be claimed at all. odds: how much more
    likely the data are with an hour effect than without.
    """

    index: Array
    low80: Array
    high80: Array
    low95: Array
    high95: Array
    nearby: NDArray[np.int64]
    from_posts: Array
    certainty: tuple[Certainty, ...]
    posts: int
    has_effect: bool
    odds: float


def hour_weights(hours: Array) -> Array:
    """Each post's place among the 168 hours, shared linearly between the two middles around: (n, 168)."""
    place = (np.asarray(hours) - 0.5) % HOURS_PER_WEEK
    low = np.floor(place).astype(int) % HOURS_PER_WEEK
    part = place - np.floor(place)
    weights = np.zeros((len(place), HOURS_PER_WEEK))
    rows = np.arange(len(place))
    weights[rows, low] = 1 - part
    weights[rows, (low + 1) % HOURS_PER_WEEK] += part
    return weights


def _kernels() -> list[Array]:
    """Factors C with C C' = prior covariance of the hour effect in units of the noise variance."""
    hours = np.arange(HOURS_PER_WEEK)
    gap = np.subtract.outer(hours % 24, hours % 24)
    day = hours // 24
    day_gap = np.abs(np.subtract.outer(day, day))
    near_days = np.exp(-0.5 * np.minimum(day_gap, 7 - day_gap) ** 2)
    same_kind = np.equal.outer(day >= 5, day >= 5).astype(float)
    factors = []
    for amplitude, reach, weekend, days in product(_AMPLITUDES, _RANGES, _WEEKEND, _DAYS):
        daily = np.exp(-2 * np.sin(np.pi * gap / 24) ** 2 / reach**2)
        cover = amplitude**2 * daily * (1 + weekend**2 * same_kind + days**2 * near_days)
        values, vectors = np.linalg.eigh(cover)
        keep = values > 1e-5 * values[-1]
        factors.append(vectors[:, keep] * np.sqrt(values[keep]))
    return factors


_FACTORS: list[Array] = []


def kernel_factors() -> list[Array]:
    """The grid of priors, made once."""
    if not _FACTORS:
        _FACTORS.extend(_kernels())
    return _FACTORS


@dataclass(frozen=True, kw_only=True)
class _Fit:
    log_evidence: float
    mean: Array
    factor: Array
    inner: Array
    variance: float


def _fit(gram: Array, cross: Array, square: float, n: float, nuisance: int, prior: Array | None) -> _Fit:
    """One point of the grid; gram and cross are X'WX and X'Wy of nuisance columns followed by the 168 hours."""
    size = gram.shape[0]
    if prior is None:
        factor = np.eye(size)[:, :nuisance] * 10.0
    else:
        factor = np.zeros((size, nuisance + prior.shape[1]))
        factor[:nuisance, :nuisance] = np.eye(nuisance) * 10.0
        factor[nuisance:, nuisance:] = prior
    inner = np.eye(factor.shape[1]) + factor.T @ gram @ factor
    chol = cho_factor(inner, lower=True)
    right = factor.T @ cross
    solved = cho_solve(chol, right)
    rest = max(square - float(right @ solved), 1e-9)
    log_det = 2 * float(np.log(np.diag(chol[0])).sum())
    return _Fit(
        log_evidence=-0.5 * log_det - 0.5 * n * math.log(rest),
        mean=factor @ solved,
        factor=factor,
        inner=inner,
        variance=rest / max(n, 1.0),
    )


def _nuisance(formats: list[str], ages: Array) -> Array:
    """Level, formats against the rest, and a slow trend as smooth bumps over the span: shape (n, k)."""
    columns = [np.ones(len(formats))]
    names = np.array(formats)
    columns += [(names == name).astype(float) for name in sorted(set(formats))]
    span = float(ages.max() - ages.min()) or 1.0
    place = (ages - ages.min()) / span
    knots = np.linspace(0, 1, _TREND_KNOTS)
    columns += [0.15 * np.exp(-0.5 * ((place - knot) * (_TREND_KNOTS - 1)) ** 2) for knot in knots]
    return np.column_stack(columns)


def hour_effects(
    *,
    published_at: list[datetime],
    values: Array,
    formats: list[str],
    profiles: list[str] | None = None,
    zone: ZoneInfo,
    presence: Array | None = None,
    half_life_days: float | None = None,
) -> HourEffects | None:
    """Estimate the effect of the hour of week on a post's result.

    values: shape (n,), interactions at 72 h, NaN where missing (left out). presence: shape (168,)
    share of the audience online in `zone`, or None. half_life_days weighs a post 2 ** (-age /
    half-life). Returns None with fewer than 30 posts: then nothing can be said. With no hour
    effect to be told from noise, every hour is *open* and has_effect is false.
    """
    known = ~np.isnan(values)
    if int(known.sum()) < FEWEST_POSTS:
        return None
    times = [at for at, ok in zip(published_at, known, strict=True) if ok]
    kinds = [kind for kind, ok in zip(formats, known, strict=True) if ok]
    groups = [name for name, ok in zip(profiles or formats, known, strict=True) if ok] if profiles else None
    stamps = np.array([at.timestamp() / 86400 for at in times])
    design = _nuisance(kinds, stamps)
    if groups:
        names = np.array(groups)
        design = np.column_stack([design, *[(names == name).astype(float) for name in sorted(set(groups))]])
    hours = np.array([hour_of_week(at, zone) for at in times])
    place = hour_weights(hours)
    y = np.log1p(np.maximum(values[known], 0.0))
    y = y - np.median(y)
    offset = np.zeros(HOURS_PER_WEEK)
    plain = design
    if presence is not None and presence.max() > 0:
        logs = np.log(np.maximum(presence, presence.max() * 0.02))
        offset = _PRESENCE_SLOPE * (logs - logs.mean()) / (logs.std() or 1.0)
        design = np.column_stack([design, place @ offset * 0.1])
    target = y - place @ offset
    recency = np.ones(len(y))
    if half_life_days:
        recency = 2.0 ** (-(stamps.max() - stamps) / half_life_days)
    return _estimate(design, place, target, offset, recency, hours, plain, y)


def _estimate(
    design: Array, place: Array, y: Array, offset: Array, recency: Array, hours: Array, plain: Array, y_plain: Array
) -> HourEffects:
    """Plain and y_plain: design and target without anything that the hour could say, for the odds against it."""
    everything = np.hstack([design, place])
    k = design.shape[1]
    robust = np.ones(len(y))
    priors = kernel_factors()
    fits: list[_Fit] = []
    # Weights settle at the best prior; only then is the whole grid gone through again.
    for grid in (priors, None, None, priors):
        weights = robust * recency
        gram = everything.T @ (everything * weights[:, None])
        cross = everything.T @ (weights * y)
        square = float((weights * y * y).sum())
        n = float(recency.sum())
        if grid is not None:
            fits = [_fit(gram, cross, square, n, k, prior) for prior in grid]
            place_of_best = max(range(len(fits)), key=lambda i: fits[i].log_evidence)
            best = fits[place_of_best]
        else:
            best = _fit(gram, cross, square, n, k, priors[place_of_best])
        if grid is None or robust.min() == robust.max():
            residual = y - everything @ best.mean
            robust = (FREEDOM + 1) / (FREEDOM + residual**2 / best.variance)
            robust /= robust.mean()
    null = _fit(
        plain.T @ (plain * weights[:, None]), plain.T @ (weights * y_plain), float((weights * y_plain**2).sum()), n,
        plain.shape[1], None,
    )  # fmt: skip
    scores = np.array([fit.log_evidence for fit in fits])
    shares = np.exp(scores - scores.max())
    odds = float(np.exp(np.clip(scores.max() + np.log(shares.mean()) - null.log_evidence, -50, 50)))
    shares /= shares.sum()
    usual = (place * recency[:, None]).sum(axis=0) / recency.sum()
    centre = np.eye(HOURS_PER_WEEK) - usual[None, :]
    means = np.array([centre @ (fit.mean[k:] + offset) for fit in fits])
    variances = np.array([_variance(fit, centre, k) for fit in fits])
    mean = shares @ means
    # With t weights each post informs (v + 1) / (v + 3) as much as its weighted square suggests.
    variance = shares @ (variances * (FREEDOM + 3) / (FREEDOM + 1) + (means - mean) ** 2)
    prior_variance = shares @ np.array(
        [fit.variance * (centre @ factor * (centre @ factor)).sum(axis=1)
         for fit, factor in zip(fits, kernel_factors(), strict=True)]
    )  # fmt: skip
    spread = np.sqrt(variance)
    z80, z95 = float(ndtri(0.9)), float(ndtri(0.975))
    has_effect = odds >= CLAIM_ODDS
    apart = np.abs(np.subtract.outer(np.arange(HOURS_PER_WEEK) + 0.5, hours))
    nearby = (np.minimum(apart, HOURS_PER_WEEK - apart) <= 2).sum(axis=1)
    certainty = tuple(
        Certainty.OPEN
        if not has_effect or abs(m) <= z80 * s
        else Certainty.SURE
        if abs(m) > z95 * s
        else Certainty.LIKELY
        for m, s in zip(mean, spread, strict=True)
    )
    return HourEffects(
        index=np.exp(mean),
        low80=np.exp(mean - z80 * spread),
        high80=np.exp(mean + z80 * spread),
        low95=np.exp(mean - z95 * spread),
        high95=np.exp(mean + z95 * spread),
        nearby=nearby.astype(np.int64),
        from_posts=np.clip(1 - variance / np.maximum(prior_variance, 1e-12), 0, 1),
        certainty=certainty,
        posts=len(y),
        has_effect=has_effect,
        odds=odds,
    )


def _variance(fit: _Fit, centre: Array, nuisance: int) -> Array:
    rows = centre @ fit.factor[nuisance:, :]
    return fit.variance * np.asarray(((rows @ np.linalg.inv(fit.inner)) * rows).sum(axis=1))
