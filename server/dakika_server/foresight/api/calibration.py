"""Were we right?"""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.foresight.models import Projection
from dakika_server.foresight.queries import calibrations
from dakika_server.foresight.serializers import CalibrationQuerySerializer, CalibrationSerializer
from dakika_server.shared.parsers import read
from dakika_server.sources.models import Profile


class CalibrationView(BrandView):
    """What was said, held against what came."""

    @extend_schema(
        operation_id="read_calibration", parameters=[CalibrationQuerySerializer], responses=CalibrationSerializer
    )
    def get(self, request: Request, brand: str) -> Response:
        """How often the truth lay in the interval, how far off the middle was, and plain rivals beside it."""
        values = read(CalibrationQuerySerializer, request.query_params)
        said = Projection.objects.filter(brand=self.brand, profile__kind="own")
        profiles = Profile.objects.filter(brand=self.brand, kind="own").order_by("name", "network")
        found = {
            "rows": calibrations(self.brand, None, tried=values["tried"]), "profiles": profiles,
            "kept": said.filter(is_tried=False, truth__isnull=False).count(),
            "waiting": said.filter(is_tried=False, truth__isnull=True).count(),
            "tried": said.filter(is_tried=True).count(),
        }  # fmt: skip
        return Response(CalibrationSerializer(found).data)
