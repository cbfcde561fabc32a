"""Sentences made by rule from the figures that a page shows; every number in them is bound to its figure.

A sentence is a row of segments: words, and numbers that say which figure they are of. Numbers are written when the
sentence is read, so that they renew with the data. A sentence claims no more than its figures do: sums of what was
counted are told as what they were; a figure with an interval is said to have changed, or to be first, only where the
intervals allow it.

Shapes of sentences are few, and their words stand in catalogues (`languages`). In languages other than English a
name is followed by a colon, so that no verb has to agree with it.
"""

import math
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from dakika_core.reports.languages import MISSING, number_text, translated
from dakika_core.values.figure import Figure, change
from dakika_core.values.text import cut

MOST_SENTENCES = 5
# Changes under two in a hundred are told as none; what moved by a tenth and more leads, and what does not is said not
# to have followed (our own choice).
SAME, MOVED = 0.02, 0.10
LONGEST_ROW = 40
# So small a part of the posts counts as few (our own choice).
FEW = 0.2
MOST_FINDINGS = 2
Z95 = 1.96
_PLACE = re.compile(r"\{(\w+)\}")


class What(StrEnum):
    """Which number of a figure stands in a sentence."""

    NOW = "now"
    BEFORE = "before"
    CHANGE = "change"
    LOW = "low"
    HIGH = "high"
    SHARE = "share"


@dataclass(frozen=True, kw_only=True)
class Segment:
    """Words, or a number of a figure (item and cell). said: which way the figure went when it was written."""

    text: str = ""
    item: str = ""
    cell: str = ""
    what: What = What.NOW
    said: int | None = None

    @property
    def is_number(self) -> bool:
        """Whether it is bound to a figure."""
        return bool(self.item)


Sentence = tuple[Segment, ...]


@dataclass(frozen=True, kw_only=True)
class ShownCell:
    """A figure as it is shown: its name, and which row and column it stands in."""

    key: str
    name: str
    unit: str
    now: Figure
    before: Figure | None = None
    row: str = ""
    column: str = ""
    more_is_better: bool = True
    is_net: bool = False


class Rows(StrEnum):
    """What rows of a set are to each other: nothing that is said, rivals of which one is first, parts of a change,
    posts of which few may have brought much (beside cells "half", "posts", "total"), findings.
    """

    NONE = "none"
    RIVALS = "rivals"
    PARTS_OF_CHANGE = "parts"
    POSTS = "posts"
    FINDINGS = "findings"


@dataclass(frozen=True, kw_only=True)
class ShownSet:
    """What an item of a page shows."""

    item: str
    title: str
    cells: Sequence[ShownCell]
    rows: Rows = Rows.NONE


@dataclass(frozen=True, kw_only=True)
class NumberRead:
    """A number as it stands in a sentence now. is_gone: its figure is not there; has_turned: it no longer goes the way
    that the words around it were written for.
    """

    text: str
    is_gone: bool = False
    has_turned: bool = False


def sentences(sets: Iterable[ShownSet], language: str) -> list[Sentence]:
    """What a page's figures say, the weightiest first as they stand on the page; at most five sentences."""
    found: list[Sentence] = []
    for one in sets:
        if one.rows is Rows.POSTS:
            found += _of_posts(one, language)
            continue
        if one.rows is Rows.FINDINGS:
            found += of_findings(one, language)[:MOST_FINDINGS]
            continue
        totals = [cell for cell in one.cells if not cell.row and cell.now.value is not None]
        rows = [cell for cell in one.cells if cell.row and cell.now.value is not None]
        found += _of_totals(one.item, totals, language)
        found += _of_rows(one, rows, language)
    # The same figure may stand on a page twice; it is said once.
    said = {tuple(part.text or part.cell for part in sentence): sentence for sentence in reversed(found)}
    return [one for one in found if said[tuple(part.text or part.cell for part in one)] is one][:MOST_SENTENCES]


def direction(cell: ShownCell) -> int:
    """1 where a figure rose, -1 where it fell, 0 where it stayed or where that cannot be told apart from chance."""
    now, before = cell.now.value, cell.before.value if cell.before else None
    if now is None or before is None or cell.before is None or not _is_clear(cell, cell.now, cell.before):
        return 0
    by = change(now, before)
    if by.relative is not None and abs(by.relative) < SAME:
        return 0
    return (now > before) - (now < before)


