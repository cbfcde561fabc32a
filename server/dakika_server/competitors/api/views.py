"""Everybody side by side, the benchmark, axes, presence, what works, the gap, the others' best posts: over HTTP."""

from typing import Any

from dakika_core.competitors.band import SizeLine
from dakika_core.competitors.field import PUBLIC
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.competitors.axes import axes_of
from dakika_server.competitors.benchmark import benchmark_of, sizes_words, slope_words, usual_along
from dakika_server.competitors.best import best_posts
from dakika_server.competitors.field import Member, in_set, set_of
from dakika_server.competitors.gap import gap_of, gap_words
from dakika_server.competitors.presence import COLUMNS as PRESENCE_COLUMNS
from dakika_server.competitors.presence import presence_of, unused
from dakika_server.competitors.serializers import (
    AxesQuerySerializer,
    AxesSerializer,
    BenchmarkQuerySerializer,
    BenchmarkSerializer,
    BestPostsQuerySerializer,
    BestPostsSerializer,
    GapQuerySerializer,
    GapSerializer,
    PeerStudySerializer,
    PeerTableSerializer,
    PresenceSerializer,
    WorksQuerySerializer,
    WorksSerializer,
)
from dakika_server.competitors.standings import COLUMNS, Line, standings_of
from dakika_server.competitors.works import works_of
from dakika_server.figures.study import Study, study_of
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.sources.health import holes_in


class _PeerView(BrandView):
    """A view of a set of profiles."""

    def study(self, values: dict[str, Any]) -> Study:
        """What is asked, narrowed to the set."""
        return in_set(study_of(self.brand, values, clock.now(), kind=None), values.get("set"))


def _about(study: Study) -> dict[str, Any]:
    return {"period": study.period, "compared": study.compared, "age_hours": study.age_hours}


def _member(member: Member) -> dict[str, Any]:
    return {
        "key": member.key, "name": member.name, "is_own": member.is_own, "competitor": member.competitor,
        "networks": member.networks, "profile_ids": [profile.pk for profile in member.profiles],
    }  # fmt: skip


def _line(line: Line) -> dict[str, Any]:
    figures = {
        key: {"now": now, "before": line.before[key], "place": line.place.get(key)} for key, now in line.now.items()
    }
    return {**_member(line.member), "figures": figures, "profiles": [_line(inner) for inner in line.profiles]}


