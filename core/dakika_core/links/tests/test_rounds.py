"""Promise: a click is part of a round just when enough different links were clicked near it, as one counts by hand."""

from hypothesis import given
from hypothesis import strategies as st

from dakika_core.links.rounds import in_rounds

CLICKS = st.lists(st.tuples(st.integers(0, 60), st.integers(1, 6)), max_size=40)


@given(CLICKS, st.integers(0, 15), st.integers(1, 5))
def test_it_is_what_one_counts_by_hand(clicks: list[tuple[int, int]], span: int, many: int) -> None:
    clicks.sort()
    seconds, links = [float(at) for at, _ in clicks], [link for _, link in clicks]
    by_hand = [len({link for other, link in clicks if abs(other - at) <= span}) >= many for at, _ in clicks]
    assert in_rounds(seconds, links, span=span, many=many) == by_hand


def test_a_reader_is_no_round() -> None:
    assert in_rounds([0, 40, 80, 120, 160], [1, 2, 3, 4, 5], span=10, many=5) == [False] * 5
    assert in_rounds([0, 1, 2, 3, 4], [1, 2, 3, 4, 5], span=10, many=5) == [True] * 5
    assert in_rounds([0, 1, 2, 3, 4], [1, 1, 1, 2, 2], span=10, many=5) == [False] * 5
