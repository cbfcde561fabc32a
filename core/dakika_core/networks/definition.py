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
    OTHER = "other"


class Need(StrEnum):
    """What a post must carry beside its text."""

    NOTHING = ""
    PICTURE = "picture"
    VIDEO = "video"
    PICTURE_OR_VIDEO = "picture_or_video"


class Shape(StrEnum):
    """Outlines of a network's mark, so that marks differ by more than their letters."""

    CIRCLE = "circle"
    SLANT = "slant"
    SQUARE = "square"
    SOFT = "soft"
    CORNER = "corner"
    ARCH = "arch"
    BOWL = "bowl"
    LEFT = "left"
    RIGHT = "right"
    DASHED = "dashed"


@dataclass(frozen=True, kw_only=True)
class TextRule:
    """How long a text may be. link_length is what any address counts, None for its own length.

    room_to_pass_on is advice, not a rule: characters left free for those who pass a post on
    (common practice, no source). title_limit is 0 where posts have no title; where they have one it is required.
    needs_text: whether a post without words is refused. same_days: within how many days the same words are not taken
    again.
    """

    limit: int
    unit: CountUnit = CountUnit.CODE_POINTS
    link_length: int | None = None
    room_to_pass_on: int = 0
    title_limit: int = 0
    needs_text: bool = True
    most_hashtags: int | None = None
    has_links: bool = True
    same_days: int = 1


@dataclass(frozen=True, kw_only=True)
class MediaRule:
    """Pictures and videos: how many, of which shape (width / height) and length, and what is required.

    A video is sent alone, but where the network takes a picture as its still. A picture of another shape is cut to the
    nearest one that is taken; a video is not.
    """

    need: Need = Need.NOTHING
    most_pictures: int = 0
    narrowest: float | None = None
    widest: float | None = None
    advised: float | None = None
    shortest_seconds: float | None = None
    longest_seconds: float | None = None
    largest_picture_mb: float = 8.0
    largest_video_mb: float = 512.0
    takes_videos: bool = False
    takes_documents: bool = False
    has_still: bool = False


@dataclass(frozen=True, kw_only=True)
class OptionRule:
    """What else a network asks for with a post, such as a board, the words on a button, or who is to see it.

    is_many: several may be chosen, told with commas between them; none is everybody. dimension: choices are segments
    of the audience, by that dimension of its make-up.
    """

    key: str
    name: str
    choices: tuple[str, ...]
    is_required: bool = False
    is_many: bool = False
    dimension: str = ""

    def chosen(self, told: str) -> list[str]:
        """What was chosen, one by one."""
        return [one.strip() for one in told.split(",") if one.strip()] if self.is_many else [told] if told else []


@dataclass(frozen=True, kw_only=True)
class BoostRule:
    """What a network takes to show a post to more people for money. Money in cents of its currency (ISO 4217).

    countries are ISO 3166-1 codes, ages the network's own groups; an empty choice of either is everybody.
    """

    currency: str
    least_cents: int
    most_cents: int
    most_days: int
    countries: tuple[str, ...] = ()
    ages: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class AccountRule:
    """Which accounts may be connected; refusal says why others may not, in words for the person."""

    needs_business: bool = False
    refusal: str = ""


@dataclass(frozen=True, kw_only=True)
class Offer:
    """What else a network gives beside posts and their counters, for one's own profiles.

    has_hashtags: whether its public search tells of a hashtag how much it is used.
    has_own_preview: whether a post may say what stands on the card of its link, instead of the page.
    """

    has_presence: bool = False
    has_comments: bool = False
    has_webhooks: bool = False
    has_search: bool = False
    has_hashtags: bool = False
    has_publishing: bool = False
    has_first_comment: bool = False
    has_own_preview: bool = False
    audience: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class NetworkDefinition:
    """Rules and vocabulary of one network.

    metrics maps the network's own metric names to ours; what is not in it, the network does
    not report, and stays missing. address is the pattern of a profile's page, with {handle}.
    calls_per_minute is the network's published limit for one authorisation. referrer_hosts are those
    that its people come from, picture_hosts those that its pictures come from.
    """

    key: str
    name: str
    monogram: str
    text: TextRule
    half_life_hours: float
    kind: str = ""
    media: MediaRule = field(default_factory=MediaRule)
    accounts: AccountRule = field(default_factory=AccountRule)
    offer: Offer = field(default_factory=Offer)
    options: tuple[OptionRule, ...] = ()
    boosts: BoostRule | None = None
    metrics: dict[str, str] = field(default_factory=dict)
    public_metrics: frozenset[str] = frozenset()
    has_public_profiles: bool = True
    address: str = ""
    calls_per_minute: int = 600
    utm_source: str = ""
    utm_medium: str = "social"
    default_hours: tuple[int, ...] = ()
    shape: Shape = Shape.DASHED
    referrer_hosts: tuple[str, ...] = ()
    picture_hosts: tuple[str, ...] = ()

    @property
    def own_metrics(self) -> frozenset[str]:
        """Metrics that the network reports for one's own profiles."""
        return frozenset(self.metrics.values())
