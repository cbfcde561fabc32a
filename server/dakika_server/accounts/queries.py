"""What a session shows of itself. Brands are told by the area above, through a hook, to keep the order of areas."""

import itertools
from typing import Any

from dakika_server.shared.hooks import Hook

brands_seen: Hook[[Any], list[dict[str, Any]]] = Hook("brands that a person may see")


def session_of(user: Any) -> dict[str, Any]:
    """Name, address and the brands that a person may see."""
    return {"name": user.name, "email": user.email, "brands": list(itertools.chain(*brands_seen(user)))}
