"""Repeating a post: when, with which of its texts, how soon the same words may come again, and when it wears out.

In the trade's words: evergreen content, recycling, recurring posts, content fatigue.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from dateutil.rrule import rrulestr
from numpy.typing import NDArray

from dakika_core.results.groups import benjamini_hochberg
from dakika_core.values.figure import Interval

Array = NDArray[np.float64]
MOST_TIMES = 100
LONGEST_SPAN = timedelta(days=366)
LEVEL, FDR, FEWEST = 0.95, 0.05, 5
# From the fourth time on posts are too few to be told apart by how often they came.
LAST_TIME = 4

# What a rule may say: RFC 5545, 3.3.10, without what repeats within a day and without an end, which the days give.
_PART = re.compile(r"([A-Z]+)=([A-Z0-9,+-]+)")
_ALLOWED = frozenset({"FREQ", "INTERVAL", "BYDAY", "BYMONTHDAY", "BYMONTH", "BYSETPOS", "WKST"})
_FREQUENCIES = frozenset({"DAILY", "WEEKLY", "MONTHLY", "YEARLY"})
_ADDRESS, _SIGN = re.compile(r"https?://\S+"), re.compile(r"\W+")


class RuleError(ValueError):
    """What was given is no rule to repeat by; the text says why, for people."""


def occurrences(rule: str, first: date, last: date, at: time, zone: ZoneInfo) -> list[datetime]:
    """The instants at which something comes again, from the first day to the last, both counted in.

    rule: a recurrence rule as RFC 5545 writes it, such as FREQ=WEEKLY;INTERVAL=2;BYDAY=TU, counted from the first day;
    worked out by python-dateutil in the zone's own clock, so that an hour stays as the clocks change. An hour that they
    leave out is the one after it, one that comes twice is the earlier. Raises RuleError for what is no rule, for more
    than a hundred times, and for more than a year.
    """
    if last < first:
        raise RuleError("It ends before it begins.")
    if last - first > LONGEST_SPAN:
        raise RuleError("It goes over more than a year. Choose an earlier end.")
    told = _checked(rule)
    begin, end = datetime.combine(first, at), datetime.combine(last, at)
    try:
        found = rrulestr(told, dtstart=begin)
        times = [one for one, _ in zip(found.xafter(begin, count=MOST_TIMES + 1, inc=True), range(MOST_TIMES + 1),
                                       strict=False) if one <= end]  # fmt: skip
    except (ValueError, TypeError, OverflowError, AttributeError) as error:
        raise RuleError("This is no rule to repeat by.") from error
    if len(times) > MOST_TIMES:
        raise RuleError(f"These are more than {MOST_TIMES} times. Repeat less often, or end earlier.")
    return [one.replace(tzinfo=zone).astimezone(UTC).astimezone(zone) for one in times]


def _checked(rule: str) -> str:
    matches = [_PART.fullmatch(part) for part in rule.split(";")]
    parts = {match[1]: match[2] for match in matches if match}
    if len(parts) != len(matches) or not parts.keys() <= _ALLOWED or parts.get("FREQ") not in _FREQUENCIES:
        raise RuleError("This is no rule to repeat by: days, weeks, months or years, and which of them.")
    if not 1 <= int(parts.get("INTERVAL", "1") if parts.get("INTERVAL", "1").isdecimal() else 0) <= LONGEST_SPAN.days:
        raise RuleError("Say after how many days, weeks or months it comes again.")
    return rule


def turned(texts: Sequence[str], number: int) -> str:
    """The text for the number-th time (from 0): each in its turn."""
    return texts[number % len(texts)]


def same_words(text: str) -> str:
    """A text as its reader takes it for the same: small letters, without addresses and signs."""
    return " ".join(_SIGN.sub(" ", _ADDRESS.sub(" ", text.casefold())).split())


def too_soon(at: datetime, text: str, others: Sequence[tuple[datetime, str]], days: int) -> datetime | None:
    """The nearest other post with the same words less than some days away, None where there is none.

    others: instants and texts of the same profile. A text without words is never the same.
    """
    words = same_words(text)
    if not words or days <= 0:
        return None
    near = [when for when, told in others if abs(when - at) < timedelta(days=days) and same_words(told) == words]
    return min(near, key=lambda when: abs(when - at), default=None)


@dataclass(frozen=True, kw_only=True)
class NthTime:
    """What posts got that said the same for the number-th time (the last one: or later).

    index: geometric mean of what is as times the usual, with a 95 % interval (t on the logs); None for fewer than two.
    is_worn: they do worse than a usual post, beyond chance over all times that are judged.
    """

    number: int
    posts: int
    index: float | None
    interval: Interval | None
    is_worn: bool


def by_time(texts: Sequence[str], index: Array) -> list[NthTime]:
    """How posts did by how often the same words had been said before, from the first time on.

    texts: of one profile's posts (or of several, each text with its profile before it), in the order in which they were
    published; index: shape (n,), as times the usual, nan where unknown. Texts that came once alone are left out, so
    that the first time is that of posts which were repeated. Each time is held against a usual post, not the first one:
    what did well is what people repeat, and would look worn for that alone (regression to the mean).
    """
    from scipy.special import stdtr, stdtrit

    order: dict[str, int] = {}
    numbers = np.zeros(len(texts), dtype=int)
    words = [same_words(text) for text in texts]
    for i, told in enumerate(words):
        if told:
            order[told] = order.get(told, 0) + 1
            numbers[i] = order[told]
    repeated = np.array([order.get(told, 0) > 1 for told in words], dtype=bool)
    known = repeated & np.isfinite(index) & (np.nan_to_num(index) > 0)
    found, ps = [], []
    for number in range(1, LAST_TIME + 1):
        of = known & (numbers >= number if number == LAST_TIME else numbers == number)
        logs = np.log(index[of])
        n = len(logs)
        mean = float(logs.mean()) if n else 0.0
        spread = float(logs.std(ddof=1)) / n**0.5 if n > 1 else 0.0
        interval = None
        if spread > 0:
            half = float(stdtrit(n - 1, 0.5 + LEVEL / 2)) * spread
            interval = Interval(low=float(np.exp(mean - half)), high=float(np.exp(mean + half)), level=LEVEL)
        is_judged = number > 1 and n >= FEWEST and spread > 0
        ps.append(float(2 * stdtr(n - 1, -abs(mean) / spread)) if is_judged else None)
        found.append((number, n, float(np.exp(mean)) if n else None, interval, mean))
    qs = iter(benjamini_hochberg(np.array([p for p in ps if p is not None])))
    return [
        NthTime(number=number, posts=n, index=value, interval=interval,
                is_worn=p is not None and bool(next(qs) <= FDR) and mean < 0)
        for (number, n, value, interval, mean), p in zip(found, ps, strict=True)
    ]  # fmt: skip
