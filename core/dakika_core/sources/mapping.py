"""Which kind of file is this, and which column is what? Proposed from names and contents; people correct it."""

import re
import unicodedata
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from dakika_core.metrics.observed import AUDIENCE_DIMENSIONS
from dakika_core.sources.cells import parse_instant, parse_number
from dakika_core.sources.kinds import KINDS, Kind, Read

Taker = Callable[[str, int, str], None]


def fold(name: str) -> str:
    """A column name without case, accents and punctuation."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
    return re.sub(r"[^a-z0-9]", "", plain.lower())


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """A column proposed for a field, and why: by its name or by what stands in it."""

    field: str
    column: int
    reason: str


def propose_mapping(kind: Kind, header: Sequence[str], sample: Sequence[Sequence[object]]) -> list[Proposal]:
    """A column for each field that can be recognised; no column is used twice.

    Exact names first, then names that begin with a known one, then contents: a column that holds
    nearly nothing but dates is taken for the date, one of dimensions for the dimension, the
    longest texts for the text.
    """
    folded = [fold(str(name)) for name in header]
    used: set[int] = set()
    found: dict[str, Proposal] = {}

    def take(field: str, column: int, reason: str) -> None:
        if field not in found and column not in used:
            found[field] = Proposal(field=field, column=column, reason=reason)
            used.add(column)

    for rank in range(max(len(field.names) for field in kind.fields)):
        for field in kind.fields:
            if rank < len(field.names) and field.names[rank] in folded:
                take(field.key, folded.index(field.names[rank]), "name")
    for field in kind.fields:
        for column, name in enumerate(folded):
            if any(len(known) > 4 and name.startswith(known) for known in field.names):
                take(field.key, column, "name")
    for column in range(len(header)):
        cells = [row[column] for row in sample if column < len(row) and row[column] not in (None, "")]
        if cells:
            _take_by_content(kind, column, cells, take)
    _take_longest_text(kind, header, sample, used, take)
    return sorted(found.values(), key=lambda proposal: proposal.column)


def _take_by_content(kind: Kind, column: int, cells: list[object], take: Taker) -> None:
    most = 0.8 * len(cells)
    first_date = next((f.key for f in kind.fields if f.read in (Read.INSTANT, Read.DAY)), None)
    if first_date and sum(parse_instant(c) is not None and parse_number(c) is None for c in cells) >= most:
        take(first_date, column, "content")
    if "dimension" in kind.by_key and sum(fold(str(c)) in AUDIENCE_DIMENSIONS for c in cells) >= most:
        take("dimension", column, "content")


def _take_longest_text(
    kind: Kind, header: Sequence[str], sample: Sequence[Sequence[object]], used: set[int], take: Taker
) -> None:
    if "text" not in kind.by_key or not sample:
        return
    lengths = [
        (sum(len(str(row[c])) for row in sample if c < len(row) and row[c] is not None), c)
        for c in range(len(header))
        if c not in used
    ]
    if lengths and max(lengths)[0] / len(sample) > 15:
        take("text", max(lengths)[1], "content")


def propose_kind(header: Sequence[str], sample: Sequence[Sequence[object]]) -> str:
    """The kind whose needs the columns meet, with the most columns understood by their names; posts when in doubt."""
    best, best_score = "posts", -1.0
    for key, kind in KINDS.items():
        proposals = propose_mapping(kind, header, sample)
        mapping = {p.field: p.column for p in proposals}
        if problems_of_mapping(kind, mapping, header):
            continue
        exact = {fold(str(name)) for name in header}
        score = float(sum(p.reason == "name" for p in proposals))
        # A file's own word for its kind: what only this kind has under its first name.
        score += sum(2.0 for f in kind.fields if f.names[0] in exact and _is_telling(key, f.key))
        if score > best_score:
            best, best_score = key, score
    return best


def _is_telling(kind: str, field: str) -> bool:
    telling = {
        "posts": {"published_at", "text", "format"}, "post_readings": {"taken_at"},
        "profile_readings": {"followers", "gained", "lost", "day"}, "audience": {"dimension", "segment", "share"},
        "clicks": {"at", "code", "referrer"},
        "conversions": {"goal", "key", "amount", "stage"},
    }  # fmt: skip
    return field in telling[kind]


def problems_of_mapping(kind: Kind, mapping: Mapping[str, int], header: Sequence[str]) -> list[str]:
    """What keeps a mapping from being used, in words; empty when it can be."""
    problems = [why for fields, why in kind.needs if not any(field in mapping for field in fields)]
    columns = list(mapping.values())
    if any(column >= len(header) for column in columns):
        return [*problems, "A chosen column is not in the file."]
    for column in sorted({c for c in columns if columns.count(c) > 1}):
        fields = " and ".join(field for field, c in mapping.items() if c == column)
        problems.append(f"The column “{header[column]}” is used twice: for {fields}.")
    return problems
