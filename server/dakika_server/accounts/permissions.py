"""Who may what, as data: the roles that a person can have with a brand, and which of them each permission takes.

Areas add their rows from their permissions.py. Whoever acts is asked for by the permission's name, never by role.

In the trade's words: authorisation, role-based access control.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from dakika_server.shared.hooks import Registry


class Role(StrEnum):
    """What somebody is to a brand."""

    ADMIN = "admin"
    ANALYST = "analyst"
    AUTHOR = "author"
    APPROVER = "approver"
    VIEWER = "viewer"
    GUEST = "guest"


EVERYBODY = frozenset(Role)
# Guests are shown single things; everybody else sees the brand.
TEAM = EVERYBODY - {Role.GUEST}
# Those who look after what is collected and counted; those who make what goes out; those who say that it may.
KEEPERS = frozenset({Role.ADMIN, Role.ANALYST})
MAKERS = KEEPERS | {Role.AUTHOR}
WRITERS = MAKERS | {Role.APPROVER}
PUBLISHERS = KEEPERS | {Role.APPROVER}
APPROVERS = frozenset({Role.ADMIN, Role.APPROVER})
ADMINS = frozenset({Role.ADMIN})


@dataclass(frozen=True)
class Permission:
    """A row of the table. words: what it lets one do, as one says "to ..."."""

    roles: frozenset[Role]
    words: str
    is_reading: bool = False


PERMISSIONS: Registry[Permission] = Registry("permissions")


def permit(rows: Mapping[str, Permission]) -> None:
    """Add an area's rows to the table. Raises AlreadyAddedError for a name that stands in it."""
    for name, permission in rows.items():
        PERMISSIONS.add(name, permission)


def permissions_of(role: str) -> list[str]:
    """The names of what a role may do, in order."""
    return sorted(name for name, permission in PERMISSIONS.items() if role in permission.roles)


def roles_with(name: str) -> list[str]:
    """The roles that a permission takes. Raises KeyError for one that is not in the table."""
    return sorted(role.value for role in PERMISSIONS[name].roles)
