"""At which hours of the week do posts do better than typical?

The effect of the hour is told apart from profile, format, from a slow trend and from who happened
to post when. Method: a Gaussian linear model in one pass. log(1 + interactions at 72 h) = level of
the profile + format + slow trend of the profile + effect of the hour of week + noise. The effect of
the hour has a Gaussian-process prior on the circle: a daily curve that all days share, what
weekdays and the weekend have of their own, single days, and a little from hour to hour, each only
as far as the data carry it. Profiles share one effect; what each has of its own is shrunk towards
it, as far as the data ask. Ranges and amplitudes are averaged over a grid by marginal likelihood
with the noise variance integrated out (conjugate; Gelman et al., Bayesian Data Analysis, 3rd ed.,
ch. 14 and 21, from memory). Heavy tails: Student-t weights with eight degrees of freedom by
reweighting (Lange, Little and Taylor 1989).

In the trade's words: best time to post, Gaussian process, hierarchical Bayes, partial pooling, credible interval.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum
from functools import lru_cache
from itertools import product
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import cholesky, solve_triangular
from scipy.special import ndtri

from dakika_core.values.period import HOURS_PER_WEEK, hour_of_week

Array = NDArray[np.float64]
Index = NDArray[np.int64]

FEWEST_POSTS = 30
FREEDOM = 8.0
# Of reweighting for heavy tails.
ROUNDS = 4
# How much more likely the data must be with an hour effect than without, before one is claimed.
CLAIM_ODDS = 3.0
# Amplitudes in units of the noise, reach of the daily curve, share that weekdays and weekend have of their own.
_REACHES = {0.35: 0.1, 0.55: 0.2, 0.85: 0.35, 1.2: 0.35}
_DAILY = {0.1: 0.1, 0.3: 0.45, 0.6: 0.45}
_CLASSES = (0.1, 0.35)
_DAYS = {0.0: 0.8, 0.2: 0.2}
_HOURLY, _HOURLY_REACH = 0.07, 0.12
# Looked at too where the strongest daily curve is the likeliest, and taken where the data say so clearly (log odds):
# hours that matter more than everything else does.
_STRONG_DAILY, _STRONG_CLASSES, _STRONG_ODDS = {1.5: 0.5, 3.0: 0.5}, (0.35, 1.0), 5.0
# What profiles have of their own, and what one has that goes its own way altogether: amplitudes in units of the noise.
_OWN = (0.0, 0.3, 0.6)
_OWN_WAY = (0.3, 0.6)
# Of its variance, what all days share and what weekdays and the weekend have of their own.
_OWN_DAILY, _OWN_CLASS = 0.7, 0.7
# Before the data: how likely a profile of several goes its own way altogether, and how likely no hour matters to it.
_ALONE, _NONE = 0.6, 0.1
# Where several profiles are estimated together, what each differs in is known less well than the model has it: in
# worlds of known truth intervals of .90 held .77 to .89. They are told so much wider.
_WIDER = 1.1
# Points of the grid that weigh less than this are not gone through again for single profiles.
_LIGHT, _NOTHING, _FAR = 0.01, 0.001, 6.0
# Points that weigh less than this beside the heaviest add nothing that could be seen.
_SLIGHT = 0.05
_KEPT = 1e-4
_TREND_DAYS = 30.0
# A level, a format or a trend may be anything within reason; in units of the noise.
_WIDE, _TREND = 10.0, 1.5
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
    likely the data are with an hour effect than without. alone: how likely it is that the profile's
    hours have nothing to do with those of the others (0 for a single profile, and for all of them).
    by_presence: the index that the audience's presence alone would give, shape (168,); 1 without it.
    covariance: of the logs of the index, shape (168, 168). noise: standard deviation of a post around it, log scale.
    """

    index: Array
    low80: Array
    high80: Array
    low95: Array
    high95: Array
    nearby: Index
    from_posts: Array
    certainty: tuple[Certainty, ...]
    posts: int
    has_effect: bool
    odds: float
    by_presence: Array
    covariance: Array
    noise: float
    alone: float = 0.0

    def mean_of(self, hours: Sequence[int]) -> tuple[float, float]:
        """The mean of the log index over some hours (one may occur more than once), and its standard deviation."""
        chosen = np.asarray(hours, dtype=int)
        within = self.covariance[np.ix_(chosen, chosen)]
        return float(np.log(self.index[chosen]).mean()), float(np.sqrt(max(within.mean(), 0.0)))


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


