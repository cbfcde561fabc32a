"""Saying yes within the team: rules, asking, verdicts, remarks, votes, tasks, and guests' links."""

from django.conf import settings
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.api.posts import PlannedPostView, shown
from dakika_server.plan.calendar import entries
from dakika_server.plan.guests import guests_of, invite, revoke_guest
from dakika_server.plan.log import log_of
from dakika_server.plan.models import PlannedPost
from dakika_server.plan.remarks import looked, remark, settle_remark, vote
from dakika_server.plan.review_queries import review_of, waiting_for
from dakika_server.plan.reviewing import rules_of_brand, set_review_rules, teller_of
from dakika_server.plan.saying import say, submit
from dakika_server.plan.serializers.calendar import CalendarEntrySerializer
from dakika_server.plan.serializers.posts import PlannedPostSerializer
from dakika_server.plan.serializers.review import (
    GuestInputSerializer,
    GuestSerializer,
    InvitedSerializer,
    LogEntrySerializer,
    RemarkInputSerializer,
    ReviewRulesSerializer,
    ReviewSerializer,
    SettleRemarkSerializer,
    SubmitSerializer,
    TaskDoneSerializer,
    TaskInputSerializer,
    TaskQuerySerializer,
    TaskSerializer,
    VerdictInputSerializer,
    VoteSerializer,
)
from dakika_server.plan.tasks import add_task, finish_task, remove_task, tasks_of
from dakika_server.shared.paging import PartSerializer, part_of
from dakika_server.shared.parsers import read