def _is_clear(cell: ShownCell, now: Figure, before: Figure) -> bool:
    """Whether a figure differs from the one before by more than both may be off.

    With an interval: limits of a difference from the limits of its sides (Zou and Donner 2008, Statistics in Medicine
    27, equation 3; from memory); where only the figure itself has one, the one before is taken to be off by as much
    in proportion. A count without one: by more than two Poisson counts of one rate would in 95 of 100, so that
    five after four is no rise. What is left of two counts (is_net) is off by both, which it does not tell: it is told
    without a direction. That large sums rise and fall for reasons of their own is not claimed to be more.
    Rates, means and amounts without an interval are told without a direction.
    """
    if now.value is None or before.value is None:
        return False
    apart = abs(now.value - before.value)
    if now.interval is None:
        return has_direction(cell) and apart > Z95 * math.sqrt(max(0.0, now.value) + max(0.0, before.value))
    rises = now.value > before.value
    mine = now.value - now.interval.low if rises else now.interval.high - now.value
    if before.interval is not None:
        theirs = before.interval.high - before.value if rises else before.value - before.interval.low
    else:
        theirs = mine * abs(before.value / now.value) if now.value else mine
    return apart > math.hypot(mine, theirs)


def has_direction(cell: ShownCell) -> bool:
    """Whether a figure can be said to have gone one way at all."""
    return cell.now.interval is not None or (cell.unit == "count" and not cell.is_net)


def _of_totals(item: str, cells: Sequence[ShownCell], language: str) -> list[Sentence]:
    """The first figure as it went, the one that moved most besides, and what did not follow them."""
    told = [cell for cell in cells if cell.before is not None and cell.before.value is not None]
    if not told:
        return [_sentence("{name}: {now}.", language, item, cells[0])] if cells else []
    first, *others = told
    found = [_went(item, first, language)]
    moved = [cell for cell in others if abs(_relative(cell)) >= MOVED and direction(cell)]
    most = max(moved, key=lambda cell: abs(_relative(cell)), default=None)
    if most is not None:
        found.append(_went(item, most, language))
    leading = next((cell for cell in (first, most) if cell and abs(_relative(cell)) >= MOVED and direction(cell)), None)
    if leading is not None:
        way = direction(leading)
        # What is never told with a direction is not said to have missed one.
        for cell in [one for one in others if has_direction(one)]:
            if cell is not most and direction(cell) == 0 and abs(_relative(cell)) < SAME:
                found.append(_sentence("{name} did not follow: {now}, after {before}.", language, item, cell, said=0))
                break
            if cell is not most and direction(cell) == -way and abs(_relative(cell)) >= MOVED:
                found.append(
                    _sentence("{name} went the other way, by {change}, to {now}.", language, item, cell, said=-way)
                )
                break
    return found


def _went(item: str, cell: ShownCell, language: str) -> Sentence:
    way = direction(cell)
    if way == 0 and cell.now.interval:
        shape = "{name}: {now} ({low} to {high}), no clear change from {before}."
    elif way == 0 and not cell.is_net and abs(_relative(cell)) < SAME:
        shape = "{name} stayed about the same: {now}, after {before}."
    elif way == 0 or (cell.before is not None and cell.before.value == 0):
        shape = "{name}: {now}, after {before}."
    elif cell.unit == "rate":
        shape = "{name} rose from {before} to {now}." if way > 0 else "{name} fell from {before} to {now}."
    else:
        shape = "{name} rose by {change}, to {now}." if way > 0 else "{name} fell by {change}, to {now}."
    return _sentence(shape, language, item, cell, said=way)


def _of_rows(one: ShownSet, cells: Sequence[ShownCell], language: str) -> list[Sentence]:
    """Which row is first and how sure that is, by the first column that has intervals, else by the first."""
    columns = list(dict.fromkeys(cell.column for cell in cells))
    if one.rows is Rows.NONE or not columns:
        return []
    if one.rows is Rows.PARTS_OF_CHANGE:
        # The first row is the change itself; it is taken apart in several ways, of which the first is told.
        way = cells[1].key.partition(".")[0] if len(cells) > 1 else ""
        parts = [cell for cell in cells[1:] if cell.key.partition(".")[0] == way]
        largest = max(parts, key=lambda cell: abs(cell.now.value or 0.0), default=None)
        shape = "The largest part of the change came with {row}: {now}."
        return [] if largest is None else [_sentence(shape, language, one.item, largest)]
    chosen = next((name for name in columns if all(c.now.interval for c in cells if c.column == name)), columns[0])
    best = sorted((cell for cell in cells if cell.column == chosen), key=lambda cell: -(cell.now.value or 0.0))
    if len(best) < 2 or not best[0].more_is_better or best[0].now.value == best[1].now.value:
        return []
    top, second = best[0].now, best[1].now
    if top.interval and second.interval:
        shape = "{row} is first by {column}: {now} ({low} to {high})."
        if top.interval.low <= second.interval.high:
            shape = "{row} is first by {column}: {now} ({low} to {high}); the order may be chance."
    elif best[0].unit == "count" and all((cell.now.value or 0) >= 0 for cell in best):
        shape = "{row} had most {column}: {now}, {share} of what is shown."
    else:
        shape = "{row} is first by {column}: {now}."
    return [_sentence(shape, language, one.item, best[0])]


