"""timing.hours: what an hour of the week is worth to a profile, and how sure that is."""

from typing import Any
from zoneinfo import ZoneInfo, available_timezones

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure, Interval
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, Series, cell_of
from dakika_server.figures.study import Study, kind_asked
from dakika_server.results.tables import WEEKDAYS
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile
from dakika_server.timing.queries import ProfileTiming, busiest, kept_timing

INDEX = (
    "What a post at this hour gets, divided by what the profile's posts get at the hours used so far; 1.00 is the "
    "usual. Format and profile are held the same; hours lend one another strength."
)


class HoursParameters(serializers.Serializer[Any]):
    """In which zone; the profile is the study's."""

    zone = serializers.CharField(required=False, max_length=64)


class WeekHours(FigureKind):
    """The week of a profile: the one studied, else the own one that published most."""

    key, name, params = "timing.hours", "Hours of the week", HoursParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """A competitor's week too, where its profile is named."""
        return kind_asked(values)

    def _found(self, study: Study, params: dict[str, Any]) -> tuple[Profile | None, ProfileTiming | None]:
        name = params.get("zone") or study.brand.time_zone
        if name not in available_timezones():
            raise field_errors({"zone": f"There is no time zone {name}."})
        profiles = [profile for profile in study.profiles if profile.is_followed]
        if not profiles:
            return None, None
        wanted = busiest(profiles, clock.now())
        profile = next(one for one in profiles if one.pk == wanted)
        return profile, kept_timing(profile, ZoneInfo(name), clock.now())

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """168 hours, Monday first, each with its 95 % interval."""
        profile, timing = self._found(study, params)
        if profile is None or timing is None or timing.effects is None:
            return FigureSet(title="Too few posts to say anything of hours", cells=[])
        e = timing.effects
        cells = [
            Cell(key=str(h), name=f"{WEEKDAYS[h // 24]} {h % 24:02d}:00", unit=Unit.INDEX, row=WEEKDAYS[h // 24],
                 column=f"{h % 24:02d}:00",
                 now=Figure(value=float(e.index[h]), n=int(e.nearby[h]),
                            interval=Interval(low=float(e.low95[h]), high=float(e.high95[h]))))
            for h in range(len(e.index))
        ]  # fmt: skip
        return FigureSet(
            title=f"Hours of {profile.name}" if e.has_effect else f"No hour of {profile.name} stands out yet",
            cells=cells, made=(profile, timing), definitions=[("index", INDEX)],
            note="Hours with few posts nearby rest on what is known of the others." if e.has_effect else
            "What is shown may be chance.",
            series=[
                Series(key=key, name=name, unit=Unit.INDEX, places=[cell.name for cell in cells],
                       values=[float(v) for v in values])
                for key, name, values in (("index", "index", e.index), ("low", "low, 95 %", e.low95),
                                          ("high", "high, 95 %", e.high95))
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What presence alone would have of it, and what posts make of that."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        profile, timing = made.made
        e, hour = timing.effects, int(cell)
        presence = float(e.by_presence[hour])
        return Basis(
            key=cell, name=f"{one.name}, index", unit=Unit.INDEX, definition=INDEX, figure=one.now, rule=Rule.PRODUCT,
            parts=[
                Part(key="presence", name="by how many of the audience are there", value=presence),
                Part(key="posts", name="by what posts did", value=float(e.index[hour]) / presence),
            ],
            parts_name="factor", interval_of="posts and what is known beforehand together",
            counted=f"{e.posts:,} posts, {one.now.n:,} within two hours of it",
            missing=f"{timing.untimed:,} posts of which only the day is known." if timing.untimed else "",
            note=("" if e.has_effect else "No hour of this profile can be told from chance yet. ")
            + f"{float(e.from_posts[hour]):.0%} of it rests on posts, the rest on what is known beforehand.",
            of_profile=profile.pk, days="The half-year up to the newest post",
            behind=Behind(path=f"timing?profile={profile.pk}", name="The week and its posts"),
        )  # fmt: skip
