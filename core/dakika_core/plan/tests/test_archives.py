"""Promise: pictures come out of an archive by their names, and no archive takes more than it is worth."""

import io
import struct
import zipfile

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan import archives
from dakika_core.plan.archives import ArchiveError, Packed, pictures_in, unpacked


def packed(files: dict[str, bytes], compression: int = zipfile.ZIP_STORED) -> io.BytesIO:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", compression) as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    out.seek(0)
    return out


def names(files: dict[str, bytes], **more: int) -> tuple[list[str], list[str]]:
    file = packed(files, **more)
    taken, left = pictures_in(file, len(file.getvalue()))
    return [one.name for one in taken], left


def test_pictures_by_their_names_and_what_is_none_is_told() -> None:
    taken, left = names({
        "december/roof.JPG": b"1", "a\\b\\dome.png": b"2", "__MACOSX/december/._roof.JPG": b"3", ".DS_Store": b"4",
        "notes.docx": b"5", "other/roof.JPG": b"6", "../../etc/passwd.jpg": b"7",
    })  # fmt: skip
    assert taken == ["roof.JPG", "dome.png", "passwd.jpg"]
    assert left == ["notes.docx", "roof.JPG"]


def test_their_bytes_are_those_that_went_in() -> None:
    file = packed({"roof.jpg": b"abc" * 1_000_000}, zipfile.ZIP_DEFLATED)
    (one,) = pictures_in(packed({"roof.jpg": b"abc" * 10}), 200)[0]
    assert b"".join(unpacked(packed({"roof.jpg": b"abc" * 10}), one)) == b"abc" * 10
    # Three megabytes of three letters are no picture.
    assert pictures_in(file, len(file.getvalue())) == ([], ["roof.jpg"])


def test_what_cannot_be_opened_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    for content in (b"", b"PK", b"no archive" * 9_000, b"PK\x05\x06" + b"\xff" * 18, b"PK\x05\x06" + b"\x00" * 9):
        with pytest.raises(ArchiveError):
            pictures_in(io.BytesIO(content), len(content))
    locked = bytearray(packed({"roof.jpg": b"1"}).getvalue())
    at = locked.find(b"PK\x01\x02")
    locked[at + 8] |= 1
    with pytest.raises(ArchiveError, match="password"):
        pictures_in(io.BytesIO(bytes(locked)), len(locked))
    monkeypatch.setattr(archives, "MOST_FILES", 2)
    with pytest.raises(ArchiveError, match="At most 2"):
        names({f"{number}.jpg": b"" for number in range(3)})
    monkeypatch.setattr(archives, "MOST_FILES", 1000)
    monkeypatch.setattr(archives, "MOST_IN_ALL", 5)
    with pytest.raises(ArchiveError, match="parts"):
        names({"a.jpg": b"123", "b.jpg": b"456"})


def test_a_directory_that_is_too_large_is_not_even_read() -> None:
    file = bytearray(packed({"roof.jpg": b"1"}).getvalue())
    at = file.rfind(b"PK\x05\x06")
    file[at + 12 : at + 16] = struct.pack("<L", 50_000_000)
    with pytest.raises(ArchiveError, match="At most"):
        pictures_in(io.BytesIO(bytes(file)), len(file))


def test_one_that_is_larger_than_it_says_stops_there() -> None:
    one = Packed(name="roof.jpg", size=10, path="roof.jpg")
    with pytest.raises(ArchiveError, match="larger"):
        list(unpacked(packed({"roof.jpg": b"x" * 5_000_000}, zipfile.ZIP_DEFLATED), one))
    broken = bytearray(packed({"roof.jpg": b"x" * 50}).getvalue())
    broken[40] ^= 1
    with pytest.raises(ArchiveError, match="unpacked"):
        list(unpacked(io.BytesIO(bytes(broken)), Packed(name="roof.jpg", size=50, path="roof.jpg")))


@given(st.binary(max_size=300))
def test_nothing_that_is_sent_breaks_it(content: bytes) -> None:
    good = packed({"roof.jpg": b"123"}).getvalue()
    for sent in (content, good[:40] + content, content + good, good + content):
        try:
            taken, _ = pictures_in(io.BytesIO(sent), len(sent))
            for one in taken:
                assert sum(len(piece) for piece in unpacked(io.BytesIO(sent), one)) <= one.size
        except ArchiveError as error:
            assert str(error).endswith(".")
