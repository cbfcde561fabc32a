"""What a file can hold: the kinds, their fields, and the names by which people and tools call them."""

from dataclasses import dataclass
from enum import StrEnum

from dakika_core.metrics.observed import AUDIENCE_DIMENSIONS, OBSERVED


class Read(StrEnum):
    """How a field's cells are read."""

    INSTANT = "instant"
    DAY = "day"
    COUNT = "count"
    SHARE = "share"
    AMOUNT = "amount"
    TEXT = "text"
    LONG_TEXT = "long_text"
    ADDRESS = "address"
    FORMAT = "format"
    DIMENSION = "dimension"
    FLAG = "flag"


@dataclass(frozen=True, kw_only=True)
class Field:
    """A field of a kind, with the folded names (lower case, letters and digits only) seen for it."""

    key: str
    read: Read
    names: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of file. Each group of `needs` must be mapped by at least one of its fields; `why` says what it is for."""

    key: str
    name: str
    fields: tuple[Field, ...]
    needs: tuple[tuple[tuple[str, ...], str], ...]

    @property
    def by_key(self) -> dict[str, Field]:
        """Fields by key."""
        return {field.key: field for field in self.fields}


_COUNT_NAMES: dict[str, tuple[str, ...]] = {
    "impressions": ("views", "shown", "displays", "timesseen", "totalimpressions", "postimpressions", "seen"),
    "reach": ("peoplereached", "reached", "uniqueviews", "uniqueimpressions", "viewers", "postreach"),
    "reactions": ("likes", "totalreactions", "favourites", "favorites", "hearts", "thumbsup"),
    "comments": ("replies", "answers", "totalcomments", "commentcount"),
    "shares": ("reposts", "passedon", "forwards", "totalshares", "sharecount"),
    "saves": ("saved", "bookmarks", "pins"),
    "link_clicks": ("clicks", "urlclicks", "clicksonlink", "outboundclicks", "clickthroughs"),
    "profile_visits": ("profileviews", "profileopens"),
    "video_views": ("plays", "videoplays"),
    "video_seconds": ("secondswatched", "watchseconds", "watchtimeseconds"),
    "video_completions": ("completions", "watchedtotheend", "fullviews"),
    "calls": ("phonecalls",),
    "directions": ("directionrequests", "routes"),
    "negative": ("hides", "reports", "negativefeedback"),
}


def _field(key: str, read: Read, *names: str) -> Field:
    return Field(key=key, read=read, names=(key.replace("_", ""), *names))


_COUNTS = tuple(_field(key, Read.COUNT, *_COUNT_NAMES[key]) for key in OBSERVED)
_PROFILE = (
    _field("profile_network", Read.TEXT, "network", "platform", "channel"),
    _field("profile_handle", Read.TEXT, "handle", "profile", "account", "page", "profilename", "accountname"),
)
_PUBLISHED = _field(
    "published_at", Read.INSTANT, "published", "publishdate", "publishingdate", "publishtime", "date", "datetime",
    "posted", "postedat", "postdate", "posttime", "timestamp", "createdat", "created", "senttime", "sent", "datum",
    "fecha", "data", "tarih",
)  # fmt: skip
_TAKEN = _field(
    "taken_at", Read.INSTANT, "exportedat", "asof", "collectedat", "readingdate", "snapshot", "measuredat", "readat"
)
_POST_ID = _field("external_id", Read.TEXT, "postid", "id", "contentid", "messageid", "itemid")
_URL = _field("url", Read.ADDRESS, "link", "permalink", "posturl", "postlink", "address")

POSTS = Kind(
    key="posts",
    name="Posts",
    fields=(
        _PUBLISHED,
        _POST_ID,
        _field("text", Read.LONG_TEXT, "posttext", "message", "caption", "content", "body", "post", "description",
               "copy", "title"),
        _URL,
        _field("format", Read.FORMAT, "type", "posttype", "contenttype", "mediatype", "kind"),
        *_COUNTS,
        _TAKEN,
        *_PROFILE,
    ),
    needs=(
        (("published_at",), "No column holds the date of publishing. Choose which one does, or add it to the file."),
        (
            (*OBSERVED, "text", "external_id"),
            "No column holds a metric, a text or an identifier. Choose at least one, such as reactions.",
        ),
    ),
)  # fmt: skip
POST_READINGS = Kind(
    key="post_readings",
    name="Metrics of posts over time",
    fields=(
        Field(key="taken_at", read=Read.INSTANT, names=(*_TAKEN.names, "date", "datetime", "timestamp", "day", "time")),
        _POST_ID, _URL, *_COUNTS, *_PROFILE,
    ),
    needs=(
        (("taken_at",), "No column holds when the metrics were read. Choose which one does."),
        (("external_id", "url"), "No column says which post a row is about: its identifier or its address."),
        (OBSERVED, "No column holds a metric. Choose at least one, such as reactions or impressions."),
    ),
)  # fmt: skip
PROFILE_READINGS = Kind(
    key="profile_readings",
    name="Metrics of profiles over time",
    fields=(
        _field("day", Read.DAY, "date", "datum", "fecha", "data", "tarih", "timestamp", "taken"),
        _field("followers", Read.COUNT, "fans", "subscribers", "totalfollowers", "followercount", "followerstotal"),
        _field("following", Read.COUNT, "follows"),
        _field("posts_total", Read.COUNT, "posts", "postcount"),
        _field("gained", Read.COUNT, "newfollowers", "followersgained", "new", "joined"),
        _field("lost", Read.COUNT, "unfollows", "followerslost", "left", "gone"),
        _field("reach", Read.COUNT, "pagereach", "profilereach"),
        _field("impressions", Read.COUNT, "pageimpressions", "views"),
        _field("profile_visits", Read.COUNT, "profileviews", "pagevisits", "visits"),
        *_PROFILE,
    ),
    needs=(
        (("day",), "No column holds the day. Choose which one does."),
        (("followers", "gained", "lost", "reach", "impressions", "profile_visits", "following", "posts_total"),
         "No column holds a metric of the profile, such as its followers."),
    ),
)  # fmt: skip
AUDIENCE = Kind(
    key="audience",
    name="Make-up of an audience",
    fields=(
        _field("day", Read.DAY, "date", "datum", "fecha", "data", "tarih", "asof"),
        _field("dimension", Read.DIMENSION, "breakdown", "category", "attribute"),
        _field("segment", Read.TEXT, "value", "group", "name", "bucket", "label"),
        _field("share", Read.SHARE, "percent", "percentage", "count", "people", "followers", "number"),
        *_PROFILE,
    ),
    needs=(
        (("dimension",), f"No column says what is told apart: {', '.join(AUDIENCE_DIMENSIONS)}."),
        (("segment",), "No column holds the group, such as 25-34 or PT."),
        (("share",), "No column holds how large a group is, as a share, a percentage or a count."),
    ),
)
CLICKS = Kind(
    key="clicks",
    name="Clicks on tracked links",
    fields=(
        _field("at", Read.INSTANT, "clickedat", "clicktime", "date", "datetime", "timestamp", "time"),
        _field("code", Read.TEXT, "shortcode", "slug", "shortlink", "link", "short", "shorturl"),
        _field("key", Read.TEXT, "clickid", "id"),
        _field("referrer", Read.TEXT, "referer", "source", "from"),
        _field("device", Read.TEXT, "devicetype"),
        _field("is_bot", Read.FLAG, "bot", "robot"),
    ),
    needs=(
        (("at",), "No column holds when the click was made. Choose which one does."),
        (("code",), "No column says which link was clicked: its short code or short address."),
    ),
)
CONVERSIONS = Kind(
    key="conversions",
    name="Conversions",
    fields=(
        _field("at", Read.INSTANT, "convertedat", "date", "datetime", "timestamp", "time", "orderdate", "purchasedat"),
        _field("goal", Read.TEXT, "goalname", "conversion", "conversionname", "kind", "event"),
        _field("key", Read.TEXT, "conversionid", "orderid", "order", "ordernumber", "transactionid", "reference", "id"),
        _field("amount", Read.AMOUNT, "value", "revenue", "total", "price", "ordervalue", "worth"),
        _field("click", Read.TEXT, "clickid", "dk", "clickidentifier"),
        _field("contact", Read.TEXT, "customer", "customerid", "contactid", "lead", "client"),
        _field("stage", Read.TEXT, "status", "leadstage", "state"),
    ),
    needs=(
        (("at",), "No column holds when the conversion was made. Choose which one does."),
        (("goal",), "No column says which goal was reached, by the goal's name."),
        (
            ("key",),
            "No column tells conversions apart, such as an order's number. Without one they could come in twice.",
        ),
    ),
)
KINDS: dict[str, Kind] = {
    kind.key: kind for kind in (POSTS, POST_READINGS, PROFILE_READINGS, AUDIENCE, CLICKS, CONVERSIONS)
}
