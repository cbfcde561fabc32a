"""competitors.presence: what each network brings the others, and who is there."""

from typing import Any

from dakika_core.competitors.field import PUBLIC
from dakika_core.metrics.basis import Part, Rule
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.competitors.field import in_set
from dakika_server.competitors.kinds.table import PUBLIC_ALONE, too_young, untold
from dakika_server.competitors.presence import COLUMNS, Network, presence_of
from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_key, cell_of, cell_parts
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import LARGEST_KEY, Study

SIDES = {"others": "the others", "ours": "ours"}


class PresenceParameters(serializers.Serializer[Any]):
    """Of which set."""

    set = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)


class Presence(FigureKind):
    """Figures of each network."""

    key, name, params = "competitors.presence", "Who is where", PresenceParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """Everybody's."""
        del values
        return None

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Of the others together, and ours beside them."""
        found = presence_of(in_set(study, params.get("set")))
        return FigureSet(
            title="What each network brings", made=found, note="" if found else "No profile of this set is followed.",
            cells=[cell for network in found for cell in _cells(network)],
            definitions=[(PUBLIC[column].name, PUBLIC[column].definition) for column in COLUMNS],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What is divided by what, or added up."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        row, column = cell_parts(cell)
        key, _, side = row.partition(":")
        network: Network = next(n for n in made.made if n.key == key)
        figure, metric = one.now, PUBLIC[column]
        parts: list[Part] = []
        rule = Rule.SUM if column == "followers" else Rule.RATIO
        members = [there for there in network.members if there.member.is_own == (side == "ours")]
        if column == "followers" and figure.value is not None:
            parts = [Part(key=there.member.key, name=there.member.name, value=there.followers.value)
                     for there in members if there.followers.value is not None]  # fmt: skip
        elif figure.value is not None and figure.numerator is not None and figure.denominator:
            above, below = metric.parts
            parts = [Part(key="above", name=above, value=figure.numerator),
                     Part(key="below", name=below, value=figure.denominator)]  # fmt: skip
        numbers = ",".join(str(profile.pk) for there in members for profile in there.member.profiles)
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=metric.definition, figure=figure, rule=rule,
            parts=parts, parts_name="profile" if column == "followers" else "sum",
            what=study.age_words if metric.is_of_posts else "", note=PUBLIC_ALONE,
            interval_of="the posts as a sample" if figure.interval else "",
            missing=too_young(figure.missing) if metric.is_of_posts else untold(figure.missing),
            behind=Behind(path=f"results/posts?profile={numbers}", name="Their posts"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row for each member on each network."""
        del params
        rows: list[Row] = []
        for network in made.made:
            for there in network.members:
                rows.append(
                    [network.name, there.member.name, there.followers.value, there.posts_per_week.value, there.share,
                     there.first.date() if there.first else None, there.last.date() if there.last else None]
                )  # fmt: skip
        head = ["network", "whose", "followers", "posts a week", "share of interactions there", "first post known",
                "last post"]  # fmt: skip
        return Sheet(name="presence", head=head, rows=rows, definitions=made.definitions, about=about(study))


def _cells(network: Network) -> list[Cell]:
    cells = []
    for side, figures in (("others", network.figures), ("ours", network.ours)):
        if side == "others" and not network.others:
            continue
        for column in COLUMNS if figures else ():
            figure: Figure = figures[column]  # type: ignore[index]
            name = PUBLIC[column].name
            cells.append(
                Cell(key=cell_key(f"{network.key}:{side}", column), name=f"{network.name}, {name}, {SIDES[side]}",
                     unit=PUBLIC[column].unit, row=f"{network.name}, {SIDES[side]}", column=name, now=figure)
            )  # fmt: skip
    return cells
