"""What a file can hold: the kinds, their fields, and the names by which people and tools call them."""

from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from dakika_core.metrics.observed import AUDIENCE_DIMENSIONS, OBSERVED
from dakika_core.sources.files.dates import fold
from dakika_core.sources.files.names import OTHER_NAMES, POST_METRIC_NAMES, POST_NAMES, PROFILE_NAMES, TIME_NAMES


class Read(StrEnum):
    """How a field's cells are read."""

    INSTANT = "instant"
    DAY = "day"
    TIME = "time"
    COUNT = "count"
    SECONDS = "seconds"
    SHARE = "share"
    AMOUNT = "amount"
    CURRENCY = "currency"
    TEXT = "text"
    LONG_TEXT = "long_text"
    ADDRESS = "address"
    FORMAT = "format"
    DIMENSION = "dimension"
    FLAG = "flag"


COUNTED = (Read.COUNT, Read.SECONDS)


@dataclass(frozen=True, kw_only=True)
class Field:
    """A field of a kind, with the folded names seen for it, the most telling first.

    Only counts can stand in several columns that add up; every other field has one.
    """

    key: str
    read: Read
    names: tuple[str, ...] = ()

    @property
    def adds_up(self) -> bool:
        """Whether several columns of a file may hold parts of it."""
        return self.read in COUNTED


@dataclass(frozen=True)
class Kind:
    """A kind of file. Each group of `needs` must be mapped by at least one of its fields; `why` says what it is for."""

    key: str
    name: str
    fields: tuple[Field, ...]
    needs: tuple[tuple[tuple[str, ...], str], ...]

    @cached_property
    def by_key(self) -> dict[str, Field]:
        """Fields by key."""
        return {field.key: field for field in self.fields}

    @property
    def date_field(self) -> str:
        """Key of the field that dates a row."""
        return next(f.key for f in self.fields if f.read in (Read.INSTANT, Read.DAY))


def _field(key: str, read: Read, names: tuple[str, ...]) -> Field:
    return Field(key=key, read=read, names=tuple(dict.fromkeys((fold(key), *map(fold, names)))))


def _counts(names: dict[str, tuple[str, ...]], keys: tuple[str, ...]) -> tuple[Field, ...]:
    return tuple(
        _field(key, Read.SECONDS if key.endswith("seconds") else Read.COUNT, names.get(key, ())) for key in keys
    )


_COUNTS = _counts(POST_METRIC_NAMES, OBSERVED)
_PROFILE = tuple(_field(key, Read.TEXT, PROFILE_NAMES[key]) for key in ("profile_network", "profile_handle"))
_TIME = _field("time", Read.TIME, TIME_NAMES["time"])
_TAKEN = _field("taken_at", Read.INSTANT, TIME_NAMES["taken_at"])
_POST_ID = _field("external_id", Read.TEXT, POST_NAMES["external_id"])
_URL = _field("url", Read.ADDRESS, POST_NAMES["url"])


def _other(key: str, read: Read) -> Field:
    return _field(key, read, OTHER_NAMES[key])


POSTS = Kind(
    key="posts",
    name="Posts",
    fields=(
        _field("published_at", Read.INSTANT, TIME_NAMES["published_at"]),
        _TIME,
        _POST_ID,
        _field("text", Read.LONG_TEXT, POST_NAMES["text"]),
        _URL,
        _field("format", Read.FORMAT, POST_NAMES["format"]),
        _field("has_time", Read.FLAG, ()),
        *_COUNTS,
        _TAKEN,
        *_PROFILE,
    ),
    needs=(
        (("published_at",), "No column holds the date of publishing. Choose which one does, or add it to the file."),
        (
            (*OBSERVED, "text", "external_id", "url"),
            "No column holds a metric, a text or an identifier. Choose at least one, such as reactions.",
        ),
    ),
)
POST_READINGS = Kind(
    key="post_readings",
    name="Metrics of posts over time",
    fields=(
        _field("taken_at", Read.INSTANT, (*TIME_NAMES["taken_at"], *TIME_NAMES["day"], "time", "datetime")),
        _POST_ID, _URL, *_COUNTS, *_PROFILE,
    ),
    needs=(
        (("taken_at",), "No column holds when the metrics were read. Choose which one does."),
        (("external_id", "url"), "No column says which post a row is about: its identifier or its address."),
        (OBSERVED, "No column holds a metric. Choose at least one, such as reactions or impressions."),
    ),
)  # fmt: skip
_OF_PROFILE = ("followers", "following", "posts_total", "gained", "lost", "reach", "impressions", "profile_visits")
PROFILE_READINGS = Kind(
    key="profile_readings",
    name="Metrics of profiles over time",
    fields=(_field("day", Read.DAY, TIME_NAMES["day"]), *_counts(PROFILE_NAMES, _OF_PROFILE), *_PROFILE),
    needs=(
        (("day",), "No column holds the day. Choose which one does."),
        (_OF_PROFILE, "No column holds a metric of the profile, such as its followers."),
    ),
)
AUDIENCE = Kind(
    key="audience",
    name="Make-up of an audience",
    fields=(
        _field("day", Read.DAY, (*TIME_NAMES["day"], "as of")),
        _other("dimension", Read.DIMENSION), _other("segment", Read.TEXT), _other("share", Read.SHARE), *_PROFILE,
    ),
    needs=(
        (("dimension",), f"No column says what is told apart: {', '.join(AUDIENCE_DIMENSIONS)}."),
        (("segment",), "No column holds the group, such as 25-34 or PT."),
        (("share",), "No column holds how large a group is, as a share, a percentage or a count."),
    ),
)  # fmt: skip
CLICKS = Kind(
    key="clicks",
    name="Clicks on tracked links",
    fields=(
        _other("at", Read.INSTANT), _TIME, _other("code", Read.TEXT), _other("key", Read.TEXT),
        _other("referrer", Read.TEXT), _other("device", Read.TEXT), _other("is_bot", Read.FLAG),
    ),
    needs=(
        (("at",), "No column holds when the click was made. Choose which one does."),
        (("code",), "No column says which link was clicked: its short code or short address."),
    ),
)  # fmt: skip
CONVERSIONS = Kind(
    key="conversions",
    name="Conversions",
    fields=(
        _other("at", Read.INSTANT), _TIME, _other("goal", Read.TEXT), _other("key", Read.TEXT),
        _other("amount", Read.AMOUNT), _other("currency", Read.CURRENCY), _other("click", Read.TEXT),
        _other("contact", Read.TEXT), _other("stage", Read.TEXT),
    ),
    needs=(
        (("at",), "No column holds when the conversion was made. Choose which one does."),
        (("goal",), "No column says which goal was reached, by the goal's name."),
        (
            ("key",),
            "No column tells conversions apart, such as an order's number. Without one they could come in twice.",
        ),
    ),
)  # fmt: skip
KINDS: dict[str, Kind] = {
    kind.key: kind for kind in (POSTS, POST_READINGS, PROFILE_READINGS, AUDIENCE, CLICKS, CONVERSIONS)
}
