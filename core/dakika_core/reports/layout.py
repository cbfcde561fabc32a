"""A page's grid: twelve columns and eight rows of one sheet; figures take cells of it and never each other's."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import combinations

COLUMNS, ROWS = 12, 8


@dataclass(frozen=True, kw_only=True)
class Place:
    """Cells of the grid: from column x and row y, both from 0, w wide and h high."""

    x: int
    y: int
    w: int
    h: int

    @property
    def is_on_page(self) -> bool:
        """Whether all of it lies on the page."""
        return (
            self.x >= 0 and self.y >= 0 and self.w >= 1 and self.h >= 1
            and self.x + self.w <= COLUMNS and self.y + self.h <= ROWS
        )  # fmt: skip

    def touches(self, other: "Place") -> bool:
        """Whether the two have a cell in common."""
        return (
            self.x < other.x + other.w and other.x < self.x + self.w
            and self.y < other.y + other.h and other.y < self.y + self.h
        )  # fmt: skip


def overlapping(places: Sequence[Place]) -> tuple[int, int] | None:
    """The first two, by their numbers, that have a cell in common."""
    pairs = combinations(enumerate(places), 2)
    return next(((i, j) for (i, one), (j, other) in pairs if one.touches(other)), None)


def free_place(taken: Iterable[Place], w: int, h: int) -> Place | None:
    """The first free place of that size in reading order, else one of a smaller size; None on a full page."""
    taken = list(taken)
    sizes = sorted(
        ((a, b) for a in range(1, min(w, COLUMNS) + 1) for b in range(1, min(h, ROWS) + 1)),
        key=lambda size: (-size[0] * size[1], abs(size[0] - w)),
    )
    # What is smaller than a figure can be read in is no place.
    for a, b in [size for size in sizes if size[0] >= min(w, 2) and size[1] >= min(h, 2)]:
        for y in range(ROWS - b + 1):
            for x in range(COLUMNS - a + 1):
                place = Place(x=x, y=y, w=a, h=b)
                if not any(place.touches(other) for other in taken):
                    return place
    return None
