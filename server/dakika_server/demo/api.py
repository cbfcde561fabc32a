"""The demo beside one's own brands."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.accounts.api.session import OwnView
from dakika_server.demo.beside import LASTS, State, ask_for_demo, demo_of, is_offered, take_away
from dakika_server.demo.models import DemoBrand
from dakika_server.shared.callers import slow_down

MOST_ASKED = 6


class DemoSerializer(serializers.Serializer[Any]):
    """A demo, or that there is none: is_offered says whether one can be made; until is when it goes by itself."""

    state = serializers.ChoiceField(choices=["none", *State.values])
    is_offered = serializers.BooleanField()
    slug = serializers.CharField(allow_null=True)
    until = serializers.DateTimeField(allow_null=True)


def _told(demo: DemoBrand | None) -> Any:
    there = demo if demo is not None and demo.state != State.GOING else None
    return DemoSerializer({
        "state": demo.state if demo else "none", "is_offered": is_offered(),
        "slug": there.brand.slug if there else None, "until": there.asked_at + LASTS if there else None,
    }).data  # fmt: skip


class DemoView(OwnView):
    """One's demo."""

    @extend_schema(operation_id="read_demo", responses=DemoSerializer)
    def get(self, request: Request) -> Response:
        """How far it is."""
        return Response(_told(demo_of(self.person)))

    @extend_schema(operation_id="ask_for_demo", request=None, responses={202: DemoSerializer})
    def post(self, request: Request) -> Response:
        """Have one made: a brand of invented figures, seen by oneself alone, for a month."""
        slow_down("demo", str(self.person.pk), MOST_ASKED)
        return Response(_told(ask_for_demo(self.person)), status=202)

    @extend_schema(operation_id="take_demo_away", responses={204: None})
    def delete(self, request: Request) -> Response:
        """Take it away with everything in it."""
        take_away(self.person)
        return Response(status=204)
