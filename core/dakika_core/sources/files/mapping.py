"""Which kind of file is this, and which column is what? Proposed from names and contents; people correct it."""

import dataclasses
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from dakika_core.metrics.observed import AUDIENCE_DIMENSIONS
from dakika_core.sources.files.cells import address_in, is_empty
from dakika_core.sources.files.dates import fold, read_date
from dakika_core.sources.files.kinds import COUNTED, KINDS, Field, Kind, Read
from dakika_core.sources.files.names import DIMENSION_WORDS, OTHERWISE
from dakika_core.sources.files.numbers import currency_in, parse_number

Columns = Mapping[str, Sequence[int]]
_CLOCK = re.compile(r"^\d{1,2}[:h.]\d{2}(?:[:.]\d{2})?\s*(?:[^\W\d_]\.?\s?[^\W\d_]\.?)?$", re.IGNORECASE)
_CAMEL = re.compile(r"(?<=[a-zà-ÿ0-9])(?=[A-Z])")
_OTHERWISE = frozenset(map(fold, OTHERWISE))
_MOST, _HALF = 0.8, 0.5
SHORTEST_PART = 4
LONG_TEXT = 15
SHORTEST_IDENTIFIER = 6


class Sure(StrEnum):
    """How surely a column is what it is taken for: by its name, by a part of its name, by what stands in it."""

    NAME = "name"
    PART = "part"
    CONTENT = "content"
    TOLD = "told"


class Looks(StrEnum):
    """What stands in a column, by its cells alone."""

    EMPTY = "empty"
    DATES = "dates"
    TIMES = "times"
    ADDRESSES = "addresses"
    IDENTIFIERS = "identifiers"
    COUNTS = "counts"
    NUMBERS = "numbers"
    TEXTS = "texts"
    WORDS = "words"


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """A column proposed for a field, and how surely."""

    field: str
    column: int
    reason: Sure


def words_of(name: str) -> list[str]:
    """The folded words of a column's name: cut at punctuation and where capitals begin."""
    return [word for part in re.split(r"[^\w]+|_", _CAMEL.sub(" ", name)) if (word := fold(part))]


def looks_of(cells: Sequence[object]) -> Looks:
    """What a column holds. Whole numbers that rarely repeat and are long are identifiers; others are counts."""
    told = [cell for cell in cells if not is_empty(cell)]
    if not told:
        return Looks.EMPTY
    numbers = [number for cell in told if (number := parse_number(cell)) is not None]
    if len(numbers) >= _MOST * len(told):
        return _numbers_look(told, numbers)
    texts = [str(cell).strip() for cell in told]
    if sum(bool(_CLOCK.match(text)) for text in texts) >= _MOST * len(told):
        return Looks.TIMES
    if sum(_is_dated(cell) for cell in told) >= _MOST * len(told):
        return Looks.DATES
    if sum(bool(address_in(cell)) for cell in told) >= _MOST * len(told):
        return Looks.ADDRESSES
    return Looks.TEXTS if sum(map(len, texts)) / len(texts) > LONG_TEXT else Looks.WORDS


def _numbers_look(told: Sequence[object], numbers: Sequence[float]) -> Looks:
    whole = [n for n in numbers if n == int(n)]
    if len(whole) < _MOST * len(numbers):
        return Looks.NUMBERS
    texts = {str(cell).strip() for cell in told}
    if len(texts) == len(told) > 1 and min(map(len, texts)) >= SHORTEST_IDENTIFIER:
        return Looks.IDENTIFIERS
    return Looks.COUNTS


def _is_dated(cell: object) -> bool:
    return not isinstance(cell, int | float) and any(read_date(cell, order) for order in ("dmy", "mdy"))


@lru_cache(maxsize=4096)
def _by_name(kind: str, name: str) -> dict[str, tuple[float, Sure]]:
    """Fields that a column's name may mean, with how well: 100 for a first name, less for later ones and for parts."""
    found: dict[str, tuple[float, Sure]] = {}
    whole, last = fold(name), fold(re.split(r"[./:>]", name)[-1])
    bare = fold(re.sub(r"\([^)]*\)|\[[^\]]*\]", " ", name))
    words = words_of(name)
    is_otherwise = not _OTHERWISE.isdisjoint(words)
    for one in KINDS[kind].fields:
        if one.read in COUNTED and "%" in name:
            continue
        score = _score(one, (whole, bare, last), words, is_otherwise=is_otherwise)
        if score > 0:
            found[one.key] = (score, Sure.NAME if score > 60 else Sure.PART)
    return found


