"""Who may see a brand and who may change it."""

from typing import Any

from django.core.exceptions import PermissionDenied
from django.http import Http404

from dakika_server.brands.models import Brand, Membership

ONLY_LOOKS = "You may look at this brand but not change it."


def membership_of(user: Any, slug: str) -> Membership:
    """A person's membership of a brand. Raises Http404 when there is none: what one may not see is not there."""
    try:
        return Membership.objects.select_related("brand").get(user=user, brand__slug=slug)
    except Membership.DoesNotExist:
        raise Http404 from None


def require_editor(user: Any, brand: Brand) -> None:
    """Raise PermissionDenied unless the person may change the brand. Actions call this themselves."""
    if not Membership.objects.filter(user=user, brand=brand, role=Membership.Role.EDITOR).exists():
        raise PermissionDenied(ONLY_LOOKS)
