"""Promise: a post with what is to be seen comes up once on every network, however often it is sent, or says why not."""

import io
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from uuid import uuid4

import pytest

from dakika_server.media.testing import PDF, picture, video
from dakika_server.networks.connectors import longplay
from dakika_server.networks.connectors.base import (
    LinkCard,
    MediaOut,
    NotAuthorised,
    PostOut,
    Refused,
    Target,
    Unavailable,
)
from dakika_server.networks.connectors.registry import connected
from dakika_server.sources.collect import token_of

pytestmark = pytest.mark.django_db


def out(content: bytes, media_type: str) -> MediaOut:
    return MediaOut(
        name="clock", media_type=media_type, content=lambda: io.BytesIO(content), words="The tower clock at night"
    )


PICTURE, OTHER, VIDEO = out(picture(), "image/jpeg"), out(picture(9, 9), "image/png"), out(video(), "video/mp4")
# What each network is given, and the format that it shows it in.
GIVEN: dict[str, tuple[PostOut, str]] = {
    "commons": (PostOut(text="Two clocks", media=(PICTURE, OTHER)), "album"),
    "brevi": (PostOut(text="A clock", media=(PICTURE,)), "image"),
    "guildhall": (PostOut(text="A paper on clocks", media=(out(PDF, "application/pdf"),)), "image"),
    "doorstep": (PostOut(text="Open tonight", media=(PICTURE,)), "image"),
    "pictor": (PostOut(text="It strikes", media=(PICTURE, OTHER)), "album"),
    "corkboard": (
        PostOut(title="A clock", text="To look at", media=(PICTURE,), options={"board": "From the workshop"}),
        "image",
    ),
    "vignette": (PostOut(text="Tick", media=(VIDEO,)), "short_video"),
    "longplay": (PostOut(title="The repaired hour", text="All of it", media=(VIDEO, PICTURE)), "long_video"),
}


def sent(world: Any, network: str) -> list[Any]:
    """What was sent to a network's house; the world is the same for all tests."""
    return [post for post in world.state.sent_posts if post.account == f"{network}-orreryhouse"]


def files_at(world: Any, network: str) -> set[str]:
    """What was ever brought to a network."""
    return {name for name in world.state.data["uploads"] if name.startswith(f"{network}:")}


def place(profile: Any) -> Target:
    return Target(handle=profile.handle, external_id=profile.external_id, is_own=True)


@pytest.mark.parametrize("network", GIVEN)
def test_what_is_sent_comes_up_once(network: str, own_profile: Any, world: Any) -> None:
    profile = own_profile(network)
    post, shown_as = GIVEN[network]
    before, key = len(sent(world, network)), uuid4().hex
    brought = files_at(world, network)
    with connected(network, token_of(profile)) as there:
        first = there.publish(place(profile), post, idempotency_key=key)
        # The worker was killed before it wrote down what it was told, and sends everything again.
        assert there.publish(place(profile), post, idempotency_key=key) == first
        seen = [one for one in there.page(place(profile), None).posts if one.external_id == first.external_id]
    assert len(sent(world, network)) == before + 1
    assert sent(world, network)[-1].format == shown_as
    (one,) = seen
    assert (post.text in one.text, one.published_at) == (True, first.published_at)
    # The same bytes, brought twice, are one file there.
    # The same bytes, brought by another test before, are the same file, too.
    new = files_at(world, network) - brought
    assert len(new) <= (0 if network == "doorstep" else len(post.media))
    with connected(network, token_of(profile)) as there:
        there.publish(place(profile), post, idempotency_key=key)
    assert files_at(world, network) == brought | new


@pytest.mark.parametrize("network", ["pictor", "commons", "guildhall", "longplay"])
def test_the_first_comment_stands_under_the_post_once(network: str, own_profile: Any, world: Any) -> None:
    profile = own_profile(network)
    with connected(network, token_of(profile)) as there:
        made = there.publish(place(profile), GIVEN[network][0], idempotency_key=uuid4().hex)
        for _ in range(2):
            there.say_first(place(profile), made.external_id, "Tickets at the desk", idempotency_key="once")
        said = there.comments(place(profile), made.external_id, None)
    assert [one.text for one in said if one.author == profile.handle] == ["Tickets at the desk"]


