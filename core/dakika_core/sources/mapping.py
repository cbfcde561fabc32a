"""Which column of somebody's file is what? Proposed from names and contents; people correct it."""

import re
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from dakika_core.sources.cells import parse_instant, parse_number

# Names seen in the wild for each of our fields, folded: lower case, letters and digits only.
NAMES: dict[str, tuple[str, ...]] = {
    "published_at": (
        "publishedat", "published", "publishdate", "publishingdate", "publishtime", "date", "datetime",
        "postedat", "posted", "postdate", "posttime", "timestamp", "createdat", "created", "senttime", "sent",
        "datum", "fecha", "data", "tarih",
    ),
    "external_id": ("postid", "id", "externalid", "contentid", "messageid", "itemid"),
    "text": ("text", "posttext", "message", "caption", "content", "body", "post", "description", "copy", "title"),
    "url": ("url", "link", "permalink", "posturl", "postlink", "address"),
    "format": ("format", "type", "posttype", "contenttype", "mediatype", "kind"),
    "impressions": ("impressions", "views", "shown", "displays", "timesseen", "totalimpressions", "postimpressions"),
    "reach": ("reach", "peoplereached", "reached", "uniqueviews", "uniqueimpressions", "viewers", "postreach"),
    "reactions": ("reactions", "likes", "totalreactions", "favourites", "favorites", "hearts", "thumbsup"),
    "comments": ("comments", "replies", "answers", "totalcomments", "commentcount"),
    "shares": ("shares", "reposts", "passedon", "forwards", "totalshares", "sharecount"),
    "saves": ("saves", "saved", "bookmarks", "pins"),
    "link_clicks": ("linkclicks", "clicks", "urlclicks", "clicksonlink", "outboundclicks", "clickthroughs"),
    "video_views": ("videoviews", "plays", "videoplays"),
    "negative": ("negative", "hides", "reports", "negativefeedback"),
    "taken_at": ("takenat", "exportedat", "asof", "collectedat", "readingdate", "snapshot"),
}  # fmt: skip
COUNTS = (
    "impressions", "reach", "reactions", "comments", "shares", "saves", "link_clicks", "video_views", "negative",
)  # fmt: skip
REQUIRED = ("published_at",)


def fold(name: str) -> str:
    """A column name without case, accents and punctuation."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
    return re.sub(r"[^a-z0-9]", "", plain.lower())


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """A column proposed for a field, and why: by its name or by what stands in it."""

    field: str
    column: int
    reason: str


def propose_mapping(header: Sequence[str], sample: Sequence[Sequence[object]]) -> list[Proposal]:
    """A column for each field that can be recognised; no column is used twice.

    Exact names first, then names that begin with a known one, then contents: the first column
    that holds nearly nothing but dates is taken for the date of publishing, the longest texts for the text.
    """
    folded = [fold(str(name)) for name in header]
    used: dict[int, Proposal] = {}
    found: dict[str, Proposal] = {}

    def take(field: str, column: int, reason: str) -> None:
        if field not in found and column not in used:
            found[field] = used[column] = Proposal(field=field, column=column, reason=reason)

    for field, names in NAMES.items():
        for name in names:
            if name in folded:
                take(field, folded.index(name), "name")
    for field, names in NAMES.items():
        for column, name in enumerate(folded):
            if any(len(known) > 4 and name.startswith(known) for known in names):
                take(field, column, "name")
    for column in range(len(header)):
        cells = [row[column] for row in sample if column < len(row) and row[column] not in (None, "")]
        dates = [parse_instant(cell) is not None and parse_number(cell) is None for cell in cells]
        if dates and sum(dates) >= 0.8 * len(dates):
            take("published_at", column, "content")
    lengths = [
        (sum(len(str(row[c])) for row in sample if c < len(row) and row[c] is not None), c)
        for c in range(len(header))
        if c not in used
    ]
    if sample and lengths and max(lengths)[0] / len(sample) > 15:
        take("text", max(lengths)[1], "content")
    return sorted(found.values(), key=lambda proposal: proposal.column)


def problems_of_mapping(mapping: Mapping[str, int], header: Sequence[str]) -> list[str]:
    """What keeps a mapping from being used, in words; empty when it can be."""
    problems = []
    if "published_at" not in mapping:
        problems.append("No column holds the date of publishing. Choose which one does, or add it to the file.")
    if not any(field in mapping for field in COUNTS):
        problems.append("No column holds a metric. Choose at least one, such as reactions or impressions.")
    columns = list(mapping.values())
    for column in sorted({c for c in columns if columns.count(c) > 1}):
        fields = " and ".join(field for field, c in mapping.items() if c == column)
        problems.append(f"The column “{header[column]}” is used twice: for {fields}.")
    return problems