def _score(one: Field, names: tuple[str, str, str], words: list[str], *, is_otherwise: bool) -> float:
    for name, worth in zip(names, (100.0, 95.0, 85.0), strict=True):
        if name and name in one.names:
            return worth - one.names.index(name) * 0.3
    if is_otherwise and one.read in COUNTED:
        return 0.0
    best = 0
    for start in range(len(words)):
        for end in range(start + 1, min(len(words), start + 4) + 1):
            part = "".join(words[start:end])
            if len(part) >= SHORTEST_PART and part in one.names:
                best = max(best, len(part))
    return min(59.0, 30.0 + best) if best else 0.0


_FITTING: dict[Read, tuple[Looks, ...]] = {
    Read.INSTANT: (Looks.DATES, Looks.NUMBERS, Looks.COUNTS, Looks.IDENTIFIERS),
    Read.DAY: (Looks.DATES, Looks.NUMBERS, Looks.COUNTS, Looks.IDENTIFIERS),
    Read.TIME: (Looks.TIMES, Looks.NUMBERS),
    Read.COUNT: (Looks.COUNTS, Looks.NUMBERS, Looks.IDENTIFIERS),
    Read.SECONDS: (Looks.COUNTS, Looks.NUMBERS, Looks.TIMES),
}


def _fits(one: Field, looks: Looks, cells: Sequence[object], sure: Sure) -> bool:
    """Whether a column's cells can be what its name says. An empty column, and a name that is quite sure, can."""
    if looks is Looks.EMPTY or one.read not in _FITTING:
        return True
    if one.read in COUNTED and sure is Sure.NAME:
        # Mostly words in a column called Likes: still the likes, with bad cells; but no column of texts is.
        return looks not in (Looks.TEXTS, Looks.ADDRESSES, Looks.DATES)
    if one.read in (Read.INSTANT, Read.DAY):
        told = [cell for cell in cells if not is_empty(cell)]
        dated = sum(any(read_date(cell, order) for order in ("dmy", "mdy")) for cell in told)
        return dated >= _HALF * len(told) or (sure is Sure.NAME and looks is not Looks.TIMES and dated > 0)
    if one.read is Read.COUNT and looks is Looks.WORDS:
        return any(parse_number(cell) is not None for cell in cells)
    return looks in _FITTING[one.read]


def propose_mapping(kind: Kind, header: Sequence[str], sample: Sequence[Sequence[object]]) -> list[Proposal]:
    """A column for each field that can be recognised; no column is used twice, the first of two that are alike.

    By whole names, then by parts of names, then by contents: a column of dates is the date, one of
    clock times the time of day, one of long numbers that never repeat the identifier, one of
    addresses the address, one of dimensions the dimension, the longest texts the text. A name
    counts only where the cells can be what it says.
    """
    columns = [[row[c] for row in sample if c < len(row)] for c in range(len(header))]
    looks = [looks_of(cells) for cells in columns]
    wanted = [
        (-score, column, key, sure)
        for column, name in enumerate(header)
        for key, (score, sure) in _by_name(kind.key, str(name)).items()
        if _fits(kind.by_key[key], looks[column], columns[column], sure)
    ]
    found: dict[str, Proposal] = {}
    used: set[int] = set()
    for _, column, key, sure in sorted(wanted):
        if key not in found and column not in used:
            found[key] = Proposal(field=key, column=column, reason=sure)
            used.add(column)
    _by_content(kind, columns, looks, found, used)
    return sorted(found.values(), key=lambda proposal: proposal.column)


def _by_content(
    kind: Kind, columns: list[list[object]], looks: list[Looks], found: dict[str, Proposal], used: set[int]
) -> None:
    def take(key: str, column: int) -> None:
        if key in kind.by_key and key not in found and column not in used:
            found[key] = Proposal(field=key, column=column, reason=Sure.CONTENT)
            used.add(column)

    keys = {Looks.DATES: kind.date_field, Looks.TIMES: "time", Looks.ADDRESSES: "url", Looks.IDENTIFIERS: "external_id"}
    for column, look in enumerate(looks):
        if look in keys:
            take(keys[look], column)
        told = [cell for cell in columns[column] if not is_empty(cell)]
        if told and sum(dimension_of(cell) is not None for cell in told) >= _MOST * len(told):
            take("dimension", column)
    texts = [
        (sum(len(str(cell)) for cell in columns[c] if cell is not None), c)
        for c in range(len(columns))
        if c not in used and looks[c] is Looks.TEXTS
    ]
    if texts:
        take("text", max(texts)[1])