@dataclass(frozen=True, kw_only=True)
class _Prior:
    """A point of the grid: factors C with C C' the covariance, in units of the noise variance. (168, q) each.

    own and own_way have amplitude one: what a profile has beside what is shared, and instead of it.
    daily: amplitude of the curve that all days share.
    """

    shared: Array
    own: Array
    own_way: Array
    daily: float
    log_weight: float


@lru_cache(maxsize=2)
def _priors(*, is_strong: bool = False) -> list[_Prior]:
    """The grid, or what is looked at beyond its strongest end."""
    amplitudes = (_STRONG_DAILY, _STRONG_CLASSES) if is_strong else (_DAILY, _CLASSES)
    hours = np.arange(HOURS_PER_WEEK)
    apart = np.subtract.outer(hours, hours)
    day = hours // 24
    same_class = np.equal.outer(day >= 5, day >= 5)
    same_day = np.equal.outer(day, day)
    hourly = _HOURLY**2 * np.exp(-2 * np.sin(np.pi * apart / HOURS_PER_WEEK) ** 2 / _HOURLY_REACH**2)
    found, owns = [], {}
    for reach in _REACHES:
        unit = np.exp(-2 * np.sin(np.pi * apart / 24) ** 2 / reach**2) * (_OWN_DAILY + _OWN_CLASS * same_class)
        owns[reach] = _factor(unit), _factor(unit + hourly)
    for reach, daily, of_class, of_day in product(_REACHES, *amplitudes, _DAYS):
        curve = np.exp(-2 * np.sin(np.pi * apart / 24) ** 2 / reach**2)
        smooth = daily**2 * curve + of_class**2 * curve * same_class
        shared = _factor(smooth + of_day**2 * same_day + hourly)
        found.append(
            _Prior(
                shared=shared,
                own=owns[reach][0],
                own_way=owns[reach][1],
                daily=daily,
                log_weight=math.log(_REACHES[reach] * amplitudes[0][daily] * _DAYS[of_day]),
            )
        )
    return found


def _factor(covariance: Array) -> Array:
    values, vectors = np.linalg.eigh(covariance)
    keep = values > _KEPT * values[-1]
    found: Array = vectors[:, keep] * np.sqrt(values[keep])
    return found


@dataclass(frozen=True, kw_only=True)
class _Sums:
    """Weighted sums of products: of the nuisance columns (k), and by profile of them with the hours."""

    plain: Array  # (k, k)
    between: Array  # (P, k, 168)
    hours: Array  # (P, 168, 168)
    plain_y: Array  # (k,)
    hours_y: Array  # (P, 168)
    square: float
    count: float


class _Going(StrEnum):
    """How a single profile goes: as the others do, give or take; its own way; without any effect of the hour."""

    SHARED = "shared"
    ALONE = "alone"
    NONE = "none"


@dataclass(frozen=True, kw_only=True)
class _Point:
    """A point of the grid: a prior (None: no hour matters), the share of what is own, and how one profile goes."""

    prior: _Prior | None
    own: float = 0.0
    profile: int = -1
    going: _Going = _Going.SHARED
    own_way: float = 0.0

    def own_factor(self, profile: int) -> Array:
        """What a profile has of its own: (168, q); q = 0 for nothing."""
        nothing: Array = np.zeros((HOURS_PER_WEEK, 0))
        if self.prior is None:
            return nothing
        if profile == self.profile and self.going is not _Going.SHARED:
            return self.own_way * self.prior.own_way if self.going is _Going.ALONE else nothing
        return self.own * self.prior.own if self.own else nothing

    def shares(self, profile: int) -> bool:
        """Whether a profile takes part in what is shared."""
        return profile != self.profile or self.going is _Going.SHARED


@dataclass(frozen=True, kw_only=True)
class _Fit:
    """A point of the grid with the data: coefficients with prior N(0, variance I), the effect a linear map of them."""

    point: _Point
    log_evidence: float
    solved: Array
    chol: Array
    variance: float


@dataclass(frozen=True, kw_only=True)
class _Data:
    """Posts as the model takes them. y is taken from presence's offset; y_plain is not."""

    design: Array  # (n, k); its last column is presence's slope where there is presence
    place: Array  # (n, 168)
    hours: Array  # (n,)
    profile: Index  # (n,)
    names: tuple[str, ...]
    y: Array
    y_plain: Array
    offsets: Array  # (P, 168)
    has_presence: bool


