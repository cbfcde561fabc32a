"""Visitors who go round many links faster than people read."""

from collections import Counter
from collections.abc import Sequence


def in_rounds(seconds: Sequence[float], links: Sequence[int], *, span: float, many: int) -> list[bool]:
    """Of one visitor's clicks, in the order of time: which have at least `many` different links within `span` seconds
    before and after them, their own among these. Both of one length; goes over them once.
    """
    found, near = [], Counter[int]()
    first = after = 0
    for at in seconds:
        while after < len(seconds) and seconds[after] <= at + span:
            near[links[after]] += 1
            after += 1
        while seconds[first] < at - span:
            near[links[first]] -= 1
            if not near[links[first]]:
                del near[links[first]]
            first += 1
        found.append(len(near) >= many)
    return found
