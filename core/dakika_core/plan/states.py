"""States of a planned post, and what may happen next.

In the trade's words: state machine, post status.
"""

from enum import StrEnum


class State(StrEnum):
    """Where a planned post stands. BY_HAND: its minute came, and a person is to publish it."""

    IDEA = "idea"
    DRAFT = "draft"
    IN_REVIEW = "in_review"
    APPROVED = "approved"
    SCHEDULED = "scheduled"
    PUBLISHING = "publishing"
    PUBLISHED = "published"
    FAILED = "failed"
    MISSED = "missed"
    BY_HAND = "by_hand"


NEXT: dict[State, frozenset[State]] = {
    # Drafts are written from an idea; it stays one itself, so that more than one can be.
    State.IDEA: frozenset(),
    State.DRAFT: frozenset({State.IN_REVIEW, State.SCHEDULED}),
    State.IN_REVIEW: frozenset({State.DRAFT, State.APPROVED, State.MISSED}),
    State.APPROVED: frozenset({State.DRAFT, State.IN_REVIEW, State.SCHEDULED}),
    State.SCHEDULED: frozenset({State.DRAFT, State.IN_REVIEW, State.PUBLISHING, State.MISSED, State.BY_HAND}),
    State.BY_HAND: frozenset({State.PUBLISHED, State.DRAFT, State.SCHEDULED, State.MISSED}),
    State.PUBLISHING: frozenset({State.PUBLISHED, State.FAILED}),
    State.FAILED: frozenset({State.DRAFT, State.IN_REVIEW, State.SCHEDULED, State.PUBLISHING}),
    State.MISSED: frozenset({State.DRAFT, State.IN_REVIEW, State.SCHEDULED}),
    State.PUBLISHED: frozenset(),
}
EDITABLE = frozenset({
    State.IDEA, State.DRAFT, State.IN_REVIEW, State.APPROVED, State.SCHEDULED, State.FAILED, State.MISSED,
    State.BY_HAND,
})  # fmt: skip
_BY_WEIGHT = (
    State.FAILED, State.MISSED, State.BY_HAND, State.PUBLISHING, State.SCHEDULED, State.IN_REVIEW, State.APPROVED,
    State.DRAFT,
)  # fmt: skip


def may_become(now: State, wanted: State) -> bool:
    """Whether a planned post in one state may be brought into another."""
    return wanted in NEXT[now]


def overall(states: list[State]) -> State:
    """State of a planned post from those of its versions: what needs attention comes first."""
    for state in _BY_WEIGHT:
        if state in states:
            return state
    return states[0] if states else State.DRAFT