@pytest.mark.parametrize("network", [name for name in GIVEN if name != "doorstep"])
def test_what_is_brought_ahead_is_not_brought_again(network: str, own_profile: Any, world: Any) -> None:
    profile = own_profile(network)
    post, _ = GIVEN[network]
    with connected(network, token_of(profile)) as there:
        for media in post.media:
            there.bring(place(profile), media)
        brought = dict(world.state.data["uploads"])
        there.publish(place(profile), post, idempotency_key=uuid4().hex)
    assert world.state.data["uploads"] == brought


def test_boards_are_those_of_the_account(own_profile: Any, world: Any) -> None:
    profile = own_profile("corkboard")
    with connected("corkboard", token_of(profile)) as there:
        assert "From the workshop" in there.choices(place(profile), "board")
        assert there.choices(place(profile), "no such") == []


def test_a_file_that_is_worked_on_is_waited_for_and_one_that_came_out_badly_is_refused(
    own_profile: Any, world: Any
) -> None:
    profile = own_profile("vignette")
    with connected("vignette", token_of(profile)) as there:
        world.faults(vignette__processing=10_000)
        with pytest.raises(Unavailable):
            there.publish(place(profile), GIVEN["vignette"][0], idempotency_key=uuid4().hex)
        world.faults(vignette__processing=0, vignette__media_refused=1)
        with pytest.raises(Refused):
            there.publish(place(profile), GIVEN["vignette"][0], idempotency_key=uuid4().hex)


def test_an_answer_that_is_lost_is_told_when_it_is_asked_again(own_profile: Any, world: Any) -> None:
    profile, key = own_profile("commons"), uuid4().hex
    before = len(sent(world, "commons"))
    with connected("commons", token_of(profile)) as there:
        world.faults(commons__lost=1)
        with pytest.raises(Unavailable):
            there.publish(place(profile), PostOut(text="Heard by nobody"), idempotency_key=key)
        world.faults(commons__lost=0)
        there.publish(place(profile), PostOut(text="Heard by nobody"), idempotency_key=key)
    assert len(sent(world, "commons")) == before + 1


@pytest.mark.parametrize(
    ("network", "post", "words"),
    [
        ("pictor", PostOut(text="No picture"), "wants a picture or video"),
        ("vignette", PostOut(text="No video"), "wants a picture or video"),
        ("longplay", PostOut(title="A still alone", text="", media=(PICTURE,)), "wants a picture or video"),
        ("brevi", PostOut(text="A film", media=(VIDEO,)), "takes no video"),
        ("commons", PostOut(text="Both", media=(PICTURE, VIDEO)), "a video alone"),
        ("brevi", PostOut(text="Too many", media=(PICTURE,) * 5), "at most 4"),
        ("corkboard", PostOut(title="A clock", text="", media=(PICTURE,), options={"board": "no such"}), "refused"),
        ("vignette", PostOut(text="x", media=(PICTURE,)), "refused"),
        ("pictor", PostOut(text="See https://orrery.example", media=(PICTURE,)), "refused"),
    ],
)  # fmt: skip
def test_what_a_network_does_not_take_is_refused_in_words(
    network: str, post: PostOut, words: str, own_profile: Any, world: Any
) -> None:
    profile, before = own_profile(network), len(sent(world, network))
    with connected(network, token_of(profile)) as there, pytest.raises(Refused, match=words):
        there.publish(place(profile), post, idempotency_key=uuid4().hex)
    assert len(sent(world, network)) == before


def test_a_large_file_comes_to_longplay_in_parts_and_goes_on_where_it_broke_off(
    own_profile: Any, world: Any, monkeypatch: Any
) -> None:
    profile = own_profile("longplay")
    monkeypatch.setattr(longplay, "PART", 700)
    film = video(frames=30, width=64)
    assert len(film) > 2_000
    sized = MediaOut(name="film", media_type="video/mp4", content=lambda: io.BytesIO(film), size=len(film))
    taken: list[int] = []
    add = world.state.add_part

    def breaks_off(network: str, owner: str, digest: str, at: int, part: bytes) -> Any:
        taken.append(at)
        if len(taken) == 2:
            world.state.data["faults"]["longplay.revoked"] = 1.0
        return add(network, owner, digest, at, part)

    monkeypatch.setattr(world.state, "add_part", breaks_off)
    with connected("longplay", token_of(profile)) as there:
        with pytest.raises(NotAuthorised):
            there.bring(place(profile), sized)
        world.faults(longplay__revoked=0)
        there.bring(place(profile), sized)
    assert taken == list(range(0, len(film), 700))
    assert not world.state.parts


