"""Items of a feed as posts: which of them, with which words, and when each goes out."""

import re
from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import regex

from dakika_core.plan.templates import filled, places_in
from dakika_core.values.text import cut

PLACES = ("title", "summary", "address", "author", "feed", "date")
PLAIN = "{title}\n\n{address}"
SHORTEST_SUMMARY = 40
_UNSPACED = regex.compile(r"[\p{Han}\p{Hiragana}\p{Katakana}\p{Thai}\p{Lao}\p{Khmer}\p{Myanmar}]")


@dataclass(frozen=True, kw_only=True)
class Quiet:
    """Hours in which nothing goes out, by a clock on the wall; they may run over midnight. start equal to end: none."""

    start: time
    end: time
    zone: ZoneInfo

    def holds(self, at: datetime) -> bool:
        """Whether an instant lies in them."""
        told = at.astimezone(self.zone).time()
        if self.start <= self.end:
            return self.start <= told < self.end
        return told >= self.start or told < self.end

    def ends(self, at: datetime) -> datetime:
        """The first instant after one in them that is not. On a night on which clocks change it still lies outside."""
        local = at.astimezone(self.zone)
        day = local.date() if local.time() < self.end else local.date() + timedelta(days=1)
        found = datetime.combine(day, self.end, tzinfo=self.zone).astimezone(at.tzinfo)
        while found <= at or self.holds(found):
            found += timedelta(minutes=15)
        return found


def is_wanted(words: str, *, any_of: Sequence[str], none_of: Sequence[str]) -> bool:
    """Whether words hold one of some (all do where none is asked for), and none of others.

    Whole words or phrases are meant, whatever their capitals; a star at the end of one stands for any ending.
    """
    told = words.casefold()
    if any(_holds(told, one) for one in none_of):
        return False
    return not any_of or any(_holds(told, one) for one in any_of)


def _holds(words: str, asked: str) -> bool:
    told = asked.casefold()
    stem = told.removesuffix("*")
    if _UNSPACED.search(told):
        # No blanks part the words of these scripts.
        return stem in words
    return re.search(rf"(?<!\w){re.escape(stem)}" + ("" if told.endswith("*") else r"(?!\w)"), words) is not None


def next_time(
    earliest: datetime, latest: datetime, *, quiet: Quiet, taken: Iterable[datetime], apart: timedelta, most_a_day: int
) -> datetime | None:
    """The first instant that keeps the limits, or None where there is none before the latest.

    It lies outside the quiet hours, at least so far from every one that is taken, and on a day (by the quiet hours'
    clock) on which fewer than most_a_day are.
    """
    others = sorted(taken)
    days: Counter[date] = Counter(one.astimezone(quiet.zone).date() for one in others)
    at = earliest
    while at <= latest:
        day = at.astimezone(quiet.zone).date()
        if days[day] >= most_a_day:
            at = datetime.combine(day + timedelta(days=1), time(0), tzinfo=quiet.zone).astimezone(earliest.tzinfo)
            continue
        if quiet.holds(at):
            at = quiet.ends(at)
            continue
        near = [one for one in others if abs(one - at) < apart]
        if not near:
            return at
        at = max(near) + apart
    return None


def words_of(template: str, values: Mapping[str, str], *, fits: Callable[[str], bool]) -> str:
    """A template filled in with an item. A summary too long for what fits is cut at the end of a word.

    What does not fit without its summary is given whole: whoever asks has to see it. values: by the names of PLACES.
    A place that the item does not fill goes, as no one would send its braces.
    """
    told = dict.fromkeys(PLACES, " ") | {name: value for name, value in values.items() if value.strip()}
    whole = _filled(template, told)
    summary = told["summary"].strip()
    if fits(whole) or not summary or "summary" not in {one.casefold() for one in places_in(template)}:
        return whole
    low, high = 0, len(summary)
    while low < high:
        middle = (low + high + 1) // 2
        if fits(_filled(template, told | {"summary": cut(summary, middle)})):
            low = middle
        else:
            high = middle - 1
    if low >= SHORTEST_SUMMARY:
        return _filled(template, told | {"summary": cut(summary, low)})
    without = _filled(template, told | {"summary": " "})
    return without if fits(without) else whole


def _filled(template: str, told: Mapping[str, str]) -> str:
    """Filled in, and tidied where a place stayed empty: no two blank lines, no blanks at a line's end."""
    marked = filled(template, {name: value if value.strip() else "\x00" for name, value in told.items()})
    lines = [" ".join(line.replace("\x00", "").split()) if "\x00" in line else line for line in marked.split("\n")]
    found: list[str] = []
    for line in lines:
        if line.strip() or (found and found[-1].strip()):
            found.append(line.rstrip())
    return "\n".join(found).strip()
