"""timing.held: hours learnt on the older weeks of a question, tried on the newer ones. Does it hold?"""

import math
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure, Interval

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureSet, cell_key, cell_of, cell_parts
from dakika_server.figures.study import Study
from dakika_server.timing.kinds.hours import OfHours, answer_of

GAIN = "gain"
THIRDS = ("said low", "middling", "said high")
OF_GAIN = (
    "What posts of the newer weeks got at the hours that the weeks before put highest, divided by what all of the "
    "newer weeks got; profile, format and trend are held the same. Its 95 % interval comes from how weeks scatter."
)
COLUMNS = {
    "gain": ("Gain", OF_GAIN),
    "said": ("Said", "Geometric mean of the index that the older weeks gave to the hours of these posts."),
    "came": ("Came", "Geometric mean of what these posts got, 1.00 what all of the newer weeks got; 95 % interval."),
}  # fmt: skip


class NewerWeeks(OfHours):
    """The check that every estimate of hours is kept with."""

    key, name = "timing.held", "Does it hold?"

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """The gain, and by thirds of the newer posts what was said of their hours and what came."""
        question, answer = answer_of(study, params)
        held = answer.held if answer else None
        if question is None or not held or held["gain"] is None:
            note = "It takes 20 posts over five weeks that are newer than what was learnt from."
            return FigureSet(title="Too little was published of late to try it on", cells=[], note=note)
        cells = [_cell(GAIN, "the best hours", _figure(held["gain"], held["low"], held["high"], held["newer"]))]
        for name, third in zip(THIRDS, held["thirds"], strict=False):
            cells += [
                _cell("said", name, Figure(value=third["said"], n=third["posts"])),
                _cell("came", name, _figure(third["came"], third["low"], third["high"], third["posts"])),
            ]
        return FigureSet(
            title="It held on newer weeks" if held["is_shown"] else "No gain can be shown on newer weeks", cells=cells,
            made=(question, held), definitions=list(COLUMNS.values()),
            note=f"{held['older']:,} older posts learnt from, {held['newer']:,} newer ones tried on.",
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """The gain by what was promised and how much of it came; a mean of posts as it was kept with the estimate."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        question, held = made.made
        row, column = cell_parts(cell)
        value = one.now.value or 0.0
        rule, parts = Rule.SUM, [Part(key=column, name=f"mean over {one.now.n:,} posts", value=value)]
        claimed = held["claimed"]
        if column == GAIN and claimed and math.isfinite(claimed):
            rule, parts = Rule.PRODUCT, [
                Part(key="promised", name="what the older weeks promised", value=claimed),
                Part(key="of it", name="by how much of that came", value=value / claimed),
            ]  # fmt: skip
        name, definition = COLUMNS[column]
        return Basis(
            key=cell, name=f"{name}, {row}", unit=Unit.INDEX, definition=definition, figure=one.now, rule=rule,
            parts=parts, parts_name="factor" if column == GAIN else "mean",
            interval_of=f"{held['weeks']} newer weeks as a sample", counted=f"{one.now.n:,} posts",
            of_profile=question.one.pk if question.one else None, days=f"From {held['since'][:10]}",
            behind=Behind(
                path=f"timing?profile={','.join(str(p.pk) for p in question.profiles)}", name="The week and its posts"
            ),
        )  # fmt: skip


def _cell(column: str, row: str, figure: Figure) -> Cell:
    name = COLUMNS[column][0]
    return Cell(key=cell_key(row, column), name=f"{name}, {row}", row=row, column=name, unit=Unit.INDEX, now=figure)


def _figure(value: float, low: float | None, high: float | None, posts: int) -> Figure:
    interval = Interval(low=low, high=high) if low is not None and high is not None else None
    return Figure(value=value, n=posts, interval=interval)
