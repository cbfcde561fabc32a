"""Who may see a brand, and who may do what with it."""

from contextvars import ContextVar
from typing import Any

from django.core.exceptions import PermissionDenied
from django.db.models import QuerySet
from django.http import Http404

from dakika_server.accounts.permissions import (
    ADMINS,
    PERMISSIONS,
    TEAM,
    WRITERS,
    Permission,
    permissions_of,
    roles_with,
)
from dakika_server.brands.models import Brand, Membership

ROWS = {
    "brand.campaigns": Permission(WRITERS, "make campaigns"),
    "brand.change": Permission(ADMINS, "change the brand's settings and make brands"),
    "brand.log": Permission(ADMINS, "see who changed what"),
    "brand.people": Permission(ADMINS, "invite people and decide what they may do"),
    "brand.read": Permission(TEAM, "look at the brand", is_reading=True),
}
ONLY_SHARED = "You are a guest of this brand: you see what is shared with you, and not the rest."
ONLY_LOOKS = "You may look at this brand but not change it."


def membership_of(user: Any, slug: str) -> Membership:
    """A person's membership of a brand. Raises Http404 when there is none: what one may not see is not there."""
    try:
        return Membership.objects.select_related("brand").get(user=user, brand__slug=slug)
    except Membership.DoesNotExist:
        raise Http404 from None


def may(role: str, permission: str) -> bool:
    """Whether a role has a permission. Raises KeyError for one that is not in the table."""
    return role in PERMISSIONS[permission].roles


def members_who(brand: Brand, permission: str) -> QuerySet[Membership]:
    """The memberships of a brand whose role has a permission."""
    return Membership.objects.filter(brand=brand, role__in=roles_with(permission))


# What the token may with which a program asks; None where a person does.
token_scopes: ContextVar[frozenset[str] | None] = ContextVar("token_scopes", default=None)


def can(user: Any, brand: Brand, permission: str) -> bool:
    """Whether a person may do something with a brand, and their token where a program asks; nobody who is not of it."""
    scopes = token_scopes.get()
    if scopes is not None and permission not in scopes:
        return False
    return members_who(brand, permission).filter(user=user).exists()


def require(user: Any, brand: Brand, permission: str) -> None:
    """Raise PermissionDenied unless the person may. Actions call this themselves."""
    if not can(user, brand, permission):
        scopes = token_scopes.get()
        if scopes is not None and permission not in scopes:
            raise PermissionDenied(token_refusal(permission))
        member = Membership.objects.filter(user=user, brand=brand).first()
        raise PermissionDenied(refusal(member.role if member else "", permission))


def token_refusal(permission: str) -> str:
    """Why a token does not let a program do something."""
    return f"This token was not made to {PERMISSIONS[permission].words}: it lacks {permission}."


def refusal(role: str, permission: str) -> str:
    """Why somebody of a role may not do something, in words."""
    if PERMISSIONS[permission].is_reading:
        return ONLY_SHARED
    if all(PERMISSIONS[name].is_reading for name in permissions_of(role)):
        return ONLY_LOOKS
    return f"Your role, {role}, does not let you {PERMISSIONS[permission].words}. Ask an admin of the brand."