_DIMENSIONS = {fold(word): key for key, words in DIMENSION_WORDS.items() for word in words}


def dimension_of(cell: object) -> str | None:
    """The dimension of an audience that a cell names in any of seven languages, None if none."""
    found = _DIMENSIONS.get(fold(str(cell)))
    return found if found in AUDIENCE_DIMENSIONS else None


def propose_kind(header: Sequence[str], sample: Sequence[Sequence[object]]) -> str:
    """The kind whose needs the columns meet, with the most columns understood by their names; posts when in doubt."""
    best, best_score = "posts", -1.0
    exact = {fold(str(name)) for name in header}
    for key, kind in KINDS.items():
        proposals = propose_mapping(kind, header, sample)
        if problems_of_mapping(kind, {p.field: [p.column] for p in proposals}, header):
            continue
        score = sum({Sure.NAME: 1.0, Sure.PART: 0.6}.get(p.reason, 0.0) for p in proposals)
        # A file's own word for its kind: what only this kind has, under a telling name.
        named = {p.field for p in proposals if p.reason is Sure.NAME}
        score += sum(2.0 for f in kind.fields if f.key in _TELLING[key] & named and _is_own_word(f, exact))
        if score > best_score:
            best, best_score = key, score
    return best


def _is_own_word(one: Field, exact: set[str]) -> bool:
    return one.key in ("format", "followers", "text") or bool(exact.intersection(one.names[:3]))


_TELLING = {
    "posts": {"published_at", "text", "format"}, "post_readings": {"taken_at"},
    "profile_readings": {"followers", "gained", "lost", "day"}, "audience": {"dimension", "segment", "share"},
    "clicks": {"at", "code", "referrer"},
    "conversions": {"goal", "key", "amount", "stage"},
}  # fmt: skip


def problems_of_mapping(kind: Kind, mapping: Columns, header: Sequence[str]) -> list[str]:
    """What keeps a mapping from being used, in words; empty when it can be."""
    problems = [why for fields, why in kind.needs if not any(mapping.get(one) for one in fields)]
    columns = [column for places in mapping.values() for column in places]
    if any(column >= len(header) for column in columns):
        return [*problems, "A chosen column is not in the file."]
    for key, places in mapping.items():
        if len(places) > 1 and not kind.by_key[key].adds_up:
            problems.append(f"Only counts add up over several columns, and {key.replace('_', ' ')} is none.")
    for column in sorted({c for c in columns if columns.count(c) > 1}):
        fields = " and ".join(one for one, places in mapping.items() if column in places)
        problems.append(f"The column “{header[column]}” is used twice: for {fields}.")
    return problems


@dataclass(frozen=True, kw_only=True)
class Column:
    """A column of the file as it is taken: for which field (empty: for none), how surely, and what stands in it."""

    index: int
    name: str
    field: str
    sure: str
    looks: Looks
    currency: str = ""
    examples: list[str] = dataclasses.field(default_factory=list)
    note: str = ""


def columns_of(kind: Kind, header: Sequence[str], sample: Sequence[Sequence[object]], mapping: Columns) -> list[Column]:
    """Every column of the file in its order, also those that nothing uses, each with what there is to say of it."""
    proposed = {p.column: p for p in propose_mapping(kind, header, sample)}
    uses = {column: key for key, places in mapping.items() for column in places}
    first: dict[str, int] = {}
    found = []
    for index, name in enumerate(header):
        cells = [row[index] for row in sample if index < len(row)]
        key = uses.get(index, "")
        own = proposed.get(index)
        sure = "" if not key else (own.reason if own and own.field == key else Sure.TOLD)
        twin = first.setdefault(fold(name), index) if fold(name) else index
        note = ""
        if not key and twin != index:
            note = f"has the same name as column {twin + 1}"
        elif not key and looks_of(cells) is Looks.COUNTS:
            note = "numbers that nothing uses yet"
        examples = [str(cell) for cell in cells if not is_empty(cell)][:3]
        found.append(Column(
            index=index, name=name, field=key, sure=sure, looks=looks_of(cells), currency=currency_in(name)[0],
            examples=examples, note=note,
        ))  # fmt: skip
    return found
