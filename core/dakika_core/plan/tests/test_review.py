"""Promise: nothing is approved but what every step said yes to, word for word, whatever was said in whatever order."""

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.review import Verdict, digest_of, may_say, next_step

STEPS = ("analyst", "guest")
VERDICTS = st.lists(
    st.builds(Verdict, step=st.integers(0, 1), is_yes=st.booleans(), digest=st.sampled_from("ab"), who=st.just("x")),
    max_size=12,
)


def version(**values: Any) -> dict[str, Any]:
    usual = {"profile_id": 1, "text": "Doors at eight", "headline": "", "first_comment": "", "media": [4], "options": {},
             "link_id": None}  # fmt: skip
    return {**usual, **values}


@given(VERDICTS)
def test_all_steps_said_yes_to_this_after_the_last_wish_for_a_change(said: list[Verdict]) -> None:
    last_no = max((i for i, one in enumerate(said) if not one.is_yes), default=-1)
    counted = {one.step for one in said[last_no + 1 :] if one.digest == "a"}
    assert (next_step(STEPS, said, "a") is None) == (counted == {0, 1})


@given(VERDICTS)
def test_nothing_is_approved_by_a_yes_to_something_else(said: list[Verdict]) -> None:
    assert next_step(STEPS, [one for one in said if one.digest != "a"], "a") == 0


def test_without_steps_nothing_waits() -> None:
    assert next_step((), [], "a") is None


def test_whatever_goes_out_is_in_the_digest_and_its_minute_is_not() -> None:
    whole = digest_of([version()])
    for other in (
        version(text="Doors at nine"), version(headline="A clock"), version(first_comment="Bring a watch"),
        version(media=[4, 5]), version(media=[5]), version(options={"board": "Night sky"}), version(link_id=3),
        version(profile_id=2),
    ):  # fmt: skip
        assert digest_of([other]) != whole
    assert digest_of([version(due_at="2026-11-30T08:00Z")]) == whole
    assert digest_of([version(), version(profile_id=2)]) == digest_of([version(profile_id=2), version()])


def test_a_step_takes_its_role_and_those_who_may_say_more() -> None:
    assert may_say(STEPS, 0, "analyst")
    assert may_say(STEPS, 1, "guest")
    assert may_say(STEPS, 1, "admin")
    assert not may_say(STEPS, 0, "guest")
    assert not may_say(STEPS, 1, "author")
    assert not may_say(STEPS, 2, "admin")
    assert not may_say(STEPS, -1, "admin")
