"""The middle of some values, and between which of them the true middle lies.

In the trade's words: order statistics, confidence interval of a median.
"""

from scipy.special import bdtr

FEWEST = 6


def median_ranks(n: int, *, level: float = 0.95) -> tuple[int, int] | None:
    """The ranks (1 is the smallest of n) between whose values the median lies with at least this probability.

    Exact and free of any distribution, from the binomial distribution of how many values lie below (Conover,
    Practical Nonparametric Statistics, 3rd ed. 1999, section 3.2; from memory). None below six values, where even the
    smallest and the largest do not hold it at 95 %.
    """
    tail = (1 - level) / 2
    if n < 1 or bdtr(0, n, 0.5) > tail:
        return None
    low, high = 0, n // 2
    # The largest rank r with P(fewer than r lie below) <= tail.
    while low < high:
        middle = (low + high + 1) // 2
        if bdtr(middle - 1, n, 0.5) <= tail:
            low = middle
        else:
            high = middle - 1
    return low, n + 1 - low