def _of_posts(one: ShownSet, language: str) -> list[Sentence]:
    """That few posts brought half of a sum, where they are a fifth of all or fewer."""
    cells = {cell.key: cell for cell in one.cells}
    half, posts, whole = cells.get("half"), cells.get("posts"), cells.get("total")
    if half is None or posts is None or whole is None or not half.now.value or not posts.now.value:
        return []
    if half.now.value > FEW * posts.now.value:
        return []
    shape = "{now} of {posts} posts brought half of the {name}."
    if half.column:
        shape = "{now} of {posts} posts brought half of the {name}, all of them of {column}."
    name = whole.name.lower() if language == "en" else whole.name
    words = {"name": name, "column": half.column}
    return [_sentence(shape, language, one.item, half, words=words, others={"posts": posts})]


# What is said of a finding's number, by what the number is; over which days it was found, whatever days a page is of.
_FOUND = {
    "times the others": "{name}, over the last three months: {now} times as well as the others ({low} to {high}).",
    "times the months before": "{name}: {now} times as well of late as in the months before ({low} to {high}).",
    "on that day": "{name}: {now}, usually {before}.",
}


def of_findings(one: ShownSet, language: str) -> list[Sentence]:
    """A sentence for each finding with a number; columns say, by their English names, what the number is."""
    shapes = {translated(column, language): shape for column, shape in _FOUND.items()}
    return [
        _sentence(shapes[cell.column], language, one.item, cell)
        for cell in one.cells
        if cell.now.value is not None
        and cell.column in shapes
        and ("{low}" in shapes[cell.column]) == (cell.now.interval is not None)
    ]


def _relative(cell: ShownCell) -> float:
    before = cell.before.value if cell.before else None
    return change(cell.now.value, before).relative or 0.0


def _sentence(
    shape: str, language: str, item: str, cell: ShownCell, said: int | None = None, *,
    words: Mapping[str, str] | None = None, others: Mapping[str, ShownCell] | None = None,
) -> Sentence:  # fmt: skip
    """A shape filled in: names as words, numbers as what they are bound to; others: further figures by their place."""
    if words is None:
        words = {"name": cell.name, "row": cell.row, "column": cell.column.lower() if language == "en" else cell.column}
    others = others or {}
    pattern = translated(shape, language)
    found: list[Segment] = []
    last = 0
    for match in _PLACE.finditer(pattern):
        found.append(Segment(text=pattern[last : match.start()]))
        name = match[1]
        if name in words:
            told = _row(cell.row) if name == "row" else translated(words[name], language)
            found.append(Segment(text=_capital(told) if not match.start() else told))
        elif name in others:
            found.append(Segment(item=item, cell=others[name].key, what=What.NOW))
        else:
            found.append(Segment(item=item, cell=cell.key, what=What(name), said=said))
        last = match.end()
    found.append(Segment(text=pattern[last:]))
    return joined(found)


def _row(name: str) -> str:
    """A row's name within a sentence: what is a sentence itself is cut and set in quotes."""
    if len(name) <= LONGEST_ROW and ". " not in name:
        return name
    return f"\u201c{cut(name, LONGEST_ROW)}\u201d"


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def joined(segments: Iterable[Segment]) -> Sentence:
    """Neighbouring words as one segment; empty ones left out."""
    found: list[Segment] = []
    for one in segments:
        if not one.is_number and found and not found[-1].is_number:
            found[-1] = Segment(text=found[-1].text + one.text)
        elif one.is_number or one.text:
            found.append(one)
    return tuple(found)


def read_number(segment: Segment, sets: Mapping[str, ShownSet], language: str) -> NumberRead:
    """A bound number as it is now. A change is written without its sign, for the words around it say which way."""
    of = sets.get(segment.item)
    cell = next((one for one in of.cells if one.key == segment.cell), None) if of else None
    if cell is None or of is None:
        return NumberRead(text=MISSING, is_gone=True)
    value, unit = _value(segment.what, cell, of)
    text = number_text(value, unit, language)
    turned = segment.said is not None and direction(cell) != segment.said
    return NumberRead(text=text, is_gone=value is None, has_turned=turned)


def _value(what: What, cell: ShownCell, of: ShownSet) -> tuple[float | None, str]:
    match what:
        case What.NOW:
            return cell.now.value, cell.unit
        case What.BEFORE:
            return cell.before.value if cell.before else None, cell.unit
        case What.CHANGE:
            by = change(cell.now.value, cell.before.value if cell.before else None)
            return (None if by.relative is None else abs(by.relative)), "rate"
        case What.LOW:
            return cell.now.interval.low if cell.now.interval else None, cell.unit
        case What.HIGH:
            return cell.now.interval.high if cell.now.interval else None, cell.unit
        case What.SHARE:
            whole = sum(one.now.value or 0.0 for one in of.cells if one.row and one.column == cell.column)
            return (cell.now.value / whole if cell.now.value is not None and whole else None), "rate"


def read_text(sentence: Sentence, sets: Mapping[str, ShownSet], language: str) -> str:
    """A sentence as plain words, its numbers as they are now."""
    return "".join(
        read_number(one, sets, language).text if one.is_number else one.text for one in sentence
    )  # fmt: skip
