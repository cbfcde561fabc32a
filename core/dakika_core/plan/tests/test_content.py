"""Promise: what is common stays common until it is changed in one place, and only there; links are each version's own."""

from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.content import FIELDS, effective, own_of, with_links

PAGE, SHORT = "https://orrery.example/tickets", "https://ninth.example/l/abc"
texts = st.text(max_size=40)
contents = st.fixed_dictionaries(
    {"text": texts, "headline": texts, "first_comment": texts, "media": st.lists(st.integers(1, 9), max_size=3)}
)


def common(text: str) -> dict[str, object]:
    return {"text": text, "headline": "", "first_comment": "", "media": []}


def test_each_version_shows_its_own_link_in_the_common_text() -> None:
    found = effective(common(f"See {PAGE}, tonight"), {}, {PAGE: SHORT})
    assert found["text"] == f"See {SHORT}, tonight"


def test_only_whole_addresses_are_replaced() -> None:
    assert with_links(f"{PAGE}/more and {PAGE}", {PAGE: SHORT}) == f"{PAGE}/more and {SHORT}"
    assert with_links("tickets", {}) == "tickets"


@given(contents, contents)
def test_a_version_written_out_keeps_of_its_own_what_differs_and_nothing_else(shared: dict, written: dict) -> None:
    own = own_of(shared, written, {})
    assert effective(shared, own, {}) == written
    assert set(own) == {name for name in FIELDS if shared[name] != written[name]}


@given(contents, contents, contents)
def test_a_change_of_what_is_common_reaches_all_that_did_not_change_it(first: dict, written: dict, later: dict) -> None:
    own = own_of(first, written, {})
    found = effective(later, own, {})
    for name in FIELDS:
        assert found[name] == (written[name] if name in own else later[name])
