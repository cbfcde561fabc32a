"""Timing over HTTP."""

from typing import Any
from zoneinfo import ZoneInfo, available_timezones

from dakika_core.timing.proposals import free_hours, propose_slots
from dakika_core.values.period import hour_of_week
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView, read
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile
from dakika_server.timing.planned import planned_times
from dakika_server.timing.queries import ProfileTiming, busiest, kept_timing

PROPOSALS = 6


class TimingQuerySerializer(serializers.Serializer[Any]):
    """Which profile, in which zone."""

    profile = serializers.IntegerField(required=False)
    zone = serializers.CharField(required=False, max_length=64)


class HourSerializer(serializers.Serializer[Any]):
    """One hour of the week."""

    index = serializers.FloatField()
    low80 = serializers.FloatField()
    high80 = serializers.FloatField()
    low95 = serializers.FloatField()
    high95 = serializers.FloatField()
    nearby = serializers.IntegerField()
    from_posts = serializers.FloatField()
    certainty = serializers.ChoiceField(choices=["sure", "likely", "open"])


class TickSerializer(serializers.Serializer[Any]):
    """A post of the past on the week."""

    id = serializers.IntegerField()
    hour = serializers.FloatField()
    index = serializers.FloatField(allow_null=True)
    text = serializers.CharField(allow_blank=True)


class SlotSerializer(serializers.Serializer[Any]):
    """A proposed hour of the coming week."""

    at = serializers.DateTimeField()
    hour = serializers.FloatField()
    index = serializers.FloatField()
    low80 = serializers.FloatField()
    high80 = serializers.FloatField()
    certainty = serializers.ChoiceField(choices=["sure", "likely", "open"])


class ZoneSerializer(serializers.Serializer[Any]):
    """A zone in which the audience lives."""

    zone = serializers.CharField()
    share = serializers.FloatField()


class ChoiceSerializer(serializers.Serializer[Any]):
    """A profile that can be chosen."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    network = serializers.CharField()
    is_own = serializers.BooleanField()


class TimingSerializer(serializers.Serializer[Any]):
    """The week of a profile."""

    profile = ChoiceSerializer()
    profiles = ChoiceSerializer(many=True)
    zone = serializers.CharField()
    brand_zone = serializers.CharField()
    zones = ZoneSerializer(many=True)
    age_hours = serializers.IntegerField()
    untimed = serializers.IntegerField(help_text="posts left out since only their day is known")
    posts_used = serializers.IntegerField()
    pooled = serializers.IntegerField(help_text="how many profiles it was estimated with, itself among them")
    pooled_posts = serializers.IntegerField(help_text="posts of all of them")
    alone = serializers.FloatField(help_text="how likely its hours have nothing to do with those of the others")
    has_effect = serializers.BooleanField()
    odds = serializers.FloatField(allow_null=True)
    hours = HourSerializer(many=True)
    presence = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    ticks = TickSerializer(many=True)
    proposals = SlotSerializer(many=True)
    planned = serializers.ListField(child=serializers.DateTimeField())


class TimingView(BrandView):
    """When to publish."""

    @extend_schema(operation_id="read_timing", parameters=[TimingQuerySerializer], responses=TimingSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """A profile's week: effect by hour with its uncertainty, presence, posts, proposals."""
        values = read(TimingQuerySerializer, request.query_params)
        name = values.get("zone") or self.brand.time_zone
        if name not in available_timezones():
            raise field_errors({"zone": f"There is no time zone {name}."})
        zone, now = ZoneInfo(name), clock.now()
        profiles = list(Profile.objects.filter(brand=self.brand, is_followed=True).order_by("-kind", "name", "network"))
        wanted = values.get("profile") or (busiest(profiles, now) if profiles else None)
        chosen = next((p for p in profiles if p.pk == wanted), None)
        if chosen is None:
            raise Http404
        timing = kept_timing(chosen, zone, now)
        planned = planned_times(chosen, now)
        return Response(TimingSerializer(self._values(chosen, profiles, timing, zone, planned)).data)

    def _values(
        self, chosen: Profile, profiles: list[Profile], timing: ProfileTiming, zone: ZoneInfo, planned: list[Any]
    ) -> dict[str, Any]:
        effects = timing.effects
        slots = []
        if effects is not None:
            slots = propose_slots(
                index=effects.index, candidates=free_hours(clock.now(), zone), zone=zone, taken=planned, count=PROPOSALS
            )
        names = ("index", "low80", "high80", "low95", "high95", "nearby", "from_posts", "certainty")
        hours = [{n: getattr(effects, n)[h] for n in names} for h in range(168)] if effects else []
        return {
            "profile": _choice(chosen), "profiles": [_choice(p) for p in profiles], "zone": str(zone),
            "brand_zone": self.brand.time_zone,
            "zones": [{"zone": z, "share": s} for z, s in sorted(timing.zones.items(), key=lambda i: -i[1])],
            "age_hours": timing.age_hours, "untimed": timing.untimed,
            "posts_used": len(timing.posts), "pooled": timing.pooled, "pooled_posts": timing.pooled_posts,
            "alone": effects.alone if effects else 0.0,
            "has_effect": bool(effects and effects.has_effect), "odds": effects.odds if effects else None,
            "hours": hours, "presence": None if timing.presence is None else timing.presence.round(4).tolist(),
            "ticks": [
                {"id": p.id, "hour": hour_of_week(p.at, zone), "index": p.index, "text": p.text} for p in timing.posts
            ],
            "planned": planned,
            "proposals": [
                {"at": s.at, "hour": hour_of_week(s.at, zone), **hours[int(hour_of_week(s.at, zone))]} for s in slots
            ],
        }  # fmt: skip


def _choice(profile: Profile) -> dict[str, Any]:
    return {"id": profile.pk, "name": profile.name, "network": profile.network, "is_own": profile.kind == "own"}
