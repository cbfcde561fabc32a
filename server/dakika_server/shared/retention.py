"""What is kept for a time alone: each area says what of its own, for how long, what would go, and how it goes.

In the trade's words: data retention, purge.
"""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta

from dakika_server.shared import clock
from dakika_server.shared.hooks import Registry


@dataclass(frozen=True, kw_only=True)
class Kept:
    """Something that has an end. words: what goes, as one says it; setting: which setting says for how many days.

    days: that setting's value, nothing for ever. would_go: how many would go of what is older than an instant; nothing
    is changed. forget: let them go, in pieces that each are a transaction; how many went.
    """

    words: str
    setting: str
    days: Callable[[], int | None]
    would_go: Callable[[datetime], int]
    forget: Callable[[datetime], int]

    @property
    def before(self) -> datetime | None:
        """What is older goes; nothing where it is kept for ever."""
        days = self.days()
        return clock.now() - timedelta(days=days) if days else None


KEPT: Registry[Kept] = Registry("what is kept for a time")


def forget_what_is_over() -> dict[str, int]:
    """Let go what is over, by name; how many of each."""
    return {name: one.forget(one.before) for name, one in KEPT.items() if one.before is not None}
