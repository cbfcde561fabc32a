"""Posts that are too young for a study's age. What they are heading for is told by foresight, which stands above."""

from dataclasses import dataclass
from typing import Any

from dakika_server.shared.hooks import Hook


@dataclass(frozen=True, kw_only=True)
class Young:
    """A post at the age it has: what is typical then, its index with an 80 % interval, and what it is heading for."""

    age_hours: float
    typical: float | None
    index: float | None
    index_low: float | None
    index_high: float | None
    heading: float
    heading_low: float
    heading_high: float


# (posts): those of them that are young. The second: a metric's key and a brand's number to an expression over measures
# that says what a young post of the brand is taken for in an order, missing for all others.
young_posts: Hook[[list[int]], dict[int, Young]] = Hook("posts that are young")
young_order: Hook[[str, int], Any] = Hook("where young posts stand in an order")
