"""The calendar: posts, notes and days, what did not go out, and what is held back."""

from typing import Any

from dakika_core.values.period import Period
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.api.posts import new_post
from dakika_server.plan.calendar import Filter, calendar, pauses_of, to_settle
from dakika_server.plan.followed import follow_calendar, leave_calendar
from dakika_server.plan.models import Version
from dakika_server.plan.notes import add_note, change_note, remove_note
from dakika_server.plan.pauses import begin_pause, end_pause
from dakika_server.plan.serializers.calendar import (
    CalendarNoteInputSerializer,
    CalendarNoteSerializer,
    FollowedCalendarInputSerializer,
    FollowedCalendarSerializer,
    GoingOutSerializer,
    PauseEndedSerializer,
    PauseEndSerializer,
    PauseInputSerializer,
    PlanQuerySerializer,
    PlanSerializer,
    SettleSerializer,
)
from dakika_server.plan.serializers.posts import (
    PlannedPostInputSerializer,
    PlannedPostSerializer,
)
from dakika_server.plan.settling import settle_version
from dakika_server.shared.parsers import read

LONGEST_DAYS = 100


class PlanView(BrandView):
    """The calendar."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="read_plan", parameters=[PlanQuerySerializer], responses=PlanSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """What is planned and what was published between two days."""
        asked = read(PlanQuerySerializer, request.query_params)
        if not 0 <= (asked["last"] - asked["first"]).days <= LONGEST_DAYS:
            raise serializers.ValidationError({"last": f"Ask for 1 to {LONGEST_DAYS} days."})
        period = Period(first=asked.pop("first"), last=asked.pop("last"), zone=self.brand.zone)
        return Response(calendar(self.brand, period, Filter(**asked)))

    @extend_schema(operation_id="plan_post", request=PlannedPostInputSerializer, responses={201: PlannedPostSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new draft."""
        return new_post(self, request)


class GoingOutView(BrandView):
    """What did not go out, and what is held back."""

    reads = "plan.read"

    @extend_schema(operation_id="read_going_out", responses=GoingOutSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The latest first, until somebody settles them."""
        return Response({"to_settle": to_settle(self.brand), "pauses": pauses_of(self.brand)})


class SettleView(BrandView):
    """One version that did not go out."""

    reads, changes = "plan.read", "plan.publish"

    @extend_schema(operation_id="settle_version", request=SettleSerializer, responses=GoingOutSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Send it now, write its first comment again, or leave it."""
        version = Version.objects.filter(planned_post__brand=self.brand, pk=pk).first()
        if version is None:
            raise Http404
        settle_version(request.user, version, read(SettleSerializer, request.data)["what"])
        return Response({"to_settle": to_settle(self.brand), "pauses": pauses_of(self.brand)})


class PausesView(BrandView):
    """Pauses for everything, or for one profile."""

    reads, changes = "plan.read", "plan.publish"

    @extend_schema(operation_id="begin_pause", request=PauseInputSerializer, responses={201: GoingOutSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Let nothing out any more."""
        asked = read(PauseInputSerializer, request.data)
        begin_pause(request.user, self.brand, profile_id=asked["profile"], why=asked["why"])
        return Response({"to_settle": to_settle(self.brand), "pauses": pauses_of(self.brand)}, status=201)

    @extend_schema(operation_id="end_pause", request=PauseEndSerializer, responses=PauseEndedSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """Let things out again."""
        asked = read(PauseEndSerializer, request.data)
        overdue = end_pause(
            request.user, self.brand, profile_id=asked["profile"], send_overdue=asked["send_overdue"]
        )  # fmt: skip
        return Response({"overdue": overdue})


class NotesView(BrandView):
    """Days of one's own."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(
        operation_id="add_note", request=CalendarNoteInputSerializer, responses={201: CalendarNoteSerializer}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Another."""
        return Response(
            _note(add_note(request.user, self.brand, **read(CalendarNoteInputSerializer, request.data))), status=201
        )


class NoteView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="change_note", request=CalendarNoteInputSerializer, responses=CalendarNoteSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Other days, or another text."""
        values = read(CalendarNoteInputSerializer, request.data)
        return Response(_note(change_note(request.user, self.brand, pk, **values)))

    @extend_schema(operation_id="remove_note", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take it away."""
        remove_note(request.user, self.brand, pk)
        return Response(status=204)


class CalendarsView(BrandView):
    """Calendars of others."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(
        operation_id="follow_calendar", request=FollowedCalendarInputSerializer,
        responses={201: FollowedCalendarSerializer},
    )  # fmt: skip
    def post(self, request: Request, brand: str) -> Response:
        """Show another beside the plan."""
        made = follow_calendar(request.user, self.brand, **read(FollowedCalendarInputSerializer, request.data))
        return Response(FollowedCalendarSerializer(made).data, status=201)


class CalendarView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="leave_calendar", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take it away."""
        leave_calendar(request.user, self.brand, pk)
        return Response(status=204)


def _note(note: Any) -> Any:
    return CalendarNoteSerializer(note).data
