"""What a figure is, wherever it is shown: on a screen, in a report, in a mail, in the API and in a file.

A kind answers three questions of a study: which figures (compute), how one of them is made (basis), and what stands in
its file (table). Areas add their kinds from their area.py; whoever shows figures asks the registry.
"""

from abc import ABC, abstractmethod
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, ClassVar

from dakika_core.metrics.basis import Part, Rule, value_of
from dakika_core.metrics.catalogue import Unit
from dakika_core.metrics.formula import Node
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study, StudySerializer
from dakika_server.shared.errors import field_errors
from dakika_server.shared.hooks import Registry

# Between what a row is about and which of its figures is meant, in the key of a cell.
SEPARATOR = "."


def cell_key(row: object, column: str) -> str:
    """The key of a row's figure."""
    return f"{row}{SEPARATOR}{column}"


def cell_parts(cell: str) -> tuple[str, str]:
    """Row and column of a key; a row may hold the separator, a column does not."""
    row, _, column = cell.rpartition(SEPARATOR)
    return row, column


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One figure of a set, with the one that it is held against where there is one.

    row and column say where it stands in a table; where the set is no table the row is empty. is_net: it is what is
    left of two counts, so that chance in it is that of both.
    """

    key: str
    name: str
    unit: Unit
    now: Figure
    before: Figure | None = None
    row: str = ""
    column: str = ""
    more_is_better: bool = True
    is_net: bool = False


@dataclass(frozen=True, kw_only=True)
class Series:
    """A course: values by place (days, hours), None where nothing is known."""

    key: str
    name: str
    unit: Unit
    places: Sequence[str]
    values: Sequence[float | None]


@dataclass(frozen=True, kw_only=True)
class RowAbout:
    """What a row is about where its name alone does not show it: a post, a finding.

    at: a local day or minute (ISO 8601). picture is an address; path leads to it within the brand.
    """

    row: str
    text: str = ""
    detail: str = ""
    picture: str = ""
    at: str = ""
    path: str = ""


@dataclass(frozen=True, kw_only=True)
class FigureSet:
    """What a kind makes of a study: its figures, its courses, and one sentence that says what is seen.

    rows: what the rows of its cells are about, in order, and such as have no cell. definitions: what each name means,
    as (name, definition). days: the first and last that it is of, where they are not those of the study. made: what the
    figures were read from, for the kind's own use.
    """

    title: str
    cells: Sequence[Cell]
    series: Sequence[Series] = ()
    rows: Sequence[RowAbout] = ()
    definitions: Sequence[tuple[str, str]] = ()
    note: str = ""
    days: tuple[date, date] | None = None
    made: Any = None


@dataclass(frozen=True, kw_only=True)
class Related:
    """Another figure by a like name. path leads to it, within the brand."""

    name: str
    counted: str
    value: float | None
    why: str
    path: str


@dataclass(frozen=True, kw_only=True)
class Behind:
    """Where the posts, links or visits behind a figure are, within the brand: its path asks with what is studied."""

    path: str
    name: str


@dataclass(frozen=True, kw_only=True)
class Basis:
    """How one figure is made: what it means, its parts and what is done with them, what is missing.

    tree is what a formula's parts stand in. is_counted_here: counted by this installation, so that no network's
    silence and no reading's age touches it. of_profile: the one profile that it is of, where it is not of all studied.
    days: which days it is of, where they are not those of the study.
    """

    key: str
    name: str
    unit: Unit
    definition: str
    figure: Figure
    rule: Rule
    parts: Sequence[Part]
    tree: Node | None = None
    parts_name: str = ""
    formula: str = ""
    before: Figure | None = None
    formula_before: str = ""
    what: str = ""
    counted: str = ""
    counted_before: str = ""
    missing: str = ""
    note: str = ""
    interval_of: str = ""
    related: Sequence[Related] = ()
    behind: Behind | None = None
    is_counted_here: bool = False
    of_profile: int | None = None
    days: str = ""

    @property
    def worked_out(self) -> float | None:
        """The value that the parts give."""
        return value_of(self.rule, self.parts, self.tree)


class NoParameters(serializers.Serializer[Any]):
    """A kind that asks for nothing but its study."""


class FigureKind(ABC):
    """A kind of figure. params: what may be chosen besides the study, by names that the study does not use."""

    key: ClassVar[str]
    name: ClassVar[str]
    params: ClassVar[type[serializers.Serializer[Any]]] = NoParameters
    # Whether half a day is left out of it, so that a basis is of the days that are over.
    is_of_whole_days: ClassVar[bool] = False

    def whose(self, values: dict[str, Any]) -> str | None:
        """Whose profiles are studied: "own", or None for those of competitors too. values: those of the study."""
        del values
        return "own"

    @abstractmethod
    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """The figures of a study. Raises ValidationError for parameters that name nothing."""

    @abstractmethod
    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """How a figure of the set is made. Raises ValidationError for a cell that is not in it."""

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """What stands in a file: a row for each row of the set, or its courses by place."""
        del params
        head, rows = by_place(made.series) if made.series else in_rows(made.cells)
        return Sheet(
            name=self.key.rpartition(".")[2], head=head, rows=rows, definitions=made.definitions, about=about(study)
        )


KINDS: Registry[FigureKind] = Registry("kinds of figures")


def register(*kinds: FigureKind) -> None:
    """Add kinds. Raises AlreadyAddedError for a key that is there, ValueError for a parameter that the study has."""
    for kind in kinds:
        if twice := {*kind.params().fields} & {*StudySerializer().fields, "cell", "form"}:
            raise ValueError(f"{kind.key} asks for {', '.join(sorted(twice))}, which the study has")
        KINDS.add(kind.key, kind)


def count_of(value: int) -> Figure:
    """A count as a figure: it is made of what it counts."""
    return Figure(value=float(value), n=value)


def no_cell(cell: str) -> serializers.ValidationError:
    """What is raised for a cell that a set does not have."""
    return field_errors({"cell": f"There is no figure {cell} here."})


def cell_of(made: FigureSet, cell: str) -> Cell:
    """A set's figure. Raises ValidationError for one that is not in it."""
    found = next((one for one in made.cells if one.key == cell), None)
    if found is None:
        raise no_cell(cell)
    return found