@dataclass(frozen=True, kw_only=True)
class HourModel:
    """The fitted model of all profiles."""

    _data: _Data
    _sums: "_Sums"
    _fits: list[_Fit]
    _shares: Array
    odds: float

    def of(self, profile: str | None = None) -> HourEffects:
        """The effects on one profile, held against its own usual hours; None: what all share, against all posts.

        Raises KeyError for a profile without posts.
        """
        data = self._data
        if profile is not None and profile not in data.names:
            raise KeyError(profile)
        number = None if profile is None else data.names.index(profile)
        fits, shares = _weighty(*((self._fits, self._shares) if number is None else self._of_one(number)))
        chosen = np.ones(len(data.y), bool) if number is None else data.profile == number
        usual = data.place[chosen].mean(axis=0)
        centre = np.eye(HOURS_PER_WEEK) - usual[None, :]
        offset = data.offsets.mean(axis=0) if number is None else data.offsets[number]
        means, covariances, priors = [], [], []
        for fit in fits:
            rows = centre @ _effect_of(fit, data, number, offset)
            means.append(rows @ fit.solved + centre @ offset)
            scaled = solve_triangular(fit.chol, rows.T, lower=True)
            covariances.append(fit.variance * (scaled.T @ scaled))
            priors.append(fit.variance * (rows**2).sum(axis=1))
        mean = shares @ np.array(means)
        off = np.array(means) - mean
        covariance = np.tensordot(shares, np.array(covariances), axes=1) + off.T @ (off * shares[:, None])
        if len(data.names) > 1:
            covariance = covariance * _WIDER**2
        variance = np.diag(covariance).copy()
        prior = shares @ np.array(priors)
        spread = np.sqrt(variance)
        z80, z95 = float(ndtri(0.9)), float(ndtri(0.975))
        going = {way: float(shares[[fit.point.going is way for fit in fits]].sum()) for way in _Going}
        has_effect = self.odds >= CLAIM_ODDS and going[_Going.NONE] < 0.5
        apart = np.abs(np.subtract.outer(np.arange(HOURS_PER_WEEK) + 0.5, data.hours[chosen]))
        return HourEffects(
            index=np.exp(mean), low80=np.exp(mean - z80 * spread), high80=np.exp(mean + z80 * spread),
            low95=np.exp(mean - z95 * spread), high95=np.exp(mean + z95 * spread),
            nearby=(np.minimum(apart, HOURS_PER_WEEK - apart) <= 2).sum(axis=1).astype(np.int64),
            from_posts=np.clip(1 - variance / np.maximum(prior, 1e-12), 0, 1),
            certainty=tuple(
                Certainty.OPEN if not has_effect or abs(m) <= z80 * s
                else Certainty.SURE if abs(m) > z95 * s else Certainty.LIKELY
                for m, s in zip(mean, spread, strict=True)
            ),
            posts=int(chosen.sum()), has_effect=has_effect, odds=self.odds, alone=going[_Going.ALONE],
            by_presence=np.exp(centre @ offset), covariance=covariance,
            noise=float(np.sqrt(shares @ np.array([fit.variance for fit in fits]))),
        )  # fmt: skip

    def expected(self, profile: str | None = None) -> Array:
        """The mean of the log index alone, shape (168,), at a fraction of what `of` takes: no interval, and a profile
        goes as the others do, give or take. None, or a profile without posts: what all share.
        """
        data = self._data
        number = data.names.index(profile) if profile in data.names else None
        chosen = np.ones(len(data.y), bool) if number is None else data.profile == number
        offset = data.offsets.mean(axis=0) if number is None else data.offsets[number]
        fits, shares = _weighty(self._fits, self._shares)
        effects = np.array([_effect_of(fit, data, number, offset) @ fit.solved for fit in fits])
        mean: Array = shares @ effects + offset
        return mean - float(data.place[chosen].mean(axis=0) @ mean)

    def _of_one(self, number: int) -> tuple[list[_Fit], Array]:
        """The grid once more with the ways in which one profile may go, and what each point weighs."""
        if len(self._data.names) == 1:
            return self._fits, self._shares
        kept = [i for i, share in enumerate(self._shares) if share >= _LIGHT]
        scale = _nuisance_scale(self._data)
        fits = [self._fits[i] for i in kept]
        before = [1 - _ALONE - _NONE] * len(fits)
        ways = [(_Going.ALONE, amplitude, _ALONE / len(_OWN_WAY)) for amplitude in _OWN_WAY]
        for way, amplitude, weight in (*ways, (_Going.NONE, 0.0, _NONE)):
            for i in kept:
                point = replace(self._fits[i].point, profile=number, going=way, own_way=amplitude)
                fits.append(_fit(self._sums, scale, point))
                before.append(weight)
        scores = np.array([fit.log_evidence for fit in fits]) + np.log(before)
        shares = np.exp(scores - scores.max())
        return fits, shares / shares.sum()


