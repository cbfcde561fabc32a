"""foresight.calibration and foresight.under_way: what was said, held against what came, and what is said now."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure, Interval
from rest_framework import serializers

from dakika_server.figures.kinds import (
    Basis,
    Behind,
    Cell,
    FigureKind,
    FigureSet,
    NoParameters,
    RowAbout,
    cell_key,
    cell_of,
    cell_parts,
)
from dakika_server.figures.study import Study
from dakika_server.foresight.models import Outlook
from dakika_server.foresight.queries import Held, calibrations, under_way
from dakika_server.shared import clock

COLUMNS = {
    "coverage": ("In the 80 % interval", Unit.RATE,
                 "Share of posts whose interactions at seven days lay in the interval that was said; 80 % should."),
    "error": ("Typical error", Unit.INDEX, "The factor by which what came differs from what was said, as a rule."),
    "bias": ("Bias", Unit.INDEX, "What came divided by what was said, the geometric mean; 1.00 leans neither way."),
    "n": ("Projections", Unit.COUNT, "Projections whose posts are seven days old."),
}  # fmt: skip


class CalibrationParameters(serializers.Serializer[Any]):
    """Of which projections: said at the time, or tried afterwards on past posts."""

    of = serializers.ChoiceField(choices=["tried", "said"], default="tried")


class WereWeRight(FigureKind):
    """Projections of the study's profiles, all together and by how far ahead they were."""

    key, name, params = "foresight.calibration", "Were we right?", CalibrationParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row for all, and one for each horizon."""
        asked = study.profile_ids if study.profiles_asked or study.networks else None
        found = [one for one in calibrations(study.brand, asked, tried=params["of"] == "tried") if one.profile is None]
        told = [one for one in found if one.found.coverage is not None]
        return FigureSet(
            title="What was said, held against what came", made={_row(one): one for one in told},
            definitions=[(name, definition) for name, _, definition in COLUMNS.values()],
            note="" if told else "It takes 20 projections whose posts are seven days old.",
            cells=[
                Cell(key=cell_key(_row(one), column), name=f"{name}, {_name(one)}", row=_name(one), column=name,
                     unit=unit, now=_figure(one, column), more_is_better=column != "error")
                for one in told
                for column, (name, unit, _) in COLUMNS.items()
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """A share by what lay within and all; factors as they were worked out of so many."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        row, column = cell_parts(cell)
        held: Held = made.made[row]
        rule, parts = Rule.SUM, [Part(key=column, name=f"over {held.found.n:,}", value=one.now.value or 0.0)]
        if column == "coverage":
            rule, parts = Rule.RATIO, [
                Part(key="within", name="lay within", value=one.now.numerator or 0.0),
                Part(key="all", name="projections", value=float(held.found.n)),
            ]  # fmt: skip
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=COLUMNS[column][2], figure=one.now, rule=rule,
            parts=parts,
            parts_name="count", counted=f"{held.found.n:,} projections", interval_of="projections as a sample",
            days="All that are known", behind=Behind(path="foresight/calibration", name="By profile, and the rivals"),
        )  # fmt: skip


def _row(one: Held) -> str:
    return "all" if one.horizon is None else str(one.horizon)


def _name(one: Held) -> str:
    if one.horizon is None:
        return "all"
    count, unit = (one.horizon, "hour") if one.horizon % 24 else (one.horizon // 24, "day")
    return f"{count} {unit}{'' if count == 1 else 's'} ahead" if count else "before publishing"


def _figure(one: Held, column: str) -> Figure:
    found = one.found
    value: float | None = float(found.n) if column == "n" else getattr(found, column)
    if column != "coverage" or value is None:
        return Figure(value=value, n=found.n)
    return Figure(
        value=value, n=found.n, numerator=value * found.n, denominator=float(found.n), interval=found.interval
    )


UNDER_WAY = {
    "count": ("So far", Unit.COUNT, "Interactions as last read."),
    "heading": (
        "Heads for",
        Unit.COUNT,
        "Interactions at seven days, as its profile's posts grow, with the 80 % interval.",
    ),
    "index": (
        "Index",
        Unit.INDEX,
        "So far divided by what is typical at its age (1.00), with the 80 % interval.",
    ),
}


class UnderWay(FigureKind):
    """Own posts of the last seven days, and where each is heading."""

    key, name, params = "foresight.under_way", "Posts under way", NoParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row a post, the newest first."""
        del params
        asked = {*study.profile_ids} if study.profiles_asked or study.networks else None
        posts = [one for one in under_way(study.brand, clock.now()) if asked is None or one.profile_id in asked]
        return FigureSet(
            title=f"{len(posts)} post{'' if len(posts) == 1 else 's'} under way",
            made={one.post_id: one for one in posts},
            note="" if posts else "No post of the last seven days is known.",
            definitions=[(name, definition) for name, _, definition in UNDER_WAY.values()],
            rows=[
                RowAbout(row=_post_row(one), text=_words(one), detail=one.profile.name,
                         at=one.published_at.astimezone(study.brand.zone).isoformat("T", "minutes"),
                         path=f"results/posts/{one.post_id}")
                for one in posts
            ],
            cells=[
                Cell(key=cell_key(one.post_id, column), name=f"{name}, {_words(one)[:60]}", row=_post_row(one),
                     column=name, unit=unit, now=_of_young(one, column))
                for one in posts
                for column, (name, unit, _) in UNDER_WAY.items()
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What was read, and what its profile's posts make of that by seven days."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        row, column = cell_parts(cell)
        post: Outlook = made.made[int(row)]
        rule, parts = Rule.SUM, [Part(key=column, name="as last read", value=one.now.value or 0.0)]
        if column == "heading" and post.count:
            rule, parts = Rule.PRODUCT, [
                Part(key="count", name="so far", value=post.count),
                Part(key="growth", name="times that its profile's posts grow", value=post.heading / post.count),
            ]  # fmt: skip
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=UNDER_WAY[column][2], figure=one.now, rule=rule,
            parts=parts, parts_name="factor" if rule is Rule.PRODUCT else "number", days="Since it was published",
            interval_of="posts of its profile at this age", counted=f"{post.age_hours:.0f} hours old when last read",
            behind=Behind(path=f"results/posts/{post.post_id}", name="The post"),
        )  # fmt: skip


def _post_row(one: Outlook) -> str:
    return f"{_words(one)[:80]} ({one.post_id})"


def _words(one: Outlook) -> str:
    return " ".join(str(getattr(one, "words", "")).split()) or "A post without text"


def _of_young(one: Outlook, column: str) -> Figure:
    low, high = {
        "heading": (one.heading_low, one.heading_high), "index": (one.index_low, one.index_high),
    }.get(column, (None, None))  # fmt: skip
    interval = Interval(low=low, high=high) if low is not None and high is not None else None
    return Figure(value=getattr(one, column), n=1, interval=interval)
