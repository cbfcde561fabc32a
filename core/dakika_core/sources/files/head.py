"""Where does the table begin? The head row is not always the first, and sometimes it has two lines."""

from collections.abc import Sequence
from dataclasses import dataclass

from dakika_core.sources.files.cells import is_empty
from dakika_core.sources.files.dates import fold
from dakika_core.sources.files.kinds import KINDS
from dakika_core.sources.files.mapping import words_of
from dakika_core.sources.files.numbers import parse_number

LOOKED_AT = 30
_KNOWN = frozenset(name for kind in KINDS.values() for field in kind.fields for name in field.names)
_LEAST_KNOWN = 2


@dataclass(frozen=True, kw_only=True)
class Head:
    """The place of a table's head: its first row (the file's first row is 1), how many lines it has, its names."""

    row: int
    lines: int
    names: tuple[str, ...]


def find_head(rows: Sequence[Sequence[object]]) -> Head:
    """The head of a table among its first rows, empty ones included.

    The first row that holds two names which are known, and no figures; else the first row as wide
    as what follows; else the first that is not empty. Two rows of words above one another are one
    head where the lower one is known better: what stands above is put before it.
    """
    looked = rows[:LOOKED_AT]
    best = next((i for i, row in enumerate(looked) if known_in(row) >= _LEAST_KNOWN and _is_wordy(row)), None)
    if best is None:
        widths = [_width(row) for row in looked]
        usual = max(widths, default=0)
        best = next((i for i, width in enumerate(widths) if width and width >= min(2, usual)), 0)
    if best > 0 and _is_group_row(looked[best - 1], looked[best]):
        return head_at(rows, best, 2)
    return head_at(rows, best + 1)


def _is_group_row(above: Sequence[object], below: Sequence[object]) -> bool:
    """Whether a row names groups of the columns below: several words with gaps between them."""
    told = sum(not is_empty(cell) for cell in above)
    return told >= _LEAST_KNOWN and told < _width(below) and _is_wordy(above)


def head_at(rows: Sequence[Sequence[object]], row: int, lines: int = 0) -> Head:
    """The head that begins in a row, of as many lines as it seems to have or as is said."""
    first = list(rows[row - 1]) if row - 1 < len(rows) else []
    second = list(rows[row]) if row < len(rows) else []
    is_two = lines == 2 or (lines == 0 and _goes_on(first, second))
    names = _joined(first, second) if is_two else [_name(cell) for cell in first]
    while names and not names[-1]:
        names.pop()
    return Head(row=row, lines=2 if is_two else 1, names=tuple(names))


def _goes_on(first: Sequence[object], second: Sequence[object]) -> bool:
    gaps = any(is_empty(cell) for cell in first[: _width(second)])
    return (gaps and _is_wordy(second) and known_in(second) > known_in(first) and known_in(second) >= _LEAST_KNOWN) or (
        gaps and _is_wordy(second) and len(second) > 1 and known_in(_joined(first, second)) > known_in(first) + 1
    )


def _joined(first: Sequence[object], second: Sequence[object]) -> list[str]:
    names, group = [], ""
    for i in range(max(len(first), len(second))):
        above = _name(first[i]) if i < len(first) else ""
        below = _name(second[i]) if i < len(second) else ""
        group = above or group
        names.append(f"{group}: {below}" if group and below else below or above)
    return names


def _name(cell: object) -> str:
    return "" if cell is None else " ".join(str(cell).split()).lstrip("\ufeff")


def known_in(row: Sequence[object]) -> int:
    """How many cells of a row are names that are known for columns, whole or by their last words."""
    return sum(
        fold(str(cell)) in _KNOWN or (len(words := words_of(str(cell))) > 1 and not _KNOWN.isdisjoint(words))
        for cell in row
        if isinstance(cell, str) and 0 < len(cell) <= 80
    )


def _is_wordy(row: Sequence[object]) -> bool:
    """Whether a row holds words and no figures or dates, so that it can be a head; dates may head columns."""
    told = [cell for cell in row if not is_empty(cell)]
    numbers = sum(parse_number(cell) is not None for cell in told)
    return bool(told) and numbers <= len(told) / 3


def _width(row: Sequence[object]) -> int:
    return max((i + 1 for i, cell in enumerate(row) if not is_empty(cell)), default=0)
