"""Promise: figures of a page never cover each other, and a new one finds a place as long as there is one."""

from hypothesis import given
from hypothesis import strategies as st

from dakika_core.reports.layout import COLUMNS, ROWS, Place, free_place, overlapping

places = st.builds(
    Place, x=st.integers(0, COLUMNS - 1), y=st.integers(0, ROWS - 1), w=st.integers(1, COLUMNS), h=st.integers(1, ROWS)
).filter(lambda place: place.is_on_page)


def cells(place: Place) -> set[tuple[int, int]]:
    return {(x, y) for x in range(place.x, place.x + place.w) for y in range(place.y, place.y + place.h)}


@given(places, places)
def test_two_touch_where_they_share_a_cell(one: Place, other: Place) -> None:
    assert one.touches(other) == bool(cells(one) & cells(other))
    assert (overlapping([one, other]) is not None) == bool(cells(one) & cells(other))


@given(st.lists(places, max_size=6), st.integers(1, COLUMNS), st.integers(1, ROWS))
def test_what_is_found_free_is_free_and_on_the_page(taken: list[Place], w: int, h: int) -> None:
    found = free_place(taken, w, h)
    if found is not None:
        assert found.is_on_page
        assert not any(cells(found) & cells(one) for one in taken)
        assert (found.w, found.h) <= (max(w, 2), max(h, 2)) or found.w <= w


def test_reading_order_smaller_where_it_must_be_and_none_on_a_full_page() -> None:
    assert free_place([], 6, 3) == Place(x=0, y=0, w=6, h=3)
    assert free_place([Place(x=0, y=0, w=6, h=3)], 6, 3) == Place(x=6, y=0, w=6, h=3)
    left = [Place(x=0, y=0, w=9, h=8)]
    assert free_place(left, 6, 3) == Place(x=9, y=0, w=3, h=3)
    assert free_place([Place(x=0, y=0, w=COLUMNS, h=ROWS)], 1, 1) is None
    assert not Place(x=8, y=0, w=5, h=1).is_on_page
