"""Rhythms over HTTP."""

from datetime import timedelta
from typing import Any

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.sources.models import Profile
from dakika_server.timing.models import Rhythm
from dakika_server.timing.planned import planned_between
from dakika_server.timing.rhythms import (
    TAKEN_WITHIN,
    Proposal,
    is_taken,
    keep_rhythm,
    propose,
    rhythms_of,
    rules_of,
    slots_between,
)
from dakika_server.timing.serializers import (
    DueQuerySerializer,
    DueSerializer,
    KeepRhythmSerializer,
    ProposeSerializer,
    RhythmProposalSerializer,
    RhythmSerializer,
)


class RhythmsView(BrandView):
    """The rhythms of a brand's own profiles."""

    @extend_schema(operation_id="list_rhythms", responses=RhythmSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """Each own profile with its rhythm, or without one."""
        return Response(
            RhythmSerializer([_rhythm(p, k, used) for p, k, used in rhythms_of(self.brand)], many=True).data
        )


class ProposeView(BrandView):
    """A question for several profiles at once."""

    is_question = True

    @extend_schema(operation_id="propose_rhythm", request=ProposeSerializer, responses=RhythmProposalSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """The best weekly times under the rules, with what they gain. Nothing is kept."""
        values = read(ProposeSerializer, request.data)
        wanted = {wish["profile"]: wish["times"] for wish in values["wishes"]}
        found = propose(self.brand, wanted, rules_of(values.get("rules") or {}))
        return Response(RhythmProposalSerializer({**_proposed(found, wanted), "zone": self.brand.time_zone}).data)


class RhythmView(BrandView):
    """The rhythm of one profile."""

    changes = "timing.rhythm"

    @extend_schema(operation_id="keep_rhythm", request=KeepRhythmSerializer, responses=RhythmSerializer)
    def put(self, request: Request, brand: str, profile: int) -> Response:
        """Keep these weekly times."""
        values = read(KeepRhythmSerializer, request.data)
        slots = [(slot["minute"], slot["is_learning"]) for slot in values["slots"]]
        keep_rhythm(request.user, self.brand, profile, slots, values.get("rules") or {}, values["edition"])
        found = next(((p, k, used) for p, k, used in rhythms_of(self.brand) if p.pk == profile), None)
        if found is None:
            raise Http404
        return Response(RhythmSerializer(_rhythm(*found)).data)


class DueView(BrandView):
    """Standing slots of the days ahead."""

    @extend_schema(operation_id="list_slots", parameters=[DueQuerySerializer], responses=DueSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """The standing slots of some profiles, those of trials in their weeks, and which are taken."""
        values = read(DueQuerySerializer, request.query_params)
        known = set(Profile.objects.filter(brand=self.brand, pk__in=values["profile"]).values_list("pk", flat=True))
        now, end = clock.now(), clock.now() + timedelta(days=values["days"])
        due = slots_between(self.brand, sorted(known), now, end)
        taken = planned_between(sorted(known), now - TAKEN_WITHIN, end + TAKEN_WITHIN)
        rows = [{**vars(slot), "is_taken": is_taken(slot, taken)} for slot in due]
        return Response(DueSerializer(rows, many=True).data)


def _rhythm(profile: Profile, kept: Rhythm | None, used: float) -> dict[str, Any]:
    return {
        "profile": profile.pk, "name": profile.name, "network": profile.network, "used": used,
        "zone": kept.zone if kept else profile.brand.time_zone, "edition": kept.edition if kept else None,
        "kept_at": kept.kept_at if kept else None, "slots": list(kept.slots.all()) if kept else [],
        "rules": (kept.rules or None) if kept else None,
    }  # fmt: skip


def _proposed(found: Proposal, wanted: dict[int, int]) -> dict[str, Any]:
    return {
        "gain": found.gain,
        "profiles": [
            {
                "profile": pk, "slots": [slot for slot in found.slots if slot.profile == str(pk)],
                "short": found.short.get(pk, 0), "gain": found.gains[pk], "now": sorted(set(found.now[pk])),
                "stands_by": found.stands_by[pk],
            }
            for pk in wanted
        ],
    }  # fmt: skip
