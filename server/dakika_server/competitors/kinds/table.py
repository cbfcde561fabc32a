"""competitors.table: own and competitor profiles side by side."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.values.figure import Figure

from dakika_server.competitors.field import SetSerializer, in_set
from dakika_server.competitors.standings import COLUMNS, Line, Standings, standings_of
from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, cell_key, cell_of, cell_parts
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import network_name

PUBLIC_ALONE = "From public figures alone, so that all are measured alike."


class Table(FigureKind):
    """Everybody's public figures, with places."""

    key, name, params = "competitors.table", "Profiles side by side", SetSerializer

    def whose(self, values: dict[str, Any]) -> str | None:
        """Everybody's."""
        del values
        return None

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """All columns of each member, and of each of its profiles."""
        found = standings_of(in_set(study, params.get("set")), params["by"])
        return FigureSet(
            title="Own and competitor profiles", made=found,
            note="" if found.lines else "No profile of this set is followed.",
            cells=[cell for line in _every(found) for cell in _cells(line)],
            definitions=[(metric.name, metric.definition) for metric in COLUMNS.values()],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What is divided by what, or added up."""
        found: Standings = standings_of(in_set(study, params.get("set")), params["by"])
        every = {line.member.key: line for line in _every(found)}
        made = cell_of(FigureSet(title="", cells=[c for line in every.values() for c in _cells(line)]), cell)
        key, column = cell_parts(cell)
        line, metric = every[key], COLUMNS[column]
        rule, parts = parts_of(line, column)
        numbers = ",".join(str(profile.pk) for profile in line.member.profiles)
        one = line.member.profiles[0].pk if len(line.member.profiles) == 1 else None
        return Basis(
            key=cell, name=made.name, unit=made.unit, definition=metric.definition, figure=made.now,
            before=made.before, rule=rule, parts=parts, parts_name="profile" if column == "followers" else "sum",
            what=study.age_words if metric.is_of_posts else "",
            interval_of="the posts as a sample" if made.now.interval else "",
            counted=f"{made.now.n:,} posts" if metric.is_of_posts and column != "share" else "",
            missing=too_young(made.now.missing) if metric.is_of_posts else untold(made.now.missing), of_profile=one,
            note=PUBLIC_ALONE,
            behind=Behind(path=f"results/posts?profile={numbers}", name="Its posts"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row for each member and each profile, with intervals, the comparison and places."""
        del params
        found: Standings = made.made
        head = ["whose", "profile", "network"]
        for metric in COLUMNS.values():
            head += [metric.name, *(["low", "high"] if metric.is_of_posts else []), "comparison", "place"]
        rows: list[Row] = []
        for line in _every(found):
            profile = line.member.profiles[0] if line.member.key.startswith("p") else None
            owner = profile.competitor.name if profile and profile.competitor else line.member.name
            if profile and not profile.competitor:
                owner = study.brand.name
            row: Row = [owner, profile.name if profile else "all of them",
                        ", ".join(network_name(n) for n in line.member.networks)]  # fmt: skip
            for column, metric in COLUMNS.items():
                now, place = line.now.get(column, Figure(value=None)), line.place.get(column)
                row.append(now.value)
                if metric.is_of_posts:
                    row += [now.interval.low, now.interval.high] if now.interval else [None, None]
                row += [line.before.get(column, Figure(value=None)).value, place.rank if place else None]
            rows.append(row)
        return Sheet(name="profiles", head=head, rows=rows, definitions=made.definitions, about=about(study))


def parts_of(line: Line, column: str) -> tuple[Rule, list[Part]]:
    """What a figure of the table is made of."""
    metric, figure = COLUMNS[column], line.now[column]
    if figure.value is None:
        return Rule.SUM, []
    if column == "followers":
        inner = line.profiles or (line,)
        return Rule.SUM, [
            Part(key=one.member.key, name=f"{one.member.name} on {network_name(one.member.networks[0])}",
                 value=one.sums.followers)
            for one in inner if one.sums.followers is not None
        ]  # fmt: skip
    if column == "gained":
        return Rule.SUM, [
            Part(key="end", name="Followers at the end", value=line.sums.grown_to or 0.0),
            Part(key="start", name="Less those at the start", value=-(line.sums.grown_from or 0.0)),
        ]
    if figure.numerator is None or not figure.denominator:
        return Rule.SUM, []
    above, below = metric.parts
    return Rule.RATIO, [
        Part(key="above", name=above, value=figure.numerator), Part(key="below", name=below, value=figure.denominator),
    ]  # fmt: skip


def too_young(posts: int) -> str:
    """Posts that do not tell, in words."""
    if not posts:
        return ""
    return f"{posts:,} posts are too young, or were not read then." if posts > 1 else (
        "1 post is too young, or was not read then."
    )  # fmt: skip


def untold(profiles: int) -> str:
    """Profiles that do not tell, in words."""
    if not profiles:
        return ""
    return f"{profiles} profiles tell none, and are left out." if profiles > 1 else (
        "1 profile tells none, and is left out."
    )  # fmt: skip


def _every(found: Standings) -> list[Line]:
    return [one for line in found.lines for one in (line, *line.profiles)]


def _cells(line: Line) -> list[Cell]:
    row = line.member.name
    if line.member.key.startswith("p"):
        row = f"{row} on {network_name(line.member.networks[0])}"
    return [
        Cell(key=cell_key(line.member.key, column), name=f"{row}, {metric.name}", unit=metric.unit, row=row,
             column=metric.name, now=line.now[column], before=line.before[column])
        for column, metric in COLUMNS.items() if column in line.now
    ]  # fmt: skip
