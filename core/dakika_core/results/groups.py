"""Do the posts of a group do better than the others, and is it the group or what goes along with it?

Everything happens on the log of the index, so that group results are geometric means and ratios.
Each group is held against the posts outside of it. The adjusted comparison holds format and profile
(or whatever else is passed) fixed by a log-linear model.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from dakika_core.values.figure import Interval

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

FEWEST = 5
LEVEL = 0.95
Verdict = Literal["better", "worse", "open", "few"]


@dataclass(frozen=True, kw_only=True)
class Ratio:
    """A ratio of geometric means with its interval and two-sided p-value."""

    value: float
    interval: Interval
    p: float


@dataclass(frozen=True, kw_only=True)
class GroupResult:
    """One group: its own index, raw against the rest, adjusted against the rest.

    q is the p-value after Benjamini-Hochberg over the groups shown, of the adjusted ratio where
    there is one, else of the raw one. A group of fewer than five posts is shown and not judged.
    """

    name: str
    n: int
    index: float | None
    interval: Interval | None
    raw: Ratio | None
    adjusted: Ratio | None
    q: float | None
    verdict: Verdict


def compare_groups(
    index: Array, groups: dict[str, Mask], controls: Array | None = None, *, level: float = LEVEL, fdr: float = 0.05
) -> list[GroupResult]:
    """Compare each group with the posts outside of it.

    index: shape (n,), > 0; posts whose index is missing or not positive are left out everywhere.
    groups: masks of shape (n,), which may overlap. controls: shape (n, k), indicator columns of
    what is to be held fixed. Returned in the order of the index, the best first, unjudged last.
    """
    usable = ~np.isnan(index) & (index > 0)
    y = np.log(index[usable])
    z = None if controls is None or controls.shape[1] == 0 else controls[usable]
    made = []
    for name, mask in groups.items():
        inside = mask[usable]
        made.append((name, inside, *_own(y[inside], level), _against_rest(y, inside, level)))
    adjusted = _adjusted(y, [inside for _, inside, *_ in made], z, level)
    ps = [
        (a or raw).p if inside.sum() >= FEWEST and (a or raw) is not None else None  # type: ignore[union-attr]
        for (_, inside, _, _, raw), a in zip(made, adjusted, strict=True)
    ]
    qs = iter(benjamini_hochberg(np.array([p for p in ps if p is not None])))
    results = []
    for (name, inside, mean, interval, raw), a, p in zip(made, adjusted, ps, strict=True):
        q = None if p is None else float(next(qs))
        n = int(inside.sum())
        held = a or raw
        verdict: Verdict = "few" if n < FEWEST or held is None else "open"
        if q is not None and held is not None and q <= fdr:
            verdict = "better" if held.value > 1 else "worse"
        results.append(
            GroupResult(
                name=name, n=n, index=mean, interval=interval, raw=raw, adjusted=a, q=q, verdict=verdict,
            )
        )  # fmt: skip
    return sorted(results, key=lambda r: (r.n < FEWEST, -(r.index or 0.0), r.name))


def _own(logs: Array, level: float) -> tuple[float | None, Interval | None]:
    """Geometric mean with its t interval."""
    from scipy.special import stdtrit

    n = len(logs)
    if n == 0:
        return None, None
    mean = float(logs.mean())
    if n < 2:
        return float(np.exp(mean)), None
    half = float(stdtrit(n - 1, 0.5 + level / 2)) * float(logs.std(ddof=1)) / np.sqrt(n)
    return float(np.exp(mean)), Interval(low=float(np.exp(mean - half)), high=float(np.exp(mean + half)), level=level)


def _against_rest(y: Array, inside: Mask, level: float) -> Ratio | None:
    """Welch's comparison of the logs, group against rest (Welch 1947)."""
    from scipy.special import stdtr, stdtrit

    a, b = y[inside], y[~inside]
    if len(a) < 2 or len(b) < 2:
        return None
    va, vb = a.var(ddof=1) / len(a), b.var(ddof=1) / len(b)
    if va + vb == 0:
        return None
    difference = float(a.mean() - b.mean())
    spread = float(np.sqrt(va + vb))
    free = float((va + vb) ** 2 / (va**2 / (len(a) - 1) + vb**2 / (len(b) - 1)))
    half = float(stdtrit(free, 0.5 + level / 2)) * spread
    return _ratio(difference, half, float(2 * stdtr(free, -abs(difference) / spread)), level)


def _ratio(difference: float, half: float, p: float, level: float) -> Ratio:
    interval = Interval(low=float(np.exp(difference - half)), high=float(np.exp(difference + half)), level=level)
    return Ratio(value=float(np.exp(difference)), interval=interval, p=p)


def _adjusted(y: Array, insides: list[Mask], z: Array | None, level: float) -> list[Ratio | None]:
    """Group against rest with the controls held fixed: ordinary least squares on the logs.

    One model per group, log index ~ group + controls, solved together by taking the controls out
    of both sides first (Frisch, Waugh and Lovell). Standard errors are the heteroscedasticity-
    consistent ones of MacKinnon and White 1985 with the correction n / (n - k) (known as HC1).
    None where the controls leave nothing of the group to compare.
    """
    from scipy.special import stdtr, stdtrit

    nothing: list[Ratio | None] = [None] * len(insides)
    if z is None or len(y) == 0 or not insides:
        return nothing
    fixed = np.column_stack([np.ones(len(y)), z])
    basis = _orthonormal(fixed)
    rank = basis.shape[1]
    free = len(y) - rank - 1
    if free < FEWEST:
        return nothing
    members = np.column_stack(insides).astype(float)
    left_y = y - basis @ (basis.T @ y)
    left = members - basis @ (basis.T @ members)
    for g, inside in enumerate(insides):
        own = left[:, g]
        size = float(own @ own)
        if inside.sum() < FEWEST or size < 1e-6 * max(1.0, float(inside.sum())):
            continue
        effect = float(own @ left_y) / size
        residual = left_y - effect * own
        variance = float((own**2 * residual**2).sum()) / size**2 * len(y) / free
        spread = np.sqrt(variance)
        if spread == 0:
            continue
        half = float(stdtrit(free, 0.5 + level / 2)) * spread
        nothing[g] = _ratio(effect, half, float(2 * stdtr(free, -abs(effect) / spread)), level)
    return nothing


def _orthonormal(columns: Array) -> Array:
    """An orthonormal basis of what the columns span; columns that repeat others fall away."""
    u, s, _ = np.linalg.svd(columns, full_matrices=False)
    return np.asarray(u[:, s > s[0] * 1e-9])


def indicators(values: list[str]) -> Array:
    """One column for each value but the most frequent: shape (n, values - 1)."""
    names, counts = np.unique(np.array(values, dtype=object).astype(str), return_counts=True)
    others = [name for i, name in enumerate(names) if i != int(np.argmax(counts))]
    column = np.array(values)
    if not others:
        return np.empty((len(values), 0))
    return np.column_stack([(column == name).astype(float) for name in others])


def benjamini_hochberg(p: Array) -> Array:
    """Adjusted p-values that bound the false discovery rate (Benjamini and Hochberg 1995): shape (n,)."""
    n = len(p)
    if n == 0:
        return np.empty(0)
    order = np.argsort(p, kind="stable")
    scaled = p[order] * n / np.arange(1, n + 1)
    adjusted = np.empty(n)
    adjusted[order] = np.minimum(1.0, np.minimum.accumulate(scaled[::-1])[::-1])
    return adjusted