class TableView(_PeerView):
    """Everybody side by side."""

    @extend_schema(operation_id="read_competitors", parameters=[PeerStudySerializer], responses=PeerTableSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """All public figures of each member, with places and the comparison."""
        values = read(PeerStudySerializer, request.query_params)
        study = self.study(values)
        found = standings_of(study, values["by"])
        holes = holes_in(self.brand, list(study.profiles), study.period.first, study.period.last, clock.now())
        shown = {
            **_about(study), "holes": holes, "columns": list(COLUMNS.values()), "spread": found.spread,
            "rows": [_line(line) for line in found.lines],
        }  # fmt: skip
        return Response(PeerTableSerializer(shown).data)


class BenchmarkView(_PeerView):
    """The benchmark."""

    @extend_schema(operation_id="read_benchmark", parameters=[BenchmarkQuerySerializer], responses=BenchmarkSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The set's spread over time with us in it, our place, and what is usual for an audience of our size."""
        values = read(BenchmarkQuerySerializer, request.query_params)
        study = self.study(values)
        found = benchmark_of(study, PUBLIC[values["metric"]], values["by"])
        ours = found.standings.ours
        is_line = isinstance(found.size, SizeLine)
        bins = [
            {"first": first, "band": [None if v != v else float(v) for v in found.band[:, i]],
             "members": found.counted[i], "ours": found.ours[i]}
            for i, first in enumerate(found.bins.firsts)
        ]  # fmt: skip
        shown = {
            **_about(study), "title": found.title, "column": found.metric, "bin_days": found.bins.days, "bins": bins,
            "now": ours.now[found.metric.key] if ours else None, "place": found.place,
            "usual": usual_along(found.size, [followers for _, followers, _ in found.dots]),
            "size": found.size if is_line else None, "size_words": sizes_words(found),
            "has_several": len(found.sizes) > 1,
            "slope_words": slope_words(found.size) if isinstance(found.size, SizeLine) else "",
            "dots": [{**_member(line.member), "followers": followers, "rate": rate}
                     for line, followers, rate in found.dots],
        }  # fmt: skip
        return Response(BenchmarkSerializer(shown).data)


class AxesView(_PeerView):
    """Two axes."""

    @extend_schema(operation_id="read_axes", parameters=[AxesQuerySerializer], responses=AxesSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Everybody on two metrics of choice, with the medians and where each came from."""
        values = read(AxesQuerySerializer, request.query_params)
        study = self.study(values)
        found = axes_of(study, values["x"], values["y"], values["size"], values["by"])
        shown = {
            **_about(study), **vars(found), "columns": list(PUBLIC.values()),
            "dots": [
                {**_member(dot.member), "x": dot.x, "y": dot.y, "size": dot.size,
                 "trail": [{"x": x, "y": y} for x, y in dot.trail]}
                for dot in found.dots
            ],
            "quadrants": [
                found.quadrant(is_right=right, is_upper=upper)
                for upper in (True, False) for right in (False, True)
            ],
        }  # fmt: skip
        return Response(AxesSerializer(shown).data)


class BestPostsView(_PeerView):
    """The others' best posts."""

    @extend_schema(operation_id="list_best_posts", parameters=[BestPostsQuerySerializer], responses=BestPostsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The furthest above their own usual first."""
        values = read(BestPostsQuerySerializer, request.query_params)
        study, peers = self.study(values), set_of(self.brand, values.get("set"))
        found = best_posts(
            study, request.user, peers, text=values["text"], hashtag=values["hashtag"], sort=values["sort"],
            is_new=values["new"], cursor=values.get("cursor"), limit=values["limit"],
        )  # fmt: skip
        shown = {**vars(found), "age_hours": study.age_hours, "next": found.following}
        return Response(BestPostsSerializer(shown).data)


class PresenceView(_PeerView):
    """Who is where."""

    @extend_schema(operation_id="read_presence", parameters=[PeerStudySerializer], responses=PresenceSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Each network with those who are on it and what it brings them."""
        study = self.study(read(PeerStudySerializer, request.query_params))
        shown = {
            **_about(study), "networks": presence_of(study), "unused": unused(study),
            "columns": [PUBLIC[key] for key in PRESENCE_COLUMNS],
        }  # fmt: skip
        return Response(PresenceSerializer(shown).data)


class WorksView(_PeerView):
    """What works in the field."""

    @extend_schema(operation_id="read_works", parameters=[WorksQuerySerializer], responses=WorksSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Groups of the others' posts, and our own use of them."""
        values = read(WorksQuerySerializer, request.query_params)
        study = self.study(values)
        return Response(WorksSerializer({**_about(study), **vars(works_of(study, values["of"]))}).data)


class GapView(_PeerView):
    """The gap."""

    @extend_schema(operation_id="read_gap", parameters=[GapQuerySerializer], responses=GapSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Against one competitor, or the middle of the set."""
        values = read(GapQuerySerializer, request.query_params)
        study = self.study(values)
        found = gap_of(study, values["against"])
        gap = found.gap
        shown = {
            **_about(study), "title": gap_words(found), "against": found.against, "name": found.name,
            "problem": found.problem, "levers": gap.levers if gap else [], "ours": gap.ours if gap else None,
            "theirs": gap.theirs if gap else None,
            "members": [
                {"key": member.key, "name": member.name, "interactions": product.interactions if product else None}
                for member, product in found.members if not member.is_own
            ],
            "own_followers": found.own_followers,
            "own_profiles": [p.pk for member, _ in found.members if member.is_own for p in member.profiles],
        }  # fmt: skip
        return Response(GapSerializer(shown).data)
