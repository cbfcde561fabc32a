"""How is what a set receives spread over its members?

In the trade's words: share of voice.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import expit, logit, ndtri

from dakika_core.values.figure import Figure, Interval

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Concentration:
    """gini: 0 where all have the same, towards 1 where one has all (1 - 1/n). herfindahl: sum of squared shares, 1/n
    to 1; times 10,000 it is the figure of competition law. effective: as many equal members would give the same.
    """

    gini: float
    herfindahl: float
    effective: float


def concentration(amounts: Sequence[float] | Array) -> Concentration | None:
    """Concentration of amounts, none of them negative; None where there is nothing.

    Gini by the mean absolute difference: sum of (2i - n - 1) x_i over n times the sum, x in ascending order.
    Herfindahl and Hirschman's sum of squared shares. Raises ValueError for negative amounts.
    """
    x = np.sort(np.asarray(amounts, dtype=float))
    if (x < 0).any() or np.isnan(x).any():
        raise ValueError("amounts are known and not negative")
    total = float(x.sum())
    if total <= 0:
        return None
    n = len(x)
    gini = float((2 * np.arange(1, n + 1) - n - 1) @ x) / (n * total)
    herfindahl = float(((x / total) ** 2).sum())
    return Concentration(gini=gini, herfindahl=herfindahl, effective=1 / herfindahl)


def share_of(totals: Array, variances: Array, ours: NDArray[np.bool_], *, level: float = 0.95) -> Figure:
    """Our part of what the whole set received: totals and their variances of shape (members,), NaN unknown.

    Members without a total are left out and counted as missing. The interval is on the logit scale by the delta
    method, from the variances of our total and of the others', which are apart.
    """
    known = ~np.isnan(totals)
    missing = int((~known).sum())
    own, others = totals[known & ours].sum(), totals[known & ~ours].sum()
    whole = own + others
    if whole <= 0 or not (known & ours).any():
        return Figure(value=None, missing=missing)
    share, interval = own / whole, None
    variance = np.where(np.isnan(variances), np.inf, variances)
    if own > 0 and others > 0:
        spread = np.sqrt(variance[known & ours].sum() / own**2 + variance[known & ~ours].sum() / others**2)
        if np.isfinite(spread):
            reach = float(ndtri(0.5 + level / 2)) * spread
            interval = Interval(low=float(expit(logit(share) - reach)), high=float(expit(logit(share) + reach)),
                                level=level)  # fmt: skip
    return Figure(value=float(share), n=int(known.sum()), missing=missing, numerator=float(own),
                  denominator=float(whole), interval=interval)  # fmt: skip