class ReviewRulesView(BrandView):
    """Who has to say yes before posts go out."""

    reads, changes = "plan.read", "brand.change"

    @extend_schema(operation_id="read_review_rules", responses=ReviewRulesSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """As they are; no steps where nobody has to."""
        return Response(ReviewRulesSerializer(rules_of_brand(self.brand.pk)).data)

    @extend_schema(operation_id="set_review_rules", request=ReviewRulesSerializer, responses=ReviewRulesSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """Say who has to."""
        kept = set_review_rules(request.user, self.brand, **read(ReviewRulesSerializer, request.data))
        return Response(ReviewRulesSerializer(kept).data)


class ToReviewView(BrandView):
    """What waits for one's own yes."""

    reads = "plan.read"

    @extend_schema(operation_id="list_to_review", responses=CalendarEntrySerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """Posts, those that go out first in front."""
        waiting = waiting_for(self.brand, teller_of(request.user, self.brand))
        return Response(CalendarEntrySerializer(entries(PlannedPost.objects.filter(pk__in=waiting)), many=True).data)


class SubmitView(PlannedPostView):
    """Asking for a yes."""

    http_method_names = ["post", "options"]

    @extend_schema(operation_id="submit_post", request=SubmitSerializer, responses=PlannedPostSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Those whose yes counts are told; with a time it goes out at it as soon as all have said it."""
        asked = read(SubmitSerializer, request.data)
        return Response(shown(submit(request.user, self.planned(pk), edition=asked["edition"])))


class ReviewView(PlannedPostView):
    """A post, as one is to say yes to it."""

    # Whose turn it is, the rules say: a role that may read may be asked.
    reads, changes = "plan.read", "plan.read"
    http_method_names = ["get", "post", "put", "options"]

    def _told(self, request: Request, pk: int) -> Response:
        return Response(ReviewSerializer(review_of(self.planned(pk), teller_of(request.user, self.brand))).data)

    @extend_schema(operation_id="read_review", responses=ReviewSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """What it is, what it was when one looked last, and what was said."""
        return self._told(request, pk)

    @extend_schema(operation_id="say_of_post", request=VerdictInputSerializer, responses=ReviewSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Say yes, or ask for a change."""
        say(teller_of(request.user, self.brand), self.planned(pk), **read(VerdictInputSerializer, request.data))
        return self._told(request, pk)

    @extend_schema(operation_id="looked_at_post", request=None, responses={204: None})
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """One has looked: what is changed from now on is shown as a difference."""
        looked(teller_of(request.user, self.brand), self.planned(pk))
        return Response(status=204)


class LogView(PlannedPostView):
    """Who did what."""

    http_method_names = ["get", "options"]

    @extend_schema(operation_id="read_post_log", responses=LogEntrySerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The newest first."""
        return Response(LogEntrySerializer(log_of(self.planned(pk)), many=True).data)


class RemarksView(PlannedPostView):
    """What is said about a post."""

    reads, changes = "plan.read", "plan.read"
    http_method_names = ["post", "options"]

    @extend_schema(operation_id="add_remark", request=RemarkInputSerializer, responses={201: ReviewSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Say something."""
        planned, teller = self.planned(pk), teller_of(request.user, self.brand)
        remark(teller, planned, **read(RemarkInputSerializer, request.data))
        return Response(ReviewSerializer(review_of(planned, teller)).data, status=201)


class RemarkView(PlannedPostView):
    """One of them."""

    http_method_names = ["put", "options"]

    @extend_schema(operation_id="settle_remark", request=SettleRemarkSerializer, responses=ReviewSerializer)
    def put(self, request: Request, brand: str, pk: int, remark: int) -> Response:  # type: ignore[override]
        """Take it as done, or open it again."""
        planned = self.planned(pk)
        settle_remark(request.user, planned, remark, **read(SettleRemarkSerializer, request.data))
        return Response(ReviewSerializer(review_of(planned, teller_of(request.user, self.brand))).data)


class VoteView(PlannedPostView):
    """Being for a post or against it."""

    reads, changes = "plan.read", "plan.read"
    http_method_names = ["put", "options"]

    @extend_schema(operation_id="vote_for_post", request=VoteSerializer, responses=ReviewSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """One vote each; another replaces it."""
        planned, teller = self.planned(pk), teller_of(request.user, self.brand)
        vote(teller, planned, read(VoteSerializer, request.data)["value"])
        return Response(ReviewSerializer(review_of(planned, teller)).data)


class TasksView(BrandView):
    """Things to be done."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(
        operation_id="list_tasks", parameters=[TaskQuerySerializer, PartSerializer], responses=TaskSerializer(many=True)
    )
    def get(self, request: Request, brand: str) -> Response:
        """Those that are due first, two hundred at a time; undated ones last."""
        asked = read(TaskQuerySerializer, request.query_params)
        found = tasks_of(
            self.brand, person=request.user.pk if asked["mine"] else None, planned=asked.get("planned"),
            is_done=asked["is_done"],
        )  # fmt: skip
        rows, headers = part_of(request, found, ("due_on", "pk"), 200, by_value=True)
        return Response(TaskSerializer(rows, many=True).data, headers=headers)

    @extend_schema(operation_id="add_task", request=TaskInputSerializer, responses={201: TaskSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Give somebody something to do."""
        asked = read(TaskInputSerializer, request.data)
        made = add_task(
            request.user, self.brand, text=asked["text"], person_id=asked["person"], due_on=asked["due_on"],
            planned_id=asked["planned"], campaign_id=asked["campaign"],
        )  # fmt: skip
        return Response(TaskSerializer(tasks_of(self.brand).get(pk=made.pk)).data, status=201)


class TaskDoneView(BrandView):
    """Whether one of them is done."""

    # Whose it is may say so, whatever their role.
    reads, changes = "plan.read", "plan.read"

    @extend_schema(operation_id="finish_task", request=TaskDoneSerializer, responses=TaskSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Done, or to be done after all: by whose it is, or by who may write."""
        return Response(
            TaskSerializer(finish_task(request.user, self.brand, pk, **read(TaskDoneSerializer, request.data))).data
        )


class TaskView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="remove_task", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take it away."""
        remove_task(request.user, self.brand, pk)
        return Response(status=204)


class GuestsView(BrandView):
    """Links of people without an account."""

    reads, changes = "plan.publish", "plan.publish"

    @extend_schema(operation_id="list_guests", responses=GuestSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """The latest first, those that are over and taken back among them."""
        return Response(GuestSerializer(guests_of(self.brand), many=True).data)

    @extend_schema(operation_id="invite_guest", request=GuestInputSerializer, responses={201: InvitedSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Another; its address is told now and never again."""
        made, secret = invite(request.user, self.brand, **read(GuestInputSerializer, request.data))
        told = {"guest": made, "address": f"{settings.PUBLIC_ADDRESS}/guest#{secret}"}
        return Response(InvitedSerializer(told).data, status=201)


class GuestView(BrandView):
    """One of them."""

    reads, changes = "plan.publish", "plan.publish"

    @extend_schema(operation_id="revoke_guest", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take the link back."""
        revoke_guest(request.user, self.brand, pk)
        return Response(status=204)
