"""Promise: a planned post moves only along the allowed ways, and what needs attention shows first."""

import pytest

from dakika_core.plan.states import NEXT, State, may_become, overall


def test_what_is_published_stays_published() -> None:
    assert not any(may_become(State.PUBLISHED, other) for other in State)


def test_every_state_is_placed() -> None:
    assert set(NEXT) == set(State)


@pytest.mark.parametrize(
    ("versions", "whole"),
    [
        ([State.PUBLISHED, State.PUBLISHED], State.PUBLISHED),
        ([State.PUBLISHED, State.FAILED], State.FAILED),
        ([State.PUBLISHED, State.PUBLISHING], State.PUBLISHING),
        ([State.SCHEDULED, State.PUBLISHED], State.SCHEDULED),
        ([], State.DRAFT),
    ],
)
def test_the_whole_follows_from_its_versions(versions: list[State], whole: State) -> None:
    assert overall(versions) is whole