def in_rows(cells: Iterable[Cell]) -> tuple[list[str], list[Row]]:
    """Head and rows of a set that is a table: figure, interval where any has one, and what it is held against."""
    cells = list(cells)
    columns = list(dict.fromkeys(cell.column for cell in cells))
    of = {column: [cell for cell in cells if cell.column == column] for column in columns}
    has_interval = {column: any(cell.now.interval for cell in of[column]) for column in columns}
    has_before = {column: any(cell.before for cell in of[column]) for column in columns}
    head = [""]
    for column in columns:
        head += [column, *(["low", "high"] if has_interval[column] else [])]
        head += ["comparison"] if has_before[column] else []
    at = {(cell.row, cell.column): cell for cell in cells}
    rows: list[Row] = []
    for row in dict.fromkeys(cell.row for cell in cells):
        line: Row = [row]
        for column in columns:
            cell = at.get((row, column))
            interval = cell.now.interval if cell else None
            line.append(whole(cell.now.value) if cell else None)
            if has_interval[column]:
                line += [interval.low, interval.high] if interval else [None, None]
            if has_before[column]:
                line.append(whole(cell.before.value) if cell and cell.before else None)
        rows.append(line)
    return head, rows


def by_place(series: Sequence[Series]) -> tuple[list[str], list[Row]]:
    """Head and rows of courses over the same places; a shorter one ends before the others."""
    places = max((one.places for one in series), key=len)
    rows: list[Row] = [
        [place, *[whole(one.values[i]) if i < len(one.values) else None for one in series]]
        for i, place in enumerate(places)
    ]
    return ["", *[one.name for one in series]], rows


def whole(value: Any) -> Any:
    """A count as a count: 12, not 12.0."""
    return int(value) if isinstance(value, float) and value.is_integer() and abs(value) < 1e15 else value
