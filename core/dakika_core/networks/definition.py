"""A network as its definition file describes it."""

from dataclasses import dataclass, field
from enum import StrEnum


class CountUnit(StrEnum):
    """What a network counts when it limits a text."""

    CODE_POINTS = "code_points"
    GRAPHEMES = "graphemes"


class Format(StrEnum):
    """Formats of a post."""

    TEXT = "text"
    LINK = "link"
    IMAGE = "image"
    ALBUM = "album"
    SHORT_VIDEO = "short_video"
    LONG_VIDEO = "long_video"


@dataclass(frozen=True, kw_only=True)
class TextRule:
    """How long a text may be. link_length is what any address counts, None for its own length.

    room_to_pass_on is advice, not a rule: characters left free for those who pass a post on
    (common practice, no source).
    """

    limit: int
    unit: CountUnit = CountUnit.CODE_POINTS
    link_length: int | None = None
    room_to_pass_on: int = 0


@dataclass(frozen=True, kw_only=True)
class NetworkDefinition:
    """Rules and vocabulary of one network.

    metrics maps the network's own metric names to ours; what is not in it, the network does
    not report, and stays missing.
    """

    key: str
    name: str
    monogram: str
    text: TextRule
    max_pictures: int
    half_life_hours: float
    metrics: dict[str, str] = field(default_factory=dict)
    public_metrics: frozenset[str] = frozenset()
    utm_source: str = ""
    utm_medium: str = "social"
    default_hours: tuple[int, ...] = ()

    @property
    def own_metrics(self) -> frozenset[str]:
        """Metrics that the network reports for one's own profiles."""
        return frozenset(self.metrics.values())
