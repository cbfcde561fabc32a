"""Promise: the stand-in of a push service opens messages as RFC 8291 writes them, and takes nothing else."""

import base64

import pytest

from dakika_standins.push import Unreadable, opened


def decoded(text: str) -> bytes:
    return base64.urlsafe_b64decode(text + "=" * (-len(text) % 4))


# RFC 8291, 5 and appendix A: a whole message with the keys of who gets it (from memory of the published text; the
# package that the server sends with writes the same, see the tests of the plan).
PRIVATE = "q1dXpw3UpT5VOmu_cf_v6ih07Aems3njxI-JWgLcM94"
AUTH = "BTBZMqHH6r4Tts7J_aSIgg"
MESSAGE = (
    "DGv6ra1nlYgDCS1FRnbzlwAAEABBBP4z9KsN6nGRTbVYI_c7VJSPQTBtkgcy27mlmlMoZIIgDll6e3vCYLocInmYWAmS6TlzAC8wEqKK6PBru3jl7A_y"
    "l95bQpu6cVPTpK4Mqgkf1CXztLVBSt2Ks3oZwbuwXPXLWyouBWLVWGNWQexSgSxsj_Qulcy4a-fN"
)  # fmt: skip
WORDS = b"When I grow up, I want to be a watermelon"


def test_the_example_of_the_standard_is_read() -> None:
    private = int.from_bytes(decoded(PRIVATE), "big")
    assert opened(decoded(MESSAGE), private, decoded(AUTH)) == WORDS


def test_what_was_touched_or_is_for_somebody_else_is_not() -> None:
    private, body = int.from_bytes(decoded(PRIVATE), "big"), bytearray(decoded(MESSAGE))
    for at in (0, 20, 40, 100, len(body) - 1):
        touched = bytearray(body)
        touched[at] ^= 1
        with pytest.raises(Unreadable):
            opened(bytes(touched), private, decoded(AUTH))
    for cut in (0, 20, 85, len(body) - 1):
        with pytest.raises(Unreadable):
            opened(bytes(body[:cut]), private, decoded(AUTH))
    with pytest.raises(Unreadable):
        opened(bytes(body), private + 1, decoded(AUTH))
