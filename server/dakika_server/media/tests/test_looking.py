"""Promise: what a file is is told by its content alone, and nothing a camera or a stranger wrote into it goes on."""

import io
import struct
import zlib

import pytest
from PIL import Image, ImageCms

from dakika_server.media.looking import LARGEST_PIXELS, Looked, NotTaken, look
from dakika_server.media.testing import PDF, picture, video
from dakika_server.shared import apart


def looked(content: bytes) -> Looked:
    return look(io.BytesIO(content))


@pytest.mark.parametrize(
    ("content", "kind", "media_type"),
    [
        (picture(), "picture", "image/jpeg"), (picture(form="PNG"), "picture", "image/png"),
        (picture(form="WEBP"), "picture", "image/webp"), (picture(form="GIF"), "picture", "image/gif"),
        (video(), "video", "video/mp4"), (video("webm", "libvpx-vp9"), "video", "video/webm"),
        (PDF, "document", "application/pdf"),
    ],
)  # fmt: skip
def test_what_is_taken_is_known_by_its_content(content: bytes, kind: str, media_type: str) -> None:
    found = looked(content)
    assert (found.kind, found.media_type) == (kind, media_type)


def test_a_picture_is_turned_as_it_is_to_be_seen_and_says_nothing_of_its_camera() -> None:
    exif = Image.Exif()
    exif[0x0112] = 6  # the camera was held upright (Exif 2.32, Orientation)
    exif[0x010F] = "Camera of Mira"
    exif[0x8825] = {1: "N", 2: (38.0, 42.0, 0.0)}  # where it was taken
    found = looked(picture(4000, 3000, exif=exif, comment=b"a note of Mira's"))
    assert (found.width, found.height) == (3000, 4000)
    assert {m.purpose: (m.width, m.height) for m in found.made} == {"full": (1920, 2560), "preview": (360, 480)}
    for made in found.made:
        assert not any(word in made.content for word in (b"Mira", b"Exif", b"GPS"))
        assert not Image.open(io.BytesIO(made.content)).getexif()


def test_colours_of_another_space_are_carried_over() -> None:
    """What a profile calls by other numbers is written in sRGB (IEC 61966-2-1), which every network takes."""
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes()
    assert looked(picture(icc_profile=profile)).kind == "picture"  # a profile that does not fit is passed over
    own = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    (full, _) = looked(picture(icc_profile=own)).made
    made = Image.open(io.BytesIO(full.content))
    assert "icc_profile" not in made.info
    assert all(abs(a - b) <= 3 for a, b in zip(made.getpixel((5, 5)), (200, 30, 60), strict=True))


def test_what_can_be_seen_through_stays_so() -> None:
    found = looked(picture(form="PNG", mode="RGBA"))
    assert {made.media_type for made in found.made} == {"image/png"}


def test_a_video_is_measured_and_shown_by_a_still() -> None:
    found = looked(video(frames=50))
    assert (found.width, found.height, found.seconds) == (96, 160, pytest.approx(2.0, abs=0.1))
    (still,) = found.made
    assert (still.purpose, still.media_type, still.width, still.height) == ("preview", "image/jpeg", 96, 160)


def a_bomb() -> bytes:
    """A PNG of some hundred bytes that says it has 900 million pixels."""

    def chunk(kind: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    head = struct.pack(">IIBBBBB", 30_000, 30_000, 8, 0, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", head)
        + chunk(b"IDAT", zlib.compress(b"\0" * 30_001))
        + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>", "page or a drawing"),
        (b" \n<!doctype html><script>alert(1)</script>", "page or a drawing"),
        (b"\0\0\0\x18ftypheic" + b"\0" * 100, "HEIC"),
        (b"MZ\x90\0" + b"\0" * 100, "no picture, video or PDF"),
        (b"", "no picture, video or PDF"),
        (b"#EXTM3U\n#EXT-X-MEDIA-SEQUENCE:0\nfile:///etc/passwd\n", "no picture, video or PDF"),
        (picture(400, 400)[:900], "damaged"),
        (video()[:3000], "cannot be read"),
        (a_bomb(), "million pixels"),
    ],
)  # fmt: skip
def test_what_is_not_taken_is_told_with_what_to_do(content: bytes, words: str) -> None:
    with pytest.raises(NotTaken, match=words):
        looked(content)


def test_the_bound_on_pixels_is_on_what_the_file_says_before_it_is_read() -> None:
    side = int(LARGEST_PIXELS**0.5) + 10
    with pytest.raises(NotTaken, match="million pixels"):
        looked(picture(side, side, form="PNG", mode="L"))


def test_a_page_that_pretends_to_be_a_picture_is_given_out_as_the_picture_alone() -> None:
    """Bytes that are a picture to one program and a page to another: what is written anew has no page in it."""
    polyglot = picture(form="GIF") + b"<script>alert(document.cookie)</script>"
    for made in looked(polyglot).made:
        assert b"<script>" not in made.content


def test_looking_runs_in_a_child_with_bounds(tmp_path) -> None:
    path = tmp_path / "picture"
    path.write_bytes(picture())
    with path.open("rb") as file:
        assert apart.called_on(look, file, seconds=20, megabytes=1500).kind == "picture"
    path.write_bytes(b"<svg/>")
    with path.open("rb") as file, pytest.raises(NotTaken):
        apart.called_on(look, file, seconds=20, megabytes=1500)