def _weighty(fits: list[_Fit], shares: Array) -> tuple[list[_Fit], Array]:
    """The points of the grid that are of any weight, their shares made whole again."""
    kept = np.flatnonzero(shares >= _SLIGHT * shares.max())
    return [fits[i] for i in kept], shares[kept] / shares[kept].sum()


def _effect_of(fit: _Fit, data: _Data, number: int | None, offset: Array) -> Array:
    """The effect on a profile, or on all, as a linear map of the coefficients: (168, all of them)."""
    slope = np.zeros((HOURS_PER_WEEK, data.design.shape[1]))
    if data.has_presence:
        # The slope's column holds the offset itself, so that its coefficient adds to the one taken for granted.
        slope[:, -1] = offset * _nuisance_scale(data)[-1]
    shared = np.zeros((HOURS_PER_WEEK, 0)) if fit.point.prior is None else fit.point.prior.shared
    if number is not None and not fit.point.shares(number):
        shared = np.zeros_like(shared)
    own = []
    for profile in range(len(data.names)):
        factor = fit.point.own_factor(profile)
        own.append(factor if profile == number else np.zeros_like(factor))
    return np.hstack([slope, shared, *own])


def _nuisance_scale(data: _Data) -> Array:
    """Standard deviations of the nuisance coefficients' prior, in units of the noise."""
    scale = np.full(data.design.shape[1], _WIDE)
    if data.has_presence:
        scale[-1] = 1.0 / 0.6  # as much as the slope itself, at a usual noise of 0.6
    return scale


def fit_hours(
    *, published_at: Sequence[datetime], values: Array, formats: Sequence[str], zone: ZoneInfo,
    profiles: Sequence[str] | None = None, presence: Mapping[str, Array] | None = None, totals: Array | None = None,
) -> HourModel | None:  # fmt: skip
    """Fit the effect of the hour of week on the results of posts of one or several profiles.

    values: shape (n,), interactions at 72 h or another count, NaN where missing (left out). totals: where a rate is
    asked for, what the counts are parts of; then the index is of the odds. profiles: the name of
    each post's; one for all where it is not given. presence: by profile the share of its audience
    online in `zone`, shape (168,). Returns None with fewer than 30 posts: then nothing can be
    said. With no hour effect to be told from noise, every hour is *open* and has_effect is false.
    """
    known = ~np.isnan(values) if totals is None else ~np.isnan(values) & (totals > 0)
    if int(known.sum()) < FEWEST_POSTS:
        return None
    times = [at for at, ok in zip(published_at, known, strict=True) if ok]
    kinds = [kind for kind, ok in zip(formats, known, strict=True) if ok]
    of = [name for name, ok in zip(profiles or [""] * len(known), known, strict=True) if ok]
    logs = compared(values[known], None if totals is None else totals[known])
    data = _data_of(times, logs, kinds, of, zone, presence or {})
    return _fitted(data)


def compared(values: Array, totals: Array | None = None) -> Array:
    """The scale on which results are compared: log(1 + count), or the empirical logit of a part of a total."""
    if totals is None:
        return np.asarray(np.log1p(np.maximum(values, 0.0)))
    parts = np.clip(values, 0.0, totals)
    return np.asarray(np.log((parts + 0.5) / (totals - parts + 0.5)))


