"""Tables in other shapes than a row for each post or day: long (date, metric, value) and wide (a column a day)."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from dakika_core.sources.files.cells import is_empty
from dakika_core.sources.files.dates import fold, read_date
from dakika_core.sources.files.kinds import COUNTED, POSTS, PROFILE_READINGS
from dakika_core.sources.files.mapping import Looks, looks_of

# So many rows are turned at most: the turned table stands in memory while it is read.
MOST_ROWS = 1_000_000
FEWEST_DAYS = 4
_MOST = 0.8
_METRICS = frozenset(
    name for kind in (POSTS, PROFILE_READINGS) for field in kind.fields if field.read in COUNTED for name in field.names
)
NumberedRow = tuple[int, list[object]]


@dataclass(frozen=True, kw_only=True)
class Shape:
    """How a table is laid out: "rows" as it is, "long" with names and values apart, "wide" with days in the head.

    names and values are columns of a long table; days are the columns of a wide one.
    """

    layout: str = "rows"
    names: int = -1
    values: int = -1
    days: tuple[int, ...] = ()


class TooLarge(ValueError):
    """More rows than can be turned."""


def shape_of(header: Sequence[str], sample: Sequence[Sequence[object]]) -> Shape:
    """The layout of a table, by its head and first rows."""
    days = tuple(i for i, name in enumerate(header) if _is_day(name))
    if len(days) >= FEWEST_DAYS and len(days) >= len(header) / 2:
        return Shape(layout="wide", days=days)
    columns = [[row[c] for row in sample if c < len(row)] for c in range(len(header))]
    numbers = [c for c, cells in enumerate(columns) if looks_of(cells) in (Looks.COUNTS, Looks.NUMBERS)]
    for c, cells in enumerate(columns):
        told = [fold(str(cell)) for cell in cells if not is_empty(cell)]
        if len(told) > 1 and len(set(told)) > 1 and sum(name in _METRICS for name in told) >= _MOST * len(told):
            values = [n for n in numbers if n != c]
            if len(values) == 1:
                return Shape(layout="long", names=c, values=values[0])
    return Shape()


def _is_day(name: str) -> bool:
    return bool(name) and not name.isdigit() and any(read_date(name, order) for order in ("dmy", "mdy"))


def turned(shape: Shape, header: Sequence[str], rows: Iterable[NumberedRow]) -> tuple[list[str], list[NumberedRow]]:
    """Head and rows as a table with a row for each post or day. Row numbers are those of the file: the first of each.

    Raises TooLarge beyond a million rows.
    """
    return _turned_long(shape, header, rows) if shape.layout == "long" else _turned_wide(shape, header, rows)


def _bounded(rows: Iterable[NumberedRow]) -> Iterator[NumberedRow]:
    for count, row in enumerate(rows, 1):
        if count > MOST_ROWS:
            raise TooLarge(f"A table in this layout is read up to {MOST_ROWS:,} rows. Split it by year.")
        yield row


def _turned_long(
    shape: Shape, header: Sequence[str], rows: Iterable[NumberedRow]
) -> tuple[list[str], list[NumberedRow]]:
    keys = [c for c in range(len(header)) if c not in (shape.names, shape.values)]
    names: dict[str, int] = {}
    found: dict[tuple[str, ...], tuple[int, list[object], dict[int, object]]] = {}
    for number, row in _bounded(rows):
        padded = [*row, *[None] * (len(header) - len(row))]
        name = str(padded[shape.names] or "").strip()
        if not name:
            continue
        kept: list[object] = [padded[c] for c in keys]
        _, _, values = found.setdefault(tuple(map(str, kept)), (number, kept, {}))
        values.setdefault(names.setdefault(name, len(names)), padded[shape.values])
    made = [(number, [*kept, *(values.get(i) for i in range(len(names)))]) for number, kept, values in found.values()]
    return [*(header[c] for c in keys), *names], made


def _turned_wide(
    shape: Shape, header: Sequence[str], rows: Iterable[NumberedRow]
) -> tuple[list[str], list[NumberedRow]]:
    """The column of metrics' names is the last one before the days whose cells are such names; others stay keys."""
    all_rows = list(_bounded(rows))
    others = [c for c in range(len(header)) if c not in shape.days]
    label = next((c for c in reversed(others) if all_rows and _share_of_metrics(all_rows, c) >= _MOST), None)
    keys = [c for c in others if c != label]
    names: dict[str, int] = {}
    found: dict[tuple[str, ...], tuple[int, list[object], dict[int, object]]] = {}
    for number, row in all_rows:
        padded = [*row, *[None] * (len(header) - len(row))]
        name = str(padded[label] or "").strip() if label is not None else header[others[-1]] if others else "value"
        kept: list[object] = [padded[c] for c in keys]
        for day in shape.days:
            place = (*map(str, kept), header[day])
            _, _, values = found.setdefault(place, (number, [*kept, header[day]], {}))
            values.setdefault(names.setdefault(name, len(names)), padded[day])
    made = [(number, [*kept, *(values.get(i) for i in range(len(names)))]) for number, kept, values in found.values()]
    return [*(header[c] for c in keys), "date", *names], made


def _share_of_metrics(rows: Sequence[NumberedRow], column: int) -> float:
    told = [fold(str(row[column])) for _, row in rows[:300] if column < len(row) and not is_empty(row[column])]
    return sum(name in _METRICS for name in told) / len(told) if told else 0.0
