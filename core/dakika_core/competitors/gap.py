"""What separates us from somebody, split exactly over audience, pace and reaction; and what would close it.

Interactions a week are audience of a post x posts a week x interactions for each post and follower. The difference of
two products is split by the logarithmic mean Divisia index (B. W. Ang 2005, "The LMDI approach to decomposition
analysis: a practical guide", Energy Policy 33, 867-871): each factor's part is the logarithmic mean of both products
times the log of the factor's ratio. It adds up with nothing left over, and swapping both sides only turns the signs.

In the trade's words: gap analysis.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import ndtri

from dakika_core.competitors.field import Sums, moments_per_follower
from dakika_core.metrics.rates import ratio_from_moments
from dakika_core.values.figure import Interval

FACTORS = ("audience", "posts", "reaction")


def logarithmic_mean(a: float, b: float) -> float:
    """(a - b) / (ln a - ln b), and a where both are the same. Raises ValueError unless both are above zero."""
    if a <= 0 or b <= 0:
        raise ValueError("the logarithmic mean is of numbers above zero")
    ratio = np.log(a / b)
    if abs(ratio) < 1e-6:
        # The series of the quotient around equal numbers, where it loses all its digits.
        return float(np.sqrt(a * b) * (1 + ratio**2 / 24))
    return float((a - b) / ratio)


def divided(ours: Sequence[float], theirs: Sequence[float]) -> list[float]:
    """What each factor makes of product(theirs) - product(ours): shape (factors,). Raises ValueError for zeros."""
    if min(ours) <= 0 or min(theirs) <= 0:
        raise ValueError("factors are above zero")
    weight = logarithmic_mean(float(np.prod(theirs)), float(np.prod(ours)))
    return [weight * float(np.log(b / a)) for a, b in zip(ours, theirs, strict=True)]


@dataclass(frozen=True, kw_only=True)
class Product:
    """A member's week. audience: followers at publishing of a post on average. posts: a week. reaction: interactions
    for each post and follower; error: standard error of its log, None where there are too few posts to tell.
    """

    audience: float
    posts: float
    reaction: float
    error: float | None = None

    @property
    def interactions(self) -> float:
        """Interactions a week."""
        return self.audience * self.posts * self.reaction

    def factors(self) -> tuple[float, float, float]:
        """In the order of FACTORS."""
        return self.audience, self.posts, self.reaction


def product_of(sums: Sums) -> Product | None:
    """A member's week from its sums; None where a factor is not known or zero, since nothing can be split then."""
    if not (sums.weeks > 0 and sums.posts > 0 and sums.paired > 0 and sums.followers_sum > 0):
        return None
    rate = ratio_from_moments(moments_per_follower(sums))
    if not rate.value:
        return None
    held, error = rate.interval, None
    if held is not None and held.low > 0:
        error = float(np.log(held.high / held.low) / 2 / ndtri(0.975))
    return Product(audience=sums.followers_sum / sums.paired, posts=sums.posts / sums.weeks, reaction=rate.value,
                   error=error)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Lever:
    """One factor of the gap.

    part: of theirs less ours, in interactions a week; positive where they are ahead. interval: as far as the posts are
    a sample (reaction alone: followers and posts are counted). needed: what ours would have to become by itself, all
    else as it is. low, high: the field's range. best_quarter: our own best. plausible: whether needed lies within
    either; None where neither is known.
    """

    factor: str
    ours: float
    theirs: float
    part: float
    interval: Interval | None
    needed: float
    field_low: float | None
    field_high: float | None
    best_quarter: float | None
    is_plausible: bool | None


@dataclass(frozen=True, kw_only=True)
class Gap:
    """The whole difference, theirs less ours, in interactions a week, and its levers in the order of FACTORS."""

    ours: float
    theirs: float
    levers: tuple[Lever, ...]

    @property
    def difference(self) -> float:
        """Positive where they are ahead."""
        return self.theirs - self.ours


def gap_between(
    ours: Product, theirs: Product, *, field: Sequence[Product] = (), best_quarter: Mapping[str, float] | None = None,
    level: float = 0.95,
) -> Gap:  # fmt: skip
    """Split the gap, and say of each factor what it alone would take.

    field: the other members, whose range says what has been done. best_quarter: our best thirteen weeks by factor.
    """
    parts = divided(ours.factors(), theirs.factors())
    ratio = theirs.interactions / ours.interactions
    interval = None
    if ours.error is not None and theirs.error is not None:
        spread = float(np.hypot(*_slopes(ours, theirs) * np.array([theirs.error, ours.error])))
        reach = float(ndtri(0.5 + level / 2)) * spread
        interval = Interval(low=parts[2] - reach, high=parts[2] + reach, level=level)
    levers = []
    for i, name in enumerate(FACTORS):
        own = ours.factors()[i]
        seen = [product.factors()[i] for product in field]
        best = (best_quarter or {}).get(name)
        reached = [value for value in (max(seen, default=None), best) if value is not None]
        needed = own * ratio
        levers.append(
            Lever(
                factor=name, ours=own, theirs=theirs.factors()[i], part=parts[i],
                interval=interval if name == "reaction" else None, needed=needed,
                field_low=min(seen, default=None), field_high=max(seen, default=None), best_quarter=best,
                is_plausible=(needed <= max(reached)) if reached else None,
            )
        )  # fmt: skip
    return Gap(ours=ours.interactions, theirs=theirs.interactions, levers=tuple(levers))


def _slopes(ours: Product, theirs: Product) -> "np.ndarray[tuple[int], np.dtype[np.float64]]":
    """How the part of reaction goes with the log of theirs and of ours: through the factor, and through the mean."""
    high, low = theirs.interactions, ours.interactions
    mean, log, whole = logarithmic_mean(high, low), float(np.log(theirs.reaction / ours.reaction)), np.log(high / low)
    # Both quotients tend to half of the common value where the two are the same.
    with_high, with_low = ((high - mean) / whole, (mean - low) / whole) if abs(whole) > 1e-6 else (mean / 2, mean / 2)
    return np.array([mean + log * with_high, -mean + log * with_low])


def middle_of(field: Sequence[Product]) -> Product | None:
    """The set's middle as somebody to be held against: the median of each factor; None for nobody.

    Its interactions are the product of the medians, not the median of the products. It has no error of its own: it is
    a mark, not a member.
    """
    if not field:
        return None
    audience, posts, reaction = np.median([product.factors() for product in field], axis=0)
    return Product(audience=float(audience), posts=float(posts), reaction=float(reaction), error=0.0)
