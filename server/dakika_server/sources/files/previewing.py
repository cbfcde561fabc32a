"""Before a file comes in: which of its rows speak of posts that are here already?"""

from typing import Any

from dakika_server.sources.files.matching import Ordinals, match_posts
from dakika_server.sources.models import Import


def known_in_sample(item: Import, items: list[tuple[int, dict[str, Any]]]) -> dict[str, int] | None:
    """Of the rows looked at, how many are known and how many fall together, in the profile that is chosen.

    None where no profile is chosen, and for files that are not of posts.
    """
    profile = item.detected.get("profile_id")
    if item.kind != "posts" or not profile or not items:
        return None
    found = match_posts(item, [(row, profile, values) for row, values in items], Ordinals())
    return {"known": found.known, "together": found.together, "rows": len(items)}
