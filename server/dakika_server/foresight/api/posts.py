"""Posts that are under way."""

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.foresight.present import outlook_of
from dakika_server.foresight.queries import under_way
from dakika_server.foresight.serializers import PostOutlookSerializer, UnderWaySerializer
from dakika_server.shared import clock
from dakika_server.sources.models import Post


class UnderWayView(BrandView):
    """The posts of the last days."""

    @extend_schema(operation_id="list_under_way", responses=UnderWaySerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """Own posts of the last seven days, the newest first, and how each is doing at its age."""
        return Response(UnderWaySerializer(under_way(self.brand, clock.now()), many=True).data)


class PostOutlookView(BrandView):
    """One post."""

    @extend_schema(operation_id="read_outlook", responses=PostOutlookSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """Every metric at its present age, what the post is heading for, and what was said of it before."""
        post = Post.objects.filter(brand=self.brand, pk=pk).select_related("profile__brand").first()
        if post is None:
            raise Http404
        found = outlook_of(post, clock.now())
        if found.outlook is not None:
            found.outlook.words = post.text[:160]  # type: ignore[attr-defined]
        values = {**vars(found), "course": [{"age_hours": age, "count": count} for age, count in found.course]}
        return Response(PostOutlookSerializer(values).data)
