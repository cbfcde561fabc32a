"""Hashtags as the networks' public searches tell of them: how much they are used, in which mood, and with which others.

Like everything here they follow from the world's seed alone: the same hashtag has the same figures wherever it is asked
for, grows or fades slowly, and is the same tomorrow but for a day's worth of uses.
"""

import hashlib
import math
from dataclasses import dataclass
from datetime import datetime

from dakika_standins.world.scenario import HASHTAGS

# Beside the scenario's own: what else is written under posts of the subject. The number is log10 of all uses.
NEIGHBOURS = {
    "museum": {
        "clocks": 5.2, "timekeeping": 4.1, "nightsky": 5.7, "astronomy": 6.1, "sundial": 3.7, "portaldous": 4.0,
        "museumnight": 4.6, "brasswork": 3.4, "pendulum": 4.3, "stargazing": 5.5,
    },
    "ferry": {
        "nightboat": 4.0, "islands": 5.9, "seatravel": 4.8, "crossing": 4.4, "lighthouse": 5.3, "slowtravel": 5.1,
    },
}  # fmt: skip
# Networks hide posts that carry these.
RESTRICTED = frozenset({"freetickets", "luckydraw", "followback"})


@dataclass(frozen=True, kw_only=True)
class HashtagFigures:
    """uses, week: all uses and those of seven days; warm, cold: shares (0 to 1) of their posts' mood."""

    word: str
    uses: int
    week: int
    warm: float
    cold: float
    related: tuple[str, ...]
    is_restricted: bool


def figures_of(network: str, word: str, now: datetime) -> HashtagFigures | None:
    """What a network tells of a hashtag; None for one that nobody uses there."""
    word = word.lstrip("#").casefold()
    subject = next((s for s in NEIGHBOURS if word in NEIGHBOURS[s] or f"#{word}" in HASHTAGS[s].values()), None)
    if subject is None and word not in RESTRICTED:
        return None
    here, trend, mood = _chances(f"{network} {word}")
    size = NEIGHBOURS.get(subject or "", {}).get(word, 3.2 if subject else 6.3) + 0.6 * (here - 0.5)
    # A slow rise or fall over the year, the same at whatever hour it is asked.
    year = (now.timestamp() / 86_400) / 365.25
    uses = 10 ** (size + 0.15 * (trend - 0.5) * (year - 56))
    warm = 0.25 + 0.5 * mood
    every = [*(tag.lstrip("#") for tag in HASHTAGS[subject].values()), *NEIGHBOURS[subject]] if subject else []
    related = sorted((one for one in every if one != word), key=lambda one: -_chances(f"{word} {one}")[0])[:6]
    return HashtagFigures(
        word=word, uses=round(uses), week=max(1, round(uses * (0.006 + 0.008 * trend))), warm=round(warm, 3),
        cold=round((1 - warm) * 0.4, 3), related=tuple(related), is_restricted=word in RESTRICTED,
    )  # fmt: skip


def _chances(words: str) -> tuple[float, float, float]:
    digest = hashlib.sha256(words.encode()).digest()
    a, b, c = (int.from_bytes(digest[i : i + 4], "big") / 2**32 for i in (0, 4, 8))
    return a, b, math.sqrt(c)
