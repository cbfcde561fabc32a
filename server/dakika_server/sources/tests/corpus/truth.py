"""What every file of the corpus says: fourteen posts of a summer, and ten days of their profile."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

LISBON = ZoneInfo("Europe/Lisbon")
METRICS = ("reactions", "comments", "shares", "impressions")


@dataclass(frozen=True)
class TruePost:
    """A post as it was: its instant in UTC, and its counts on 31 October."""

    identifier: str
    at: datetime
    text: str
    format: str
    reactions: int
    comments: int
    shares: int
    impressions: int

    @property
    def url(self) -> str:
        """Its address at the network."""
        return f"https://commons.example/orreryhouse/{self.identifier}"

    @property
    def local(self) -> datetime:
        """Its instant by the brand's clocks, without their name."""
        return self.at.astimezone(LISBON).replace(tzinfo=None)


_TEXTS = (
    "The night clock is wound again", "Which star stood over the harbour?", "A workshop for hands that tremble",
    "Tonight, the moon behind the lighthouse", "How a pendulum learns to wait", "The restorer found a letter inside",
    "Open until midnight on the longest day", "Seven wheels and one missing tooth", "Guess the year of this dial",
    "What sailors read in the sky", "The school mornings are back", "A clock that only strikes at noon",
    "Staff pick: the smallest sundial", "Closed on Monday, the gears need rest",
)  # fmt: skip
_FORMATS = ("image", "text", "album", "link", "short_video")
_BEGIN = datetime(2026, 6, 3, 7, 5, tzinfo=UTC)
# Days on both sides of the twelfth, over three months; identifiers of nineteen figures that no float holds.
POSTS = tuple(
    TruePost(
        identifier=str(1849384938493849301 + 7 * i), at=_BEGIN + timedelta(days=6 * i, hours=(5 * i) % 11, minutes=i),
        text=text, format=_FORMATS[i % 5], reactions=1000 + 137 * i, comments=3 + 2 * i, shares=i % 4,
        impressions=12_000 + 1_234 * i,
    )
    for i, text in enumerate(_TEXTS)
)  # fmt: skip
DAYS = tuple(
    (
        date(2026, 9, 21) + timedelta(days=i),
        {"followers": 5000 + 11 * i, "gained": 14 + i, "lost": 3, "reach": 2100 + i},
    )
    for i in range(10)
)
