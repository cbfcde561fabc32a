"""What every view of a brand begins with: the brand, found through the person's membership."""

from typing import Any, TypeVar

from django.core.exceptions import PermissionDenied
from rest_framework import serializers
from rest_framework.permissions import SAFE_METHODS
from rest_framework.request import Request
from rest_framework.views import APIView

from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.permissions import ONLY_LOOKS, membership_of

S = TypeVar("S", bound=serializers.Serializer[Any])


class BrandView(APIView):
    """A view below /brands/{brand}/. Reading takes any role, everything else the editor's.

    is_own_choice: what is changed is the person's own, so that any role will do. is_question: what is sent is
    only looked at, so that it is reading, whatever the method.
    """

    brand: Brand
    membership: Membership
    is_own_choice = False
    is_question = False

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Find the brand once the person is known."""
        super().initial(request, *args, **kwargs)
        self.membership = membership_of(request.user, kwargs["brand"])
        self.brand = self.membership.brand
        if self.is_own_choice or self.is_question:
            return
        if request.method not in SAFE_METHODS and self.membership.role != Membership.Role.EDITOR:
            raise PermissionDenied(ONLY_LOOKS)


def read(serializer: type[S], data: Any) -> dict[str, Any]:
    """Checked values of a request's body or query. Raises ValidationError with errors by field."""
    given = serializer(data=data)
    given.is_valid(raise_exception=True)
    values: dict[str, Any] = given.validated_data
    return values
