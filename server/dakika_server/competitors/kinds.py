"""competitors.standings: own and competitor profiles side by side, from public figures alone."""

from typing import Any

from dakika_core.competitors.standing import Standing
from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure

from dakika_server.competitors.queries import standings_of
from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_key, cell_of, cell_parts
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import network_name

COLUMNS: dict[str, tuple[str, Unit, str]] = {
    "followers": ("followers", Unit.COUNT, "People who follow the profile at the end of the period."),
    "growth": ("growth", Unit.RATE, "Followers at the end less those at the start, divided by the latter."),
    "posts_per_week": (
        "posts a week",
        Unit.PER_WEEK,
        "Posts divided by the weeks of the period, days without posts included.",
    ),
    "interactions_per_post": (
        "interactions a post",
        Unit.PER_POST,
        "Interactions of the period's posts at equal age, divided by their number.",
    ),
    "interactions_per_1000": (
        "interactions for 1,000 followers",
        Unit.PER_1000,
        "Interactions at equal age for every thousand followers at publishing.",
    ),
}
PARTS = {
    "growth": ("Followers gained on balance", "Followers at the start"), "posts_per_week": ("Posts", "Weeks"),
    "interactions_per_post": ("Interactions", "Posts"),
    "interactions_per_1000": ("Interactions", "Thousands of followers at publishing"),
}  # fmt: skip


class Standings(FigureKind):
    """Audience, pace and reactions of every followed profile."""

    key, name = "competitors.standings", "Profiles side by side"

    def whose(self, values: dict[str, Any]) -> str | None:
        """Everybody's."""
        del values
        return None

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Five figures of each profile."""
        del params
        found = [(profile, standing) for profile, standing in standings_of(study) if profile.is_followed]
        return FigureSet(
            title="Own and competitor profiles", made=found,
            cells=[cell for profile, standing in found for cell in _cells(profile, standing)],
            definitions=[(name, definition) for name, _, definition in COLUMNS.values()],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What is divided by what."""
        made = cell_of(self.compute(study, params), cell)
        _, column = cell_parts(cell)
        figure = made.now
        parts: list[Part] = []
        if column == "followers" and figure.value is not None:
            parts = [Part(key="last", name="the last reading of the period", value=figure.value)]
        elif figure.numerator is not None and figure.denominator is not None:
            above, below = PARTS[column]
            # A rate for each thousand is one by thousands.
            scale = 1000 if column == "interactions_per_1000" else 1
            parts = [Part(key="above", name=above, value=figure.numerator),
                     Part(key="below", name=below, value=figure.denominator / scale)]  # fmt: skip
        is_of_posts = column.startswith("interactions")
        return Basis(
            key=cell, name=made.name, unit=made.unit, definition=COLUMNS[column][2], figure=figure,
            rule=Rule.SUM if column == "followers" else Rule.RATIO, parts=parts,
            parts_name="reading" if column == "followers" else "sum",
            what=study.age_words if is_of_posts else "", interval_of="the posts as a sample",
            counted=f"{figure.n:,} posts" if is_of_posts else "",
            missing=_too_young(figure.missing), of_profile=int(cell_parts(cell)[0]),
            note="From public figures alone, so that all are measured alike.",
            behind=Behind(path=f"results/posts?profile={cell_parts(cell)[0]}", name="Its posts"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row a profile, with the intervals of what is told by posts."""
        del params
        rows: list[Row] = []
        for profile, standing in made.made:
            line: Row = [profile.competitor.name if profile.competitor else study.brand.name, profile.name,
                         network_name(profile.network)]  # fmt: skip
            for column in COLUMNS:
                figure: Figure = getattr(standing, column)
                line.append(figure.value)
                if column.startswith("interactions"):
                    line += [figure.interval.low, figure.interval.high] if figure.interval else [None, None]
            rows.append(line)
        head = ["whose", "profile", "network"]
        for column, (name, _, _) in COLUMNS.items():
            head += [name, "low", "high"] if column.startswith("interactions") else [name]
        return Sheet(name="profiles", head=head, rows=rows, definitions=made.definitions, about=about(study))


def _too_young(posts: int) -> str:
    if not posts:
        return ""
    return f"{posts:,} posts are too young, or were not read then." if posts > 1 else (
        "1 post is too young, or was not read then."
    )  # fmt: skip


def _cells(profile: Any, standing: Standing) -> list[Cell]:
    row = f"{profile.name} on {network_name(profile.network)}"
    return [
        Cell(key=cell_key(profile.pk, column), name=f"{row}, {name}", unit=unit, row=row, column=name,
             now=getattr(standing, column))
        for column, (name, unit, _) in COLUMNS.items()
    ]  # fmt: skip
