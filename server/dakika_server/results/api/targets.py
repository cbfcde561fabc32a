"""Targets over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.results.serializers.targets import TargetInputSerializer, TargetSerializer
from dakika_server.results.targets import drop_target, set_target, targets_of
from dakika_server.shared.parsers import read


class TargetsView(BrandView):
    """What is aimed at."""

    changes = "results.targets"

    @extend_schema(operation_id="list_targets", responses=TargetSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """Each target with where it stands, the nearest first."""
        return Response(TargetSerializer(targets_of(self.brand), many=True).data)

    @extend_schema(
        operation_id="set_target", request=TargetInputSerializer, responses={201: TargetSerializer(many=True)}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Set one; of the same metric and profiles it takes the place of the one before. Returns all."""
        set_target(request.user, self.brand, **read(TargetInputSerializer, request.data))
        return Response(TargetSerializer(targets_of(self.brand), many=True).data, status=201)


class TargetView(BrandView):
    """One target."""

    changes = "results.targets"

    @extend_schema(operation_id="drop_target", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Aim at it no longer."""
        drop_target(request.user, self.brand, target_id=pk)
        return Response(status=204)