def _data_of(
    times: list[datetime], y: Array, kinds: list[str], of: list[str], zone: ZoneInfo, presence: Mapping[str, Array]
) -> _Data:
    names = tuple(sorted(set(of)))
    number = {name: i for i, name in enumerate(names)}
    profile = np.array([number[name] for name in of])
    stamps = np.array([at.timestamp() / 86400 for at in times])
    hours = np.array([hour_of_week(at, zone) for at in times])
    place = hour_weights(hours)
    offsets = np.array([presence_offset(presence.get(name)) for name in names])
    has_presence = bool(np.any(offsets))
    y = y - np.median(y)
    design = _nuisance(kinds, profile, stamps)
    said = (place * offsets[profile]).sum(axis=1)
    if has_presence:
        design = np.column_stack([design, said])
    return _Data(
        design=design, place=place, hours=hours, profile=profile, names=names, y=y - said, y_plain=y, offsets=offsets,
        has_presence=has_presence,
    )  # fmt: skip


def presence_offset(presence: Array | None) -> Array:
    """What presence alone says of each hour, log scale: shape (168,); none without it."""
    if presence is None or presence.max() <= 0:
        return np.zeros(HOURS_PER_WEEK)
    logs = np.log(np.maximum(presence, presence.max() * 0.02))
    found: Array = _PRESENCE_SLOPE * (logs - logs.mean()) / (logs.std() or 1.0)
    return found


def _nuisance(kinds: list[str], profile: Index, stamps: Array) -> Array:
    """Levels of profiles, formats against the rest, and a slow trend of each profile: shape (n, k).

    A trend is smooth bumps a month apart over the profile's own span, so that a year's ups and
    downs are not taken for the hours that were posted at in the meantime.
    """
    names = np.array(kinds)
    columns = [(names == name).astype(float) for name in sorted(set(kinds))]
    for number in range(int(profile.max()) + 1):
        mine = profile == number
        columns.append(mine.astype(float))
        first, span = float(stamps[mine].min()), float(np.ptp(stamps[mine])) or 1.0
        many = max(2, round(span / _TREND_DAYS) + 1)
        step = span / (many - 1)
        for knot in np.linspace(first, first + span, many):
            columns.append(mine * np.exp(-0.5 * ((stamps - knot) / step) ** 2) * (_TREND / _WIDE))
    return np.column_stack(columns)


def _sums(data: _Data, weights: Array) -> _Sums:
    many = len(data.names)
    weighed = data.design * weights[:, None]
    between, hours, hours_y = [], [], []
    for number in range(many):
        mine = data.profile == number
        place, w = data.place[mine], weights[mine]
        between.append(weighed[mine].T @ place)
        hours.append(place.T @ (place * w[:, None]))
        hours_y.append(place.T @ (w * data.y[mine]))
    return _Sums(
        plain=data.design.T @ weighed, between=np.array(between), hours=np.array(hours),
        plain_y=weighed.T @ data.y, hours_y=np.array(hours_y), square=float((weights * data.y**2).sum()),
        count=float(len(data.y)),
    )  # fmt: skip


def _fit(sums: _Sums, scale: Array, point: _Point) -> _Fit:
    """One point of the grid with the data. The columns: nuisance, what is shared, what each profile has of its own."""
    many = len(sums.hours)
    shared = np.zeros((HOURS_PER_WEEK, 0)) if point.prior is None else point.prior.shared
    taking = [n for n in range(many) if point.shares(n)]
    own = [point.own_factor(n) for n in range(many)]
    ends = np.cumsum([len(scale), shared.shape[1], *[factor.shape[1] for factor in own]])
    plain, common, *places = [slice(int(end - width), int(end)) for end, width in zip(
        ends, [len(scale), shared.shape[1], *[factor.shape[1] for factor in own]], strict=True)]  # fmt: skip
    inner, told = np.zeros((int(ends[-1]),) * 2), np.zeros(int(ends[-1]))
    inner[plain, plain] = scale[:, None] * sums.plain * scale
    inner[common, common] = shared.T @ sums.hours[taking].sum(axis=0) @ shared
    inner[common, plain] = shared.T @ (scale[:, None] * sums.between[taking].sum(axis=0)).T
    told[plain], told[common] = scale * sums.plain_y, shared.T @ sums.hours_y[taking].sum(axis=0)
    for number, (at, factor) in enumerate(zip(places, own, strict=True)):
        mine = sums.hours[number] @ factor
        inner[at, at] = factor.T @ mine
        inner[at, plain] = factor.T @ (scale[:, None] * sums.between[number]).T
        if point.shares(number):
            inner[at, common] = (shared.T @ mine).T
        told[at] = factor.T @ sums.hours_y[number]
    # Only the lower triangle is read.
    inner[np.diag_indices_from(inner)] += 1.0
    lower = cholesky(inner, lower=True, check_finite=False)
    half = solve_triangular(lower, told, lower=True, check_finite=False)
    rest = max(sums.square - float(half @ half), 1e-9)
    log_det = 2 * float(np.log(np.diag(lower)).sum())
    weight = 0.0 if point.prior is None else point.prior.log_weight
    return _Fit(
        point=point, log_evidence=-0.5 * log_det - 0.5 * sums.count * math.log(rest) + weight,
        solved=solve_triangular(lower, half, lower=True, trans="T", check_finite=False), chol=lower,
        variance=rest / max(sums.count, 1.0),
    )  # fmt: skip


