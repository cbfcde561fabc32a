"""Promise: what is sealed opens as it was with its passphrase alone, and not at all once a bit of it is another."""

import io

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from scripts import sealing
from scripts.sealing import MAGIC, PREFIX, SALT, TAG, Sealed, SealError, Unsealed, is_sealed, unsealed

HEAD = len(MAGIC) + SALT + PREFIX


@pytest.fixture(autouse=True)
def _small(monkeypatch: pytest.MonkeyPatch) -> None:
    """Pieces of sixteen bytes and a cheap key: what is held does not depend on their size."""
    monkeypatch.setattr(sealing, "PIECE", 16)
    monkeypatch.setattr(sealing, "COST", 2)


def sealed(content: bytes, passphrase: str = "half past nine") -> bytes:
    out = io.BytesIO()
    made = Sealed(out, passphrase)
    for at in range(0, len(content), 7):
        made.write(content[at : at + 7])
    made.close()
    return out.getvalue()


def opened(content: bytes, passphrase: str = "half past nine") -> bytes:
    return b"".join(unsealed(io.BytesIO(content), passphrase))


@pytest.mark.parametrize("length", [0, 1, 15, 16, 17, 32, 33, 100])
def test_it_opens_as_it_was(length: int) -> None:
    content = bytes(range(length))
    assert opened(sealed(content)) == content
    file = Unsealed(io.BytesIO(sealed(content)), "half past nine")
    assert b"".join(iter(lambda: file.read(5), b"")) == content
    assert is_sealed(io.BytesIO(sealed(content)))
    assert not is_sealed(io.BytesIO(content))


def test_another_passphrase_opens_nothing_and_two_sealings_have_nothing_in_common() -> None:
    one, two = sealed(b"the same" * 9), sealed(b"the same" * 9)
    held = [{made[HEAD + i : HEAD + i + 8] for i in range(60)} for made in (one, two)]
    assert not held[0] & held[1]
    for wrong in ("", "half past ten", "half past nine "):
        with pytest.raises(SealError):
            opened(one, wrong)


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture], max_examples=60)
@given(st.integers(0, 3 * (16 + TAG) + HEAD + 20), st.integers(0, 7))
def test_a_bit_that_is_another_is_found(at: int, bit: int) -> None:
    made = bytearray(sealed(b"0123456789abcdef" * 3 + b"end"))
    made[at % len(made)] ^= 1 << bit
    with pytest.raises(SealError):
        opened(bytes(made))


def test_what_is_cut_off_swapped_left_out_or_added_is_found() -> None:
    made = sealed(bytes(16) + bytes([1]) * 16 + bytes([2]) * 16 + b"end")
    step = 16 + TAG
    head, pieces = made[:HEAD], [made[HEAD + i : HEAD + i + step] for i in range(0, len(made) - HEAD, step)]
    for wrong in (pieces[:-1], pieces[:1], [], [pieces[1], pieces[0], *pieces[2:]], [*pieces[:1], *pieces[2:]], [*pieces, pieces[-1]]):  # fmt: skip
        with pytest.raises(SealError):
            opened(head + b"".join(wrong))
    with pytest.raises(SealError):
        opened(made[: HEAD - 3])
    with pytest.raises(SealError):
        opened(b"PK\x03\x04" + made)