def test_parts_that_go_on_elsewhere_or_make_another_file_are_refused(world: Any) -> None:
    begin, add = world.state.begin_parts, world.state.add_part
    begin("longplay", "orrery", "0" * 64, 6, "video/mp4")
    assert add("longplay", "orrery", "0" * 64, 3, b"abc") is None
    assert add("longplay", "orrery", "0" * 64, 0, b"abcdefg") is None
    assert add("longplay", "orrery", "0" * 64, 0, b"abc") == (3, None)
    assert add("longplay", "orrery", "0" * 64, 3, b"def") is None


def test_vignette_fetches_a_clip_itself_and_where_it_cannot_it_is_brought(own_profile: Any, world: Any) -> None:
    profile = own_profile("vignette")
    asked: list[str] = []
    film = video(frames=12, width=66)

    class Lends(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            asked.append(self.path)
            self.send_response(200 if self.path == "/film" else 404)
            self.send_header("Content-Type", "video/mp4")
            self.end_headers()
            self.wfile.write(film)

        def log_message(self, *_: Any) -> None:
            """Nothing."""

    with ThreadingHTTPServer(("127.0.0.1", 0), Lends) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        here = f"http://127.0.0.1:{server.server_port}"
        opened: list[int] = []

        def content() -> io.BytesIO:
            opened.append(1)
            return io.BytesIO(film)

        with connected("vignette", token_of(profile)) as there:
            for path in ("film", "nothing"):
                media = MediaOut(
                    name="film", media_type="video/mp4", content=content, size=len(film), address=f"{here}/{path}"
                )
                there.bring(place(profile), media)
        server.shutdown()
    assert asked == ["/film", "/nothing"]
    assert len(opened) == 1


def test_stand_ins_fetch_from_this_machine_alone(own_profile: Any, world: Any) -> None:
    profile = own_profile("vignette")
    media = MediaOut(
        name="film", media_type="video/mp4", content=lambda: io.BytesIO(video()), address="http://example.org/film"
    )
    with connected("vignette", token_of(profile)) as there:
        there.bring(place(profile), media)


@pytest.mark.parametrize(("network", "key", "title"), [("commons", "link", "title"), ("guildhall", "card", "heading")])
def test_what_stands_on_the_card_of_a_link_is_sent_along(
    network: str, key: str, title: str, own_profile: Any, world: Any
) -> None:
    profile = own_profile(network)
    card = LinkCard(title="The hour, repaired", text="Tonight at eight", picture=PICTURE)
    post = PostOut(text="Read https://orrery.example/hour", card=card)
    with connected(network, token_of(profile)) as there:
        there.publish(place(profile), post, idempotency_key=uuid4().hex)
        said = world.state.data["sent"][-1]["card"]
        assert said[title] == "The hour, repaired"
        with pytest.raises(Refused):
            long = PostOut(text="Read", card=LinkCard(title="x" * 201))
            there.publish(place(profile), long, idempotency_key=uuid4().hex)


@pytest.mark.parametrize("network", ["commons", "guildhall"])
def test_a_post_for_some_countries_is_shown_there_alone(network: str, own_profile: Any, world: Any) -> None:
    """Three in ten of the museum's people live in Brazil; a post for them is seen by no more."""
    profile = own_profile(network)
    shown: dict[str, int] = {}
    for countries in ("", "BR", "PT,BR"):
        with connected(network, token_of(profile)) as there:
            post = PostOut(text=f"For {countries or 'all'}", options={"shown_in": countries})
            there.publish(place(profile), post, idempotency_key=uuid4().hex)
        entry = world.state.data["sent"][-1]
        assert entry["countries"] == [one for one in countries.split(",") if one]
        shown[countries] = entry["share"]
        # What the world remembers comes back the same after a start.
        assert world.state._rebuild(entry).finals == sent(world, network)[-1].finals
    assert shown[""] == 1.0
    assert 0.2 < shown["BR"] < 0.4 < shown["PT,BR"] < 1.0


def test_a_network_refuses_what_is_no_country_and_a_place_of_elsewhere(own_profile: Any, world: Any) -> None:
    profile = own_profile("commons")
    with connected("commons", token_of(profile)) as there:
        assert "The roof terrace" in there.choices(place(profile), "place")
        for options in ({"shown_in": "Brazil"}, {"place": "Quay 4"}):
            with pytest.raises(Refused):
                there.publish(place(profile), PostOut(text="Words", options=options), idempotency_key=uuid4().hex)
        there.publish(
            place(profile), PostOut(text="Words", options={"place": "The roof terrace"}), idempotency_key=uuid4().hex
        )
