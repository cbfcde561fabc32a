"""What every view of a brand begins with: the brand, found through the person's membership."""

from typing import Any, TypeVar

from django.core.exceptions import PermissionDenied
from rest_framework import serializers
from rest_framework.permissions import SAFE_METHODS
from rest_framework.request import Request
from rest_framework.views import APIView

from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.permissions import may, membership_of, refusal

S = TypeVar("S", bound=serializers.Serializer[Any])


class BrandView(APIView):
    """A view below /brands/{brand}/. reads and changes: the permissions that reading and everything else take.

    is_own_choice: what is changed is the person's own, so that whoever reads may. is_question: what is sent is
    only looked at, so that it is reading, whatever the method.
    """

    brand: Brand
    membership: Membership
    reads = "brand.read"
    changes = ""
    is_own_choice = False
    is_question = False

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Find the brand once the person is known."""
        super().initial(request, *args, **kwargs)
        self.membership = membership_of(request.user, kwargs["brand"])
        self.brand = self.membership.brand
        # A method that the view does not have is refused for that.
        if (request.method or "").lower() not in self.http_method_names or not hasattr(
            self, (request.method or "").lower()
        ):
            return
        is_reading = request.method in SAFE_METHODS or self.is_own_choice or self.is_question
        permission = self.reads if is_reading else self.changes
        if not may(self.membership.role, permission):
            raise PermissionDenied(refusal(self.membership.role, permission))


def read(serializer: type[S], data: Any) -> dict[str, Any]:
    """Checked values of a request's body or query. Raises ValidationError with errors by field."""
    given = serializer(data=data)
    given.is_valid(raise_exception=True)
    values: dict[str, Any] = given.validated_data
    return values
