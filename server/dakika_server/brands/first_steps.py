"""The first steps of a brand: each gives figures by itself, and is done once its area has something of it.

In the trade's words: onboarding, checklist.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

from dakika_server.brands.models import Brand
from dakika_server.shared.hooks import Hook


@dataclass(frozen=True, kw_only=True)
class FirstStep:
    """A step: what is done, what it gives, where it is done (a path within the brand), and whether it is.

    place: where it stands in the list. permission: who may do it.
    """

    key: str
    place: int
    title: str
    gives: str
    path: str
    permission: str
    is_done: bool


first_steps: Hook[[Brand], Sequence[FirstStep]] = Hook("the first steps of a brand")


def steps_of(brand: Brand) -> list[FirstStep]:
    """All of them in order; a question of existence each."""
    return sorted(itertools.chain(*first_steps(brand)), key=lambda step: step.place)
