"""Trials over HTTP."""

from datetime import timedelta
from typing import Any

from dakika_core.timing.trials import draw_weeks
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.timing.models import Trial
from dakika_server.timing.serializers import (
    LengthQuerySerializer,
    LengthSerializer,
    StartTrialSerializer,
    StopTrialSerializer,
    TrialSerializer,
    TrialsSerializer,
)
from dakika_server.timing.trials import look, plan_length, start_trial, stop_trial, told

MOST_SHOWN = 100


class TrialsView(BrandView):
    """The trials of a brand."""

    changes = "timing.trial"

    @extend_schema(operation_id="list_trials", responses=TrialsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """All of them, the newest first, with what they say by now."""
        found = Trial.objects.filter(brand=self.brand).prefetch_related("members__profile").order_by("-made_at", "-pk")
        return Response(TrialsSerializer({"trials": [_values(trial) for trial in found[:MOST_SHOWN]]}).data)

    @extend_schema(operation_id="start_trial", request=StartTrialSerializer, responses={201: TrialSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Start one; its weeks are drawn now."""
        values = read(StartTrialSerializer, request.data)
        rhythms = {one["profile"]: (one["first"], one["second"]) for one in values.pop("rhythms", [])}
        made = start_trial(request.user, self.brand, **values, rhythms=rhythms)
        return Response(TrialSerializer(_values(made)).data, status=201)


class TrialLengthView(BrandView):
    """A trial that is thought of."""

    is_question = True

    @extend_schema(operation_id="plan_trial", request=LengthQuerySerializer, responses=LengthSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """How long it would take, by simulation."""
        values = read(LengthQuerySerializer, request.data)
        found = plan_length(self.brand, values["profiles"], values["slots"], values["worth"], values["error"])
        return Response(LengthSerializer({"pairs": found.pairs, "power": found.power, "usual": found.usual}).data)


class StopTrialView(BrandView):
    """The end of a trial."""

    changes = "timing.trial"

    @extend_schema(operation_id="stop_trial", request=StopTrialSerializer, responses=TrialSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """End it now, keep one of its two as the rhythm, or both."""
        if not Trial.objects.filter(brand=self.brand, pk=pk).exists():
            raise Http404
        stopped = stop_trial(request.user, self.brand, pk, **read(StopTrialSerializer, request.data))
        return Response(TrialSerializer(_values(stopped)).data)


def _values(trial: Trial) -> dict[str, Any]:
    is_running = trial.state == Trial.State.RUNNING
    return {
        "id": trial.pk, "name": trial.name, "of_rhythms": not trial.first, "first": trial.first,
        "second": trial.second, "zone": trial.zone,
        "starts": trial.starts, "ends": trial.starts + timedelta(weeks=2 * trial.pairs) - timedelta(days=1),
        "pairs": trial.pairs, "worth": trial.worth, "error": trial.error, "state": trial.state,
        "was_kept": trial.was_kept, "made_at": trial.made_at, "ended_at": trial.ended_at,
        "outcome": told(look(trial, clock.now())) if is_running else trial.outcome,
        "profiles": [
            {
                "profile": member.profile_id, "name": member.profile.name, "network": member.profile.network,
                "first": member.first or trial.first, "second": member.second or trial.second,
                "weeks": [
                    {"monday": trial.starts + timedelta(weeks=number), "is_second": is_second}
                    for number, is_second in enumerate(draw_weeks(member.seed, trial.pairs))
                ],
            }
            for member in trial.members.all()
        ],
    }  # fmt: skip
