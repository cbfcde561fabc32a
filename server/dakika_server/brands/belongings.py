"""What is somebody's within a brand, and who has it when they leave. Each area says what of it is somebody's."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.shared.hooks import Registry


@dataclass(frozen=True, kw_only=True)
class Belonging:
    """Rows that are somebody's. rows: those of a brand and a person; field: who they are of.

    is_personal: nobody else can have them, and they end with the leaving (an address for one's own calendar).
    """

    one: str
    many: str
    rows: Callable[[Brand, Any], Any]
    field: str
    is_personal: bool = False


BELONGINGS: Registry[Belonging] = Registry("what is somebody's within a brand")


@dataclass(frozen=True, kw_only=True)
class Counted:
    """How much of a kind is somebody's."""

    key: str
    words: str
    count: int
    is_personal: bool


def belongings_of(brand: Brand, person: Any) -> list[Counted]:
    """What is somebody's within a brand, kind by kind; of what there is none, nothing is said."""
    found = [(key, kind, kind.rows(brand, person).count()) for key, kind in sorted(BELONGINGS.items())]
    return [
        Counted(key=key, words=f"{count} {kind.one if count == 1 else kind.many}", count=count,
                is_personal=kind.is_personal)
        for key, kind, count in found if count
    ]  # fmt: skip


def hand_over(brand: Brand, person: Any, to: Any) -> None:
    """Give what is somebody's to another, and end what is personal. Within the caller's transaction.

    to may be None where nothing is there to be given.
    """
    for kind in BELONGINGS.values():
        rows = kind.rows(brand, person)
        if kind.is_personal:
            rows.delete()
        elif to is not None:
            rows.update(**{kind.field: to})
