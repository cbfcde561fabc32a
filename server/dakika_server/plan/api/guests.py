"""What a guest's link opens. No account, no session: a cookie that only these addresses get holds the link's key.

The key stands behind the # of the link, which no browser sends and no log keeps; the page trades it for the cookie.
"""

from typing import Any

from django.conf import settings
from django.http import FileResponse, Http404, HttpResponseBase
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.media import storage
from dakika_server.media.models import Asset
from dakika_server.plan.guests import guest_with, require_guest, shown_to
from dakika_server.plan.models import Guest, PlannedPost
from dakika_server.plan.remarks import looked, remark, vote
from dakika_server.plan.review_queries import page_of, review_of
from dakika_server.plan.reviewing import teller_of_guest
from dakika_server.plan.saying import say
from dakika_server.plan.serializers.review import (
    GuestKeySerializer,
    GuestPageSerializer,
    RemarkInputSerializer,
    ReviewSerializer,
    VerdictInputSerializer,
    VoteSerializer,
)
from dakika_server.shared import clock
from dakika_server.shared.parsers import read

COOKIE = "dakika_guest"
_SHOWN = {
    "Cache-Control": "private, max-age=3600",
    "X-Content-Type-Options": "nosniff",
    "Content-Security-Policy": "default-src 'none'; sandbox",
}


class GuestAPIView(APIView):
    """A view for guests. Other sites' pages cannot make a browser send the cookie: it is SameSite=Strict."""

    permission_classes = (AllowAny,)
    authentication_classes = ()
    guest: Guest

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Find the guest by the cookie. Raises Http404."""
        super().initial(request, *args, **kwargs)
        self.guest = guest_with(request.COOKIES.get(COOKIE, ""))
        self.teller = teller_of_guest(self.guest)

    def planned(self, pk: int) -> PlannedPost:
        """A post that is shown to the guest. Raises Http404."""
        found = shown_to(self.guest).select_related("campaign", "submitted_by", "brand").filter(pk=pk).first()
        if found is None:
            raise Http404
        return found

    def told(self, planned: PlannedPost) -> Response:
        """The post as it is now."""
        fresh = PlannedPost.objects.select_related("campaign", "submitted_by", "brand").get(pk=planned.pk)
        return Response(ReviewSerializer(review_of(fresh, self.teller)).data)


class OpenView(APIView):
    """Trading a link's key for the cookie."""

    permission_classes = (AllowAny,)
    authentication_classes = ()

    @extend_schema(operation_id="open_as_guest", request=GuestKeySerializer, responses=GuestPageSerializer)
    def post(self, request: Request) -> Response:
        """What the link shows; the cookie is good as long as the link is."""
        key = read(GuestKeySerializer, request.data)["key"]
        guest = guest_with(key)
        answer = Response(GuestPageSerializer(page_of(guest, teller_of_guest(guest))).data)
        answer.set_cookie(
            COOKIE, key, max_age=max(1, int((guest.until - clock.now()).total_seconds())), path="/api/guest",
            httponly=True, secure=settings.SESSION_COOKIE_SECURE, samesite="Strict",
        )  # fmt: skip
        return answer


class GuestPageView(GuestAPIView):
    """What a guest sees."""

    @extend_schema(operation_id="read_as_guest", responses=GuestPageSerializer)
    def get(self, request: Request) -> Response:
        """Posts, those that wait for their yes first."""
        return Response(GuestPageSerializer(page_of(self.guest, self.teller)).data)


class GuestPostView(GuestAPIView):
    """A post, as a guest looks at it."""

    @extend_schema(operation_id="read_post_as_guest", responses=ReviewSerializer)
    def get(self, request: Request, pk: int) -> Response:
        """What it is, and what was said."""
        return self.told(self.planned(pk))

    @extend_schema(operation_id="say_as_guest", request=VerdictInputSerializer, responses=ReviewSerializer)
    def post(self, request: Request, pk: int) -> Response:
        """Say yes, or ask for a change."""
        require_guest(self.guest, Guest.May.APPROVE)
        planned = self.planned(pk)
        say(self.teller, planned, **read(VerdictInputSerializer, request.data))
        return self.told(planned)

    @extend_schema(operation_id="looked_as_guest", request=None, responses={204: None})
    def put(self, request: Request, pk: int) -> Response:
        """They have looked."""
        looked(self.teller, self.planned(pk))
        return Response(status=204)


class GuestRemarksView(GuestAPIView):
    """What a guest says about a post."""

    @extend_schema(operation_id="remark_as_guest", request=RemarkInputSerializer, responses={201: ReviewSerializer})
    def post(self, request: Request, pk: int) -> Response:
        """Say something."""
        require_guest(self.guest, Guest.May.COMMENT)
        planned = self.planned(pk)
        remark(self.teller, planned, **read(RemarkInputSerializer, request.data))
        answer = self.told(planned)
        answer.status_code = 201
        return answer


class GuestVoteView(GuestAPIView):
    """A guest's vote."""

    @extend_schema(operation_id="vote_as_guest", request=VoteSerializer, responses=ReviewSerializer)
    def put(self, request: Request, pk: int) -> Response:
        """One each; another replaces it."""
        require_guest(self.guest, Guest.May.VOTE)
        planned = self.planned(pk)
        vote(self.teller, planned, read(VoteSerializer, request.data)["value"])
        return self.told(planned)


class GuestPictureView(GuestAPIView):
    """A picture of a post that is shown to a guest."""

    @extend_schema(
        operation_id="read_picture_as_guest", responses={(200, "application/octet-stream"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request, pk: int, asset: int) -> HttpResponseBase:
        """As it is looked through; nothing of the library but what goes with the post."""
        planned = self.planned(pk)
        of_it = {*planned.media, *(one for version in planned.versions.all() for one in version.media)}
        found = Asset.objects.filter(brand=planned.brand_id, pk=asset, state=Asset.State.READY).first()
        if asset not in of_it or found is None:
            raise Http404
        made: Any = found.renditions.filter(purpose="preview").first()
        if made is None:
            raise Http404
        try:
            content = storage.opened(made.file)
        except FileNotFoundError:
            raise Http404 from None
        return FileResponse(content, content_type=made.media_type, headers=_SHOWN)
