"""Do the posts of a group do better than the others, and is it the group or what goes along with it?

Everything happens on the log of the index, so that group results are geometric means and ratios.
Each group is held against the posts outside of it. The adjusted comparison holds format and profile
(or whatever else is passed) fixed by a log-linear model.

In the trade's words: segment comparison, confounding, robust standard errors.
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
FDR = 0.05
# Below this share of a group's posts nothing is left to compare once the controls are taken out.
LEAST_LEFT = 1e-6
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


@dataclass(frozen=True, kw_only=True)
class Moments:
    """Posts of some cells added up: how many, the sum of log indices, the sum of their squares: shape (cells,) each.

    A cell holds the posts that are alike in everything that is held fixed (same profile, same format).
    """

    n: Array
    total: Array
    squares: Array

    def without(self, other: "Moments") -> "Moments":
        """What is left when others are taken out."""
        return Moments(n=self.n - other.n, total=self.total - other.total, squares=self.squares - other.squares)


def compare_groups(
    index: Array, groups: dict[str, Mask], controls: Array | None = None, *, level: float = LEVEL, fdr: float = FDR
) -> list[GroupResult]:
    """Compare each group with the posts outside of it.

    index: shape (n,), > 0; posts whose index is missing or not positive are left out everywhere.
    groups: masks of shape (n,), which may overlap. controls: shape (n, k), indicator columns of
    what is to be held fixed. Returned in the order of the index, the best first, unjudged last.
    """
    usable = ~np.isnan(index) & (index > 0)
    y = np.log(index[usable])
    z = np.empty((len(y), 0)) if controls is None else controls[usable]
    cells, cell_of = (
        np.unique(z, axis=0, return_inverse=True) if z.shape[1] else (np.empty((1, 0)), np.zeros(len(y), int))
    )
    cell_of = cell_of.reshape(-1)

    def moments(mask: Mask) -> Moments:
        inside, logs = cell_of[mask], y[mask]
        count = len(cells)
        return Moments(
            n=np.bincount(inside, minlength=count).astype(float),
            total=np.bincount(inside, logs, minlength=count).astype(float),
            squares=np.bincount(inside, logs**2, minlength=count).astype(float),
        )  # fmt: skip

    whole = moments(np.ones(len(y), bool))
    return compare_moments(
        whole, {name: moments(mask[usable]) for name, mask in groups.items()}, cells, level=level, fdr=fdr
    )


def compare_moments(
    whole: Moments, groups: dict[str, Moments], controls: Array, *, level: float = LEVEL, fdr: float = FDR
) -> list[GroupResult]:
    """compare_groups from sums by cell, as a database adds them up. controls: shape (cells, k), no constant."""
    raw = [_against_rest(group, whole.without(group), level) for group in groups.values()]
    adjusted = _adjusted(whole, list(groups.values()), controls, level)
    held = [a or r for a, r in zip(adjusted, raw, strict=True)]
    sizes = [int(group.n.sum()) for group in groups.values()]
    ps = [r.p if r is not None and n >= FEWEST else None for r, n in zip(held, sizes, strict=True)]
    qs = iter(benjamini_hochberg(np.array([p for p in ps if p is not None])))
    results = []
    for i, (name, group) in enumerate(groups.items()):
        mean, interval = _own(group, level)
        q = None if ps[i] is None else float(next(qs))
        verdict: Verdict = "few" if q is None else "open"
        ratio = held[i]
        if q is not None and ratio is not None and q <= fdr:
            verdict = "better" if ratio.value > 1 else "worse"
        results.append(
            GroupResult(
                name=name, n=sizes[i], index=mean, interval=interval, raw=raw[i], adjusted=adjusted[i], q=q,
                verdict=verdict,
            )
        )  # fmt: skip
    return sorted(results, key=lambda r: (r.n < FEWEST, -(r.index or 0.0), r.name))


def _mean_and_variance(group: Moments) -> tuple[float, float, float]:
    n, total = float(group.n.sum()), float(group.total.sum())
    mean = total / n if n else 0.0
    variance = max(0.0, float(group.squares.sum()) - n * mean**2) / (n - 1) if n > 1 else 0.0
    return n, mean, variance


def _own(group: Moments, level: float) -> tuple[float | None, Interval | None]:
    """Geometric mean with its t interval."""
    from scipy.special import stdtrit

    n, mean, variance = _mean_and_variance(group)
    if n == 0:
        return None, None
    if n < 2:
        return float(np.exp(mean)), None
    half = float(stdtrit(n - 1, 0.5 + level / 2)) * np.sqrt(variance / n)
    return float(np.exp(mean)), Interval(low=float(np.exp(mean - half)), high=float(np.exp(mean + half)), level=level)


def _against_rest(group: Moments, rest: Moments, level: float) -> Ratio | None:
    """Difference of the mean logs, group against rest, each with a variance of its own.

    That is HC2 for two groups (MacKinnon and White 1985), with the degrees of freedom of Bell and
    McCaffrey 2002: those of Welch, estimated from the same few posts as the variances, are too many.
    """
    (na, a, sa), (nb, b, sb) = _mean_and_variance(group), _mean_and_variance(rest)
    if na < 2 or nb < 2:
        return None
    variance = sa / na + sb / nb
    if variance <= 0:
        return None
    free = (1 / na + 1 / nb) ** 2 / (1 / (na**2 * (na - 1)) + 1 / (nb**2 * (nb - 1)))
    return _ratio(a - b, float(np.sqrt(variance)), free, level)


def _ratio(difference: float, spread: float, free: float, level: float) -> Ratio:
    from scipy.special import stdtr, stdtrit

    half = min(50.0, float(stdtrit(free, 0.5 + level / 2)) * spread)
    return Ratio(
        value=float(np.exp(difference)),
        interval=Interval(low=float(np.exp(difference - half)), high=float(np.exp(difference + half)), level=level),
        p=float(2 * stdtr(free, -abs(difference) / spread)),
    )


def _adjusted(whole: Moments, groups: list[Moments], controls: Array, level: float) -> list[Ratio | None]:
    """Group against rest with the controls held fixed: ordinary least squares on the logs.

    One model per group, log index ~ group + controls, solved by taking the controls out of both
    sides first (Frisch, Waugh and Lovell); since the controls are the same for all posts of a cell,
    sums by cell are all that is needed. Standard errors are the heteroscedasticity-consistent ones
    known as HC2 (MacKinnon and White 1985), with the degrees of freedom of Bell and McCaffrey 2002,
    which hold what they promise for small groups too. None where the controls leave nothing of the
    group to compare.
    """
    found: list[Ratio | None] = [None] * len(groups)
    if controls.shape[1] == 0 or not groups:
        return found
    z = np.column_stack([np.ones(len(controls)), controls])
    gram = (z * whole.n[:, None]).T @ z
    inverse = np.linalg.pinv(gram, hermitian=True)
    if whole.n.sum() - np.linalg.matrix_rank(gram, hermitian=True) - 1 < FEWEST:
        return found
    hat = z @ inverse @ z.T
    fitted_y = z @ (inverse @ (z.T @ whole.total))
    for g, group in enumerate(groups):
        members = group.n.sum()
        share = hat @ group.n
        inside, outside = 1 - share, -share
        rest = whole.without(group)
        size = float(group.n @ inside**2 + rest.n @ outside**2)
        if members < FEWEST or size < LEAST_LEFT * members:
            continue
        product = inside @ (group.total - group.n * fitted_y) + outside @ (rest.total - rest.n * fitted_y)
        effect = float(product) / size
        parts = [(group, inside), (rest, outside)]
        # What is left of each post beside its own pull on the fit; a post that is fitted exactly tells nothing.
        leverage = [np.minimum(np.diag(hat) + left**2 / size, 1.0) for _, left in parts]
        weight = [np.where(h < 1 - 1e-9, left**2 / np.maximum(1 - h, 1e-9), 0.0) / size**2
                  for (_, left), h in zip(parts, leverage, strict=True)]  # fmt: skip
        variance = sum(
            float(w @ _squares(part, left, fitted_y, effect))
            for (part, left), w in zip(parts, weight, strict=True)
        )  # fmt: skip
        free = _degrees_of_freedom([(part.n, left) for part, left in parts], weight, leverage, hat, size)
        if variance > 0 and free >= 1:
            found[g] = _ratio(effect, float(np.sqrt(variance)), free, level)
    return found


def _squares(part: Moments, left: Array, fitted: Array, effect: float) -> Array:
    """Sum of squared residuals by cell."""
    middle = fitted + effect * left
    found: Array = np.maximum(part.squares - 2 * part.total * middle + part.n * middle**2, 0.0)
    return found


def _degrees_of_freedom(
    parts: list[tuple[Array, Array]], weight: list[Array], leverage: list[Array], hat: Array, size: float
) -> float:
    """Bell and McCaffrey 2002: those of the chi-square whose first two moments the variance estimate has.

    The estimate is e' W e with residuals e = M y; with equal variances its mean is tr(M W), its
    variance 2 tr(M W M W). Posts of a cell are alike, so that sums by cell are enough. parts: posts
    by cell and what is left of membership, for members and the rest.
    """
    first = sum(float((n * w) @ (1 - h)) for (n, _), w, h in zip(parts, weight, leverage, strict=True))
    own = sum(float((n * w**2) @ (1 - 2 * h)) for (n, _), w, h in zip(parts, weight, leverage, strict=True))
    by_cell = sum(n * w for (n, _), w in zip(parts, weight, strict=True))
    pulled = sum(n * w * left for (n, left), w in zip(parts, weight, strict=True))
    squared = sum(float((n * w) @ left**2) for (n, left), w in zip(parts, weight, strict=True))
    second = own + float(by_cell @ (hat**2) @ by_cell) + 2 * float(pulled @ hat @ pulled) / size + (squared / size) ** 2
    return first**2 / second if second > 0 else 0.0


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
