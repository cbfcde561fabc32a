"""What a session shows of itself. Brands are told by the area above, through a hook, to keep the order of areas."""

from collections.abc import Callable
from typing import Any

BrandsOf = Callable[[Any], list[dict[str, Any]]]
_brands_of: list[BrandsOf] = []


def register_brands(brands_of: BrandsOf) -> None:
    """Called once by the area of brands."""
    _brands_of[:] = [brands_of]


def session_of(user: Any) -> dict[str, Any]:
    """Name, address and the brands that a person may see."""
    return {"name": user.name, "email": user.email, "brands": [b for find in _brands_of for b in find(user)]}
