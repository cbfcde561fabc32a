"""Money that shows posts to more people: what may still be given, and what a click or a conversion cost.

Money is in cents of one currency.

In the trade's words: paid promotion, advertising spend, cost per click, cost per conversion.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from scipy.stats import chi2

from dakika_core.networks.definition import BoostRule
from dakika_core.values.figure import Interval

LEAST_SPAN = timedelta(hours=1)
LEVEL = 0.95


@dataclass(frozen=True, kw_only=True)
class Given:
    """A boost as far as money goes: what it may spend between two instants at most, and what of it is spent.

    is_over: it cannot spend more than it has, because its network said so.
    """

    starts_at: datetime
    ends_at: datetime
    cents: int
    spent: int = 0
    is_over: bool = False

    @property
    def at_most(self) -> int:
        """What it will have spent at most when all is over. What a network took beyond the budget is gone, too."""
        return self.spent if self.is_over else max(self.cents, self.spent)


def problems_of(
    rule: BoostRule, asked: Given, countries: Sequence[str], ages: Sequence[str], now: datetime
) -> dict[str, str]:
    """What is wrong with a boost by its network's rules, by field; nothing where the network would take it."""
    found: dict[str, str] = {}
    if not rule.least_cents <= asked.cents <= rule.most_cents:
        found["cents"] = f"From {money(rule.least_cents)} to {money(rule.most_cents)} {rule.currency}."
    if asked.ends_at <= now:
        found["ends_at"] = "This end has passed. Choose a later one."
    elif asked.ends_at - max(asked.starts_at, now) < LEAST_SPAN:
        found["ends_at"] = "It runs an hour at least. Choose a later end."
    elif asked.ends_at - asked.starts_at > timedelta(days=rule.most_days):
        found["ends_at"] = f"It runs {rule.most_days} days at most. Choose an earlier end."
    if not set(countries) <= set(rule.countries):
        found["countries"] = "One of the countries is not offered."
    if not set(ages) <= set(rule.ages):
        found["ages"] = "One of the ages is not offered."
    return found


def months_of(boost: Given, zone: ZoneInfo) -> set[date]:
    """The months that a boost may spend in, as their first days."""
    day, last = boost.starts_at.astimezone(zone).date(), boost.ends_at.astimezone(zone).date()
    found = set()
    while day <= last:
        found.add(day.replace(day=1))
        day = (day.replace(day=1) + timedelta(days=32)).replace(day=1)
    return found


def left_in(limit: int, boosts: Iterable[Given], month: date, zone: ZoneInfo) -> int:
    """What may still be given in a month. A boost that runs over into another counts whole in both: then neither can
    be passed, however its network spreads the money.
    """
    return limit - sum(one.at_most for one in boosts if month in months_of(one, zone))


def money(cents: int) -> str:
    """Cents as an amount."""
    return f"{cents / 100:,.2f}"


def cost_each(cents: float, count: float) -> float | None:
    """What one of a count cost, in the same unit; None where nothing came of it."""
    return cents / count if count > 0 else None


def cost_interval(cents: float, count: int) -> Interval | None:
    """Where the true cost of one lies, did chance alone move the count (Poisson, exact, Garwood 1936).

    From none nothing can be said upwards: the interval is then open, and None.
    """
    if count <= 0 or cents <= 0:
        return None
    low, high = count_interval(count)
    return Interval(low=cents / high, high=cents / low, level=LEVEL)


def count_interval(count: int) -> tuple[float, float]:
    """The exact interval of a Poisson mean of which one count is known (Garwood 1936, Biometrika 28)."""
    tail = (1 - LEVEL) / 2
    low = float(chi2.ppf(tail, 2 * count)) / 2 if count else 0.0
    return low, float(chi2.ppf(1 - tail, 2 * count + 2)) / 2
