"""plan.calendar: what is set to go out in the coming weeks, day by day."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.plan.states import State
from dakika_core.values.period import Period
from dakika_core.values.text import cut
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, RowAbout, Series, count_of, no_cell
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import network_name
from dakika_server.plan.models import Version

DEFINITION = "Posts that are set to go out or are out already, one for each time; drafts and ideas are none."
# What others may see of a plan: what was decided.
SET = [one.value for one in (State.SCHEDULED, State.PUBLISHING, State.PUBLISHED, State.BY_HAND)]
# Weeks from the one of today: first, and how many.
WEEKS = {"this_week": (0, 1), "next_week": (1, 1), "two_weeks": (0, 2), "four_weeks": (0, 4)}
LONGEST_NAME, MOST_POSTS = 70, 600


class CalendarParameters(serializers.Serializer[Any]):
    """Which weeks, from Monday on."""

    ahead = serializers.ChoiceField(choices=list(WEEKS), default="two_weeks")


@dataclass(frozen=True, kw_only=True)
class Going:
    """A post at one of its times, and the networks that it goes to then."""

    post: int
    at: datetime
    text: str
    networks: tuple[str, ...]


class PlanCalendar(FigureKind):
    """The coming weeks, from today's on."""

    key, name, params = "plan.calendar", "What is planned", CalendarParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A figure for each day, and the posts with their time."""
        days = days_of(study.today, params["ahead"])
        going = going_out(study, days)
        of_day = {day: [one for one in going if one.at.date() == day] for day in days}
        return FigureSet(
            title="What is planned", definitions=[("posts", DEFINITION)], made=going,
            note="" if going else "Nothing is set to go out in these weeks.", days=(days[0], days[-1]),
            cells=[
                Cell(key="posts", name="Posts planned", unit=Unit.COUNT, now=count_of(len(going))),
                *[
                    Cell(key=day.isoformat(), name=f"Posts planned, {day.isoformat()}", unit=Unit.COUNT,
                         row=day.isoformat(), column="posts planned", now=count_of(len(found)))
                    for day, found in of_day.items()
                ],
            ],
            series=[
                Series(key="posts", name="Posts planned", unit=Unit.COUNT, places=[day.isoformat() for day in days],
                       values=[float(len(found)) for found in of_day.values()])
            ],
            rows=[
                RowAbout(row=f"{one.post} {one.at:%Y-%m-%dT%H:%M}", text=one.text, at=f"{one.at:%Y-%m-%dT%H:%M}",
                         detail=", ".join(network_name(name) for name in one.networks), path=f"plan/{one.post}")
                for one in going
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """How many go to each set of networks."""
        days = days_of(study.today, params["ahead"])
        going = going_out(study, days)
        if cell != "posts":
            if cell not in {day.isoformat() for day in days}:
                raise no_cell(cell)
            going = [one for one in going if one.at.date().isoformat() == cell]
        ways: dict[tuple[str, ...], int] = {}
        for one in going:
            ways[one.networks] = ways.get(one.networks, 0) + 1
        return Basis(
            key=cell, name="Posts planned" if cell == "posts" else f"Posts planned, {cell}", unit=Unit.COUNT,
            definition=DEFINITION, figure=count_of(len(going)), rule=Rule.SUM, parts_name="to which networks",
            parts=[
                Part(key=" ".join(names), name=", ".join(network_name(name) for name in names), value=float(count))
                for names, count in sorted(ways.items())
            ],
            counted=f"{len(going):,} posts", is_counted_here=True, behind=Behind(path="plan", name="The plan"),
            days=f"{days[0].isoformat()} to {days[-1].isoformat()}" if cell == "posts" else cell,
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row for each post at each of its times."""
        del params
        rows: list[Row] = [
            [one.at.isoformat("T", "minutes"), ", ".join(network_name(name) for name in one.networks), one.text]
            for one in made.made
        ]
        return Sheet(
            name="calendar", head=["at", "networks", "text"], rows=rows, definitions=made.definitions,
            about=about(study),
        )  # fmt: skip


def days_of(today: date, ahead: str) -> list[date]:
    """The days of whole weeks from Monday on."""
    first, weeks = WEEKS[ahead]
    monday = today - timedelta(days=today.weekday()) + timedelta(weeks=first)
    return [monday + timedelta(days=day) for day in range(7 * weeks)]


def going_out(study: Study, days: list[date]) -> list[Going]:
    """What is set to go out on these days to the profiles studied, in order; local times. One query."""
    zone = study.brand.zone
    period = Period(first=days[0], last=days[-1], zone=zone)
    rows = (
        Version.objects.filter(
            planned_post__brand=study.brand, profile__in=study.profile_ids, state__in=SET, due_at__gte=period.start,
            due_at__lt=period.end,
        )
        .order_by("due_at", "planned_post_id", "pk")
        .values_list("planned_post_id", "due_at", "planned_post__title", "planned_post__text", "text",
                     "profile__network")[: MOST_POSTS * 4]
    )  # fmt: skip
    found: dict[tuple[int, datetime], tuple[str, list[str]]] = {}
    for post, due, title, common, own, network in rows:
        if due is None:
            continue
        text = " ".join((title or common or own or "").split())
        _, networks = found.setdefault((post, due), (cut(text or "without words", LONGEST_NAME), []))
        if network not in networks:
            networks.append(network)
    return [
        Going(post=post, at=due.astimezone(zone), text=text, networks=tuple(networks))
        for (post, due), (text, networks) in list(found.items())[:MOST_POSTS]
    ]
