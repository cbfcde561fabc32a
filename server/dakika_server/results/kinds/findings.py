"""results.findings: what is worth saying about these weeks, as it was found last."""

from datetime import timedelta
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.results.findings import called
from dakika_core.values.figure import Figure, Interval
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, RowAbout, no_cell
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.results.findings import STUDIED_DAYS
from dakika_server.results.models import Finding

MOST = 20
TIMES = "How many times as well as the others, formats and networks held the same where that is said."
DEFINITIONS = {
    "group": TIMES,
    "trend": "How many times what its posts brought in the months before, formats held the same.",
    "unusual": "The post's index: its interactions held against what is typical of its profile at that age.",
    "spike": "The figure on that day; usual is the level of the days around it.",
}
COLUMNS = {"group": "times the others", "trend": "times the months before", "unusual": "index", "spike": "on that day"}


class FindingsParameters(serializers.Serializer[Any]):
    """How many."""

    limit = serializers.IntegerField(min_value=1, max_value=MOST, default=5)


class Findings(FigureKind):
    """Findings that nobody has put aside, what was pinned first."""

    key, name, params = "results.findings", "Findings", FindingsParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row for each, with its number where it is one number."""
        found = found_in(study, params["limit"])
        current = [one.found_at.astimezone(study.brand.zone).date() for one in found if one.is_current]
        day = max(current, default=None)
        cells = [cell for one in found if (cell := _cell(one)) is not None]
        return FigureSet(
            title="Findings",
            cells=cells,
            made=found,
            rows=[
                RowAbout(row=one.text, text=one.text, detail=_detail(one, study), path="results/findings")
                for one in found
            ],
            days=(day - timedelta(days=STUDIED_DAYS), day - timedelta(days=1)) if day else None,
            note="" if cells else "They are told in words alone." if found else "Nothing stands out.",
            definitions=[(COLUMNS[kind], words) for kind, words in DEFINITIONS.items()],
        )

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What its number is, and where the posts are that it is made of."""
        one = next((one for one in found_in(study, MOST) if str(one.pk) == cell), None)
        shown = _cell(one) if one else None
        if one is None or shown is None or shown.now.value is None:
            raise no_cell(cell)
        kind = _kind(one)
        return Basis(
            key=cell,
            name=one.text,
            unit=shown.unit,
            definition=DEFINITIONS[kind],
            note=one.detail,
            figure=shown.now,
            before=shown.before,
            rule=Rule.SUM,
            parts=[Part(key=cell, name=COLUMNS[kind], value=shown.now.value)],
            counted=f"{shown.now.n:,} posts" if shown.now.n > 1 else "",
            interval_of="the posts as a sample" if shown.now.interval else "",
            behind=Behind(
                path=str(one.step.get("posts") or one.step.get("path") or "results/findings"), name="What is behind it"
            ),
        )

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row for each, in words and numbers."""
        del params
        cells = {cell.key: cell for cell in made.cells}
        rows: list[Row] = []
        for one in made.made:
            cell = cells.get(str(one.pk))
            limits = cell.now.interval if cell else None
            rows.append([
                one.text, one.detail, cell.column if cell else "", cell.now.value if cell else None,
                limits.low if limits else None, limits.high if limits else None, one.first_found_at.date().isoformat(),
            ])  # fmt: skip
        head = ["finding", "detail", "figure", "value", "low", "high", "first found"]
        return Sheet(name="findings", head=head, rows=rows, definitions=made.definitions, about=about(study))


def found_in(study: Study, limit: int) -> list[Finding]:
    """The brand's findings as they stand, pinned ones first, the weightiest next; none that was put aside."""
    found = Finding.objects.filter(brand=study.brand).exclude(state=Finding.State.DISMISSED)
    kept = [one for one in found.order_by("-weight", "pk")[:200] if one.is_current or one.state == "pinned"]
    return sorted(kept, key=lambda one: one.state != "pinned")[:limit]


def _detail(one: Finding, study: Study) -> str:
    """What is said beside it; of one that is pinned and was not found again, when it was found last."""
    if one.is_current:
        return one.detail
    return f"{one.detail} Last found on {one.found_at.astimezone(study.brand.zone):%Y-%m-%d}.".strip()


def _kind(one: Finding) -> str:
    return "spike" if one.kind in ("spike", "dip") else one.kind


def _cell(one: Finding) -> Cell | None:
    """A finding's number; None where its evidence is not one, and where it is pinned from before: it may be over."""
    if not one.is_current:
        return None
    kind, told = _kind(one), one.evidence
    value = {"group": told.get("ratio"), "trend": told.get("ratio"), "unusual": told.get("index"),
             "spike": told.get("value")}.get(kind)  # fmt: skip
    if not isinstance(value, int | float):
        return None
    before = interval = None
    if kind == "spike":
        before = Figure(value=float(told["level"]), n=1)
        name = f"{told['metric']}, {told['day']}"
    elif kind == "group":
        name = called(str(told["by"]), str(told["name"]))
    else:
        name = str(told.get("profile") or one.key.partition(":")[2])
    if "low" in told and "high" in told:
        interval = Interval(low=float(told["low"]), high=float(told["high"]))
    return Cell(
        key=str(one.pk), name=name, unit=Unit.COUNT if kind == "spike" else Unit.INDEX, row=one.text,
        column=COLUMNS[kind], now=Figure(value=float(value), n=int(told.get("n") or 1), interval=interval),
        before=before,
    )  # fmt: skip
