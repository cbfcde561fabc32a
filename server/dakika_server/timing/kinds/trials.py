"""timing.trials: two times held against one another in weeks drawn by chance."""

import math
from typing import Any

import numpy as np
from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure, Interval

from dakika_server.figures.kinds import (
    Basis,
    Behind,
    Cell,
    FigureKind,
    FigureSet,
    NoParameters,
    cell_key,
    cell_of,
    cell_parts,
    count_of,
)
from dakika_server.figures.study import Study
from dakika_server.shared import clock
from dakika_server.timing.models import Trial
from dakika_server.timing.trials import differences_of, look, told

MOST_TRIALS = 100
RATIO = (
    "What posts at the second time got for each that those at the first got, beside what is typical; the geometric "
    "mean over pairs of weeks and profiles. Its interval holds however often one looks."
)
COLUMNS = {
    "ratio": ("Second over first", Unit.INDEX, RATIO),
    "pairs": ("Pairs of weeks read", Unit.COUNT, "Pairs of weeks that are over and read."),
    "planned": ("Pairs planned", Unit.COUNT, "Pairs of weeks that the trial was planned for."),
}  # fmt: skip


class Trials(FigureKind):
    """A brand's trials, the newest first, with what they say by now."""

    key, name, params = "timing.trials", "Trials of two times", NoParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row a trial."""
        del params
        found = Trial.objects.filter(brand=study.brand).prefetch_related("members").order_by("-made_at", "-pk")
        trials = {str(trial.pk): (trial, _outcome(trial)) for trial in found[:MOST_TRIALS]}
        return FigureSet(
            title=f"{len(trials)} trial{'' if len(trials) == 1 else 's'} of two times", made=trials,
            note="" if trials else "No two times were held against one another yet.",
            definitions=[(name, definition) for name, _, definition in COLUMNS.values()],
            cells=[
                Cell(key=cell_key(pk, column), name=f"{name}, {trial.name}", row=trial.name or f"Trial {pk}",
                     column=name, unit=unit, now=_figure(outcome, column))
                for pk, (trial, outcome) in trials.items()
                for column, (name, unit, _) in COLUMNS.items()
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """A ratio by pair of weeks, as far as they still give what was told when the trial ended."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        pk, column = cell_parts(cell)
        trial, _ = made.made[pk]
        rule, parts = Rule.SUM, [Part(key=column, name="as it was told", value=one.now.value or 0.0)]
        if column == "ratio" and one.now.value is not None:
            by_pair = _by_pair(trial)
            weighed = sum(part.weight * math.log(part.value) for part in by_pair)
            total = sum(part.weight for part in by_pair)
            if total and math.isclose(math.exp(weighed / total), one.now.value, rel_tol=1e-9):
                rule, parts = Rule.GEOMETRIC_MEAN, by_pair
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=COLUMNS[column][2], figure=one.now, rule=rule,
            parts=parts,
            parts_name="pair of weeks" if column == "ratio" else "count", interval_of="pairs, looked at often",
            days=f"From {trial.starts.isoformat()}", behind=Behind(path="timing/trials", name="The trials"),
        )  # fmt: skip


def _outcome(trial: Trial) -> dict[str, Any]:
    return told(look(trial, clock.now())) if trial.state == Trial.State.RUNNING else trial.outcome


def _figure(outcome: dict[str, Any], column: str) -> Figure:
    if column != "ratio":
        return count_of(int(outcome.get(column) or 0))
    low, high = outcome.get("low"), outcome.get("high")
    interval = Interval(low=low, high=high) if low is not None and high is not None else None
    return Figure(value=outcome.get("ratio"), n=int(outcome.get("pairs") or 0), interval=interval)


def _by_pair(trial: Trial) -> list[Part]:
    parts = []
    for number, pair in enumerate(differences_of(trial, clock.now())[: trial.pairs], start=1):
        known = [difference for difference in pair if np.isfinite(difference)]
        if known:
            parts.append(
                Part(key=str(number), name=f"pair {number}", value=float(np.exp(np.mean(known))), weight=len(known))
            )
    return parts
