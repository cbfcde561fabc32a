"""Promise: what a network would refuse of a post is said beforehand, with its reason; what will be changed is said too."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.networks.definition import MediaRule, Need, NetworkDefinition, Offer, OptionRule, TextRule
from dakika_core.networks.post_rules import Attachment, Content, Kind, check_post, nearest_shape, shape_words

SQUARE = Attachment(kind=Kind.PICTURE, name="clock", width=800, height=800, size=1000)
WIDE = Attachment(kind=Kind.PICTURE, name="sky", width=3000, height=1000, size=1000)
CLIP = Attachment(kind=Kind.VIDEO, name="tick", width=1080, height=1920, seconds=30, size=1000)
PAPER = Attachment(kind=Kind.DOCUMENT, name="paper", size=1000)


def network(**values: object) -> NetworkDefinition:
    given_ = {"text": TextRule(limit=100, needs_text=False), **values}
    return NetworkDefinition(key="made", name="Made up", monogram="Mu", half_life_hours=5.0, **given_)  # type: ignore[arg-type]


def codes(content: Content, of: NetworkDefinition, *, blocking: bool | None = None) -> set[str]:
    found = check_post(content, of).problems
    return {one.code for one in found if blocking is None or one.is_blocking is blocking}


@pytest.mark.parametrize(
    ("need", "fitting"), [(Need.PICTURE, SQUARE), (Need.VIDEO, CLIP), (Need.PICTURE_OR_VIDEO, SQUARE)]
)
def test_what_a_network_wants_with_every_post_is_asked_for(need: Need, fitting: Attachment) -> None:
    of = network(media=MediaRule(need=need, most_pictures=1, takes_videos=True))
    told = check_post(Content(text="x"), of)
    assert not told.is_publishable
    assert told.problems[0].message.startswith("Made up wants a ")
    assert told.problems[0].part == "media"
    assert check_post(Content(text="x", media=(fitting,)), of).is_publishable


def test_how_many_and_what_together() -> None:
    four = network(media=MediaRule(most_pictures=4))
    assert codes(Content(media=(SQUARE,) * 5), four) == {"too_many_pictures"}
    assert codes(Content(media=(CLIP,)), four) == {"no_videos"}
    assert codes(Content(media=(PAPER,)), four) == {"no_documents"}
    both = network(media=MediaRule(most_pictures=4, takes_videos=True, takes_documents=True))
    assert codes(Content(media=(SQUARE, CLIP)), both) == {"video_alone"}
    assert codes(Content(media=(CLIP, CLIP)), both) == {"too_many_videos"}
    assert codes(Content(media=(PAPER, SQUARE)), both) == {"document_alone"}
    assert codes(Content(media=(PAPER,)), both) == set()
    still = network(media=MediaRule(need=Need.VIDEO, most_pictures=1, takes_videos=True, has_still=True))
    assert codes(Content(media=(CLIP, SQUARE)), still) == set()
    assert codes(Content(media=(CLIP, SQUARE, WIDE)), still) == {"too_many_pictures"}


def test_pictures_of_another_shape_are_cut_and_videos_refused() -> None:
    tall = network(media=MediaRule(most_pictures=4, takes_videos=True, narrowest=0.5625, widest=0.5625))
    assert codes(Content(media=(SQUARE,)), tall, blocking=True) == set()
    assert codes(Content(media=(SQUARE,)), tall, blocking=False) == {"is_cut"}
    assert "9:16" in check_post(Content(media=(SQUARE,)), tall).problems[0].message
    assert codes(Content(media=(CLIP,)), tall) == set()
    lying = Attachment(kind=Kind.VIDEO, name="wide", width=1920, height=1080, seconds=30)
    assert codes(Content(media=(lying,)), tall, blocking=True) == {"shape"}


def test_seconds_weight_and_words_for_those_who_do_not_see() -> None:
    of = network(
        media=MediaRule(
            most_pictures=1, takes_videos=True, shortest_seconds=3, longest_seconds=20, largest_picture_mb=0.0005,
            largest_video_mb=0.0005,
        )
    )  # fmt: skip
    assert codes(Content(media=(CLIP,)), of) == {"too_long", "too_heavy"}
    short = Attachment(kind=Kind.VIDEO, width=1, height=1, seconds=1.5)
    assert codes(Content(media=(short,)), of) == {"too_short"}
    assert codes(Content(media=(SQUARE,)), of) == {"is_lightened"}
    silent = Attachment(kind=Kind.PICTURE, width=9, height=9, has_words=False)
    assert codes(Content(media=(silent,)), of, blocking=False) == {"no_words"}


def test_titles_first_comments_and_options() -> None:
    board = OptionRule(key="board", name="Board", choices=("Sky",), is_required=True)
    of = network(text=TextRule(limit=10, title_limit=5, needs_text=False), options=(board,),
                 offer=Offer(has_first_comment=True))  # fmt: skip
    assert codes(Content(), of) == {"needs_title", "needs_option"}
    good = Content(headline="Clock", options={"board": "Sky"}, first_comment="short")
    assert codes(good, of) == set()
    assert codes(Content(headline="Clocks", options={"board": "Sea"}, first_comment="x" * 11), of) == {
        "title_too_long", "no_such_option", "first_comment_too_long"
    }  # fmt: skip
    many = network(options=(OptionRule(key="shown_in", name="Shown in", choices=("PT", "BR"), is_many=True),))
    assert codes(Content(text="x", options={"shown_in": "PT, BR"}), many) == set()
    assert codes(Content(text="x", options={"shown_in": "PT,XX"}), many) == {"no_such_option"}
    silent = network()
    assert codes(Content(first_comment="x"), silent) == {"no_first_comment"}
    assert check_post(Content(first_comment="x"), silent).is_publishable


@pytest.mark.parametrize(("shape", "words"), [(0.8, "4:5"), (0.5625, "9:16"), (1.0, "1:1"), (1.91, "21:11"), (16 / 9, "16:9")])  # fmt: skip
def test_shapes_are_said_as_people_write_them(shape: float, words: str) -> None:
    assert shape_words(shape) == words


@given(st.floats(0.05, 20), st.floats(0.3, 1), st.floats(1, 3))
def test_a_shape_is_moved_to_the_nearest_that_is_taken(shape: float, narrow: float, wide: float) -> None:
    found = nearest_shape(shape, MediaRule(narrowest=narrow, widest=wide))
    if found is None:
        assert narrow * 0.98 <= shape <= wide * 1.02
    else:
        assert found == (narrow if shape < narrow else wide)
