"""competitors.followers: one profile's followers day by day, ours or another's."""

from datetime import date, timedelta
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.competitors.kinds.table import PUBLIC_ALONE
from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, Series, cell_of
from dakika_server.figures.study import LARGEST_KEY, Study
from dakika_server.networks.definitions import network_name
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile, ProfileReading

FOLLOWERS = "How many follow the profile at the end of the last day on which its network told."
NET = "Followers on the last day that was told of, less those on the first one of the same days."
NOTHING_TOLD = "Nothing was told of its followers on these days."


class ProfileParameters(serializers.Serializer[Any]):
    """Which profile; the first competitor's where none is named."""

    of_profile = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)


class Followers(FigureKind):
    """A profile's followers, as anybody can see them."""

    key, name, params = "competitors.followers", "A profile's followers", ProfileParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """Everybody's."""
        del values
        return None

    def _profile(self, study: Study, params: dict[str, Any]) -> Profile | None:
        ours_and_theirs = Profile.objects.filter(brand=study.brand)
        if number := params.get("of_profile"):
            profile = ours_and_theirs.filter(pk=number).first()
            if profile is None:
                raise field_errors({"of_profile": "There is no such profile."})
            return profile
        theirs = ours_and_theirs.filter(kind=Profile.Kind.COMPETITOR, is_followed=True)
        return theirs.order_by("competitor__name", "pk").first()

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """How many there are, how many more than at first, and the course by day."""
        profile = self._profile(study, params)
        if profile is None:
            return FigureSet(title="Nobody is followed", cells=[], note="Follow a competitor's profile under Sources.")
        now = _told(profile, study.period.first, study.period.last)
        before = _told(profile, study.compared.first, study.compared.last)
        days = [study.period.first + timedelta(days=n) for n in range(study.period.days)]
        cells = [
            Cell(key="followers", name="Followers", column="Followers", unit=Unit.COUNT, now=_last(now),
                 before=_last(before)),
            Cell(key="net_followers", name="Net followers", column="Net followers", unit=Unit.COUNT,
                 now=_change(now), before=_change(before), is_net=True),
        ]  # fmt: skip
        return FigureSet(
            title=f"{profile.name} on {network_name(profile.network)}", made=(profile, now),
            cells=cells if now else [], note="" if now else NOTHING_TOLD,
            definitions=[("Followers", FOLLOWERS), ("Net followers", NET)],
            series=[Series(key="followers", name="Followers", unit=Unit.COUNT, places=[d.isoformat() for d in days],
                           values=[now.get(day) for day in days])] if now else [],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """The day that was told of last, and for the change the first one beside it."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        profile, told = made.made
        first, last = min(told), max(told)
        parts = [Part(key="last", name=f"on {last:%-d %B %Y}", value=float(told[last]))]
        if cell == "net_followers":
            parts.append(Part(key="first", name=f"less those on {first:%-d %B %Y}", value=-float(told[first])))
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=NET if cell == "net_followers" else FOLLOWERS,
            figure=one.now, before=one.before, rule=Rule.SUM, parts=parts, parts_name="day", of_profile=profile.pk,
            counted=f"{one.now.n} days that were told of", note=PUBLIC_ALONE,
            behind=Behind(path=f"sources/profiles/{profile.pk}", name="The profile"),
        )  # fmt: skip


def _told(profile: Profile, first: date, last: date) -> dict[date, int]:
    """Followers by day, of the days that were told of alone."""
    found = ProfileReading.objects.filter(profile=profile, day__range=(first, last)).order_by("day")
    return {day: count for day, count in found.values_list("day", "followers") if count is not None}


def _last(told: dict[date, int]) -> Figure:
    return Figure(value=float(told[max(told)]), n=len(told)) if told else Figure(value=None)


def _change(told: dict[date, int]) -> Figure:
    """Missing where a single day was told of: nothing can be held against it."""
    if len(told) < 2:
        return Figure(value=None, n=len(told))
    return Figure(value=float(told[max(told)] - told[min(told)]), n=len(told))