def _fitted(data: _Data) -> HourModel:
    scale = _nuisance_scale(data)
    shared_alone = [_Point(prior=prior) for prior in _priors()]
    # Weights settle at the best point of what is shared alone; then the whole grid is gone through.
    sums = _sums(data, np.ones(len(data.y)))
    best = max((_fit(sums, scale, point) for point in shared_alone), key=lambda fit: fit.log_evidence)
    if best.point.prior is not None and best.point.prior.daily == max(_DAILY):
        beyond = [_fit(sums, scale, _Point(prior=prior)) for prior in _priors(is_strong=True)]
        strongest = max(beyond, key=lambda fit: fit.log_evidence)
        if strongest.log_evidence > best.log_evidence + _STRONG_ODDS:
            shared_alone += [fit.point for fit in beyond]
            best = strongest
    for _ in range(ROUNDS):
        weights = _weights(data, best)
        sums = _sums(data, weights)
        best = _fit(sums, scale, best.point)
    fits = [_fit(sums, scale, point) for point in shared_alone]
    if len(data.names) > 1:
        # What is own is looked at beside the shared priors that are of any weight.
        best_score = max(fit.log_evidence for fit in fits)
        near = [fit.point for fit in fits if fit.log_evidence > best_score - _FAR]
        fits += [_fit(sums, scale, replace(point, own=own)) for point in near for own in _OWN[1:]]
    without = _without_hours(data)
    null = _fit(_sums(without, weights), _nuisance_scale(without), _Point(prior=None))
    scores = np.array([fit.log_evidence for fit in fits])
    shares = np.exp(scores - scores.max())
    size = float(np.exp([p.prior.log_weight for p in shared_alone if p.prior]).sum()) * (
        len(_OWN) if len(data.names) > 1 else 1
    )
    odds = float(np.exp(np.clip(scores.max() + np.log(shares.sum() / size) - null.log_evidence, -50, 50)))
    # What weighs next to nothing is let go of.
    kept = [i for i, share in enumerate(shares / shares.sum()) if share >= _NOTHING]
    return HourModel(
        _data=data, _sums=sums, _fits=[fits[i] for i in kept], _shares=shares[kept] / shares[kept].sum(), odds=odds
    )


def _weights(data: _Data, fit: _Fit) -> Array:
    """Student-t weights by what the fit leaves over, of mean one."""
    k = data.design.shape[1]
    said = data.design @ (_nuisance_scale(data) * fit.solved[:k])
    if fit.point.prior is not None:
        shared = fit.point.prior.shared
        said = said + data.place @ (shared @ fit.solved[k : k + shared.shape[1]])
    weights = (FREEDOM + 1) / (FREEDOM + (data.y - said) ** 2 / fit.variance)
    found: Array = weights / weights.mean()
    return found


def _without_hours(data: _Data) -> _Data:
    """The same posts without anything that the hour could say."""
    design = data.design[:, :-1] if data.has_presence else data.design
    return _Data(
        design=design, place=data.place, hours=data.hours, profile=data.profile, names=data.names, y=data.y_plain,
        y_plain=data.y_plain, offsets=np.zeros_like(data.offsets), has_presence=False,
    )  # fmt: skip


def hour_effects(
    *, published_at: Sequence[datetime], values: Array, formats: Sequence[str], zone: ZoneInfo,
    presence: Array | None = None,
) -> HourEffects | None:  # fmt: skip
    """fit_hours for a single profile."""
    fitted = fit_hours(
        published_at=published_at, values=values, formats=formats, zone=zone,
        presence=None if presence is None else {"": presence},
    )  # fmt: skip
    return fitted.of("") if fitted else None
