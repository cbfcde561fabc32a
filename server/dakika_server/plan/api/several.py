"""Many planned posts at once."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.serializers.several import (
    SeveralChangedSerializer,
    SeveralInputSerializer,
    SeveralUndoneSerializer,
)
from dakika_server.plan.several import SeveralInput, change_several, undo_several
from dakika_server.shared.parsers import read


class SeveralView(BrandView):
    """Changing them together."""

    changes = "plan.write"

    @extend_schema(
        operation_id="change_several", request=SeveralInputSerializer, responses={201: SeveralChangedSerializer}
    )
    def post(self, request: Request, brand: str) -> Response:
        """All that can be; the others are told with why."""
        asked: dict[str, Any] = read(SeveralInputSerializer, request.data)
        posts = {one["id"]: one["edition"] for one in asked.pop("posts")}
        kept, refused = change_several(request.user, self.brand, posts, SeveralInput(**asked))
        told = {"id": kept.pk if kept else None, "changed": len(kept.before) if kept else 0, "refused": refused}
        return Response(SeveralChangedSerializer(told).data, status=201)


class UndoSeveralView(BrandView):
    """Undoing it together."""

    changes = "plan.write"

    @extend_schema(operation_id="undo_several", request=None, responses=SeveralUndoneSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Once, by who did it, within a day."""
        undone, left = undo_several(request.user, self.brand, pk)
        return Response({"undone": undone, "left": left})
