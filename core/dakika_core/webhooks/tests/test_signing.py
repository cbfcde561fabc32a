"""Promise: what other programs are told is signed as RFC 9421 says, so that any library of theirs can tell it is ours."""

import hashlib
import hmac
import time
from base64 import b64encode
from datetime import UTC, datetime, timedelta

import pytest
import requests
from http_message_signatures import HTTPMessageVerifier, InvalidSignature, MappingKeyResolver, algorithms

from dakika_core.webhooks.again import AGAIN, next_try
from dakika_core.webhooks.signing import COVERED, content_digest, key_id, signed_headers

NOW = datetime(2026, 11, 9, 8, tzinfo=UTC)


def test_a_library_that_knows_the_standard_accepts_it() -> None:
    """Held against http-message-signatures 3.0.0, which shares no code with ours."""
    body, address = '{"text": "Zwölf Schläge"}'.encode(), "https://till.example/in?from=dakika"
    headers = signed_headers(["old", "new"], address=address, body=body, created=int(time.time()))
    keys = {key_id(secret): secret.encode() for secret in ("old", "new")}
    for label in ("sig1", "sig2"):
        # Whoever gets two looks at the one whose key is known there; the library wants it alone.
        alone = {name: _of(label, value) if name.startswith("Signature") else value for name, value in headers.items()}
        sent = requests.Request("POST", address, alone, data=body).prepare()
        (one,) = _verifier(keys).verify(sent, body=body)
        assert one.label == label
        assert [*one.covered_components][: len(COVERED)] == [f'"{name}"' for name in COVERED]
        assert one.body == body


def test_a_library_that_knows_the_standard_refuses_what_was_changed() -> None:
    address = "https://till.example/in"
    headers = signed_headers(["old"], address=address, body=b"{}", created=int(time.time()))
    keys = {key_id("old"): b"old"}
    for changed, content in ((address, b"[]"), ("https://till.example/out", b"{}")):
        sent = requests.Request("POST", changed, headers, data=content).prepare()
        with pytest.raises(InvalidSignature):
            _verifier(keys).verify(sent, body=content)


def _of(label: str, field: str) -> str:
    return next(part for part in field.split(", ") if part.startswith(label))


def _verifier(keys: dict[str, bytes]) -> HTTPMessageVerifier:
    resolver = MappingKeyResolver(public_keys=keys, private_keys={})
    return HTTPMessageVerifier(signature_algorithm=algorithms.HMAC_SHA256, key_resolver=resolver)


def test_the_digest_of_the_standard() -> None:
    # RFC 9530, B.1 (from memory; the digest is held against the library's as well).
    body = b'{"hello": "world"}\n'
    assert content_digest(body) == "sha-256=:RK/0qy18MlBSVnWgjwz6lZEWjP/lF5HF9bvEF8FabDg=:"
    assert content_digest(body) == f"sha-256=:{b64encode(hashlib.sha256(body).digest()).decode()}:"


def test_whoever_has_a_secret_can_check_and_nobody_else() -> None:
    headers = signed_headers(["old", "new"], address="https://till.example/in", body=b"{}", created=1_800_000_000)
    # Written out a second time, as a program elsewhere would.
    for label, secret in (("sig1", "old"), ("sig2", "new")):
        params = next(one for one in headers["Signature-Input"].split(", ") if one.startswith(label))[len(label) + 1 :]
        base = (
            f'"@method": POST\n"@target-uri": https://till.example/in\n"content-type": application/json\n'
            f'"content-digest": {headers["Content-Digest"]}\n"@signature-params": {params}'
        )
        made = b64encode(hmac.new(secret.encode(), base.encode(), "sha256").digest()).decode()
        assert f"{label}=:{made}:" in headers["Signature"].split(", ")
        assert f'keyid="{key_id(secret)}"' in params
        assert secret not in params
    other = signed_headers(["old"], address="https://till.example/in", body=b"{ }", created=1_800_000_000)
    assert other["Signature"] != headers["Signature"].split(", ")[0]


@pytest.mark.parametrize(
    ("failures", "told", "wait"),
    [
        (1, "", timedelta(minutes=1)), (2, "", timedelta(minutes=5)), (1, "600", timedelta(minutes=10)),
        (3, "5", timedelta(minutes=30)), (1, "99999999", timedelta(hours=24)), (1, "soon", timedelta(minutes=1)),
        (1, "9" * 5000, timedelta(minutes=1)), (1, "-5", timedelta(minutes=1)), (1, "²", timedelta(minutes=1)),
        (len(AGAIN), "", AGAIN[-1]),
    ],
)  # fmt: skip
def test_it_is_tried_again_ever_later(failures: int, told: str, wait: timedelta) -> None:
    assert next_try(failures, NOW, told) == NOW + wait


def test_it_is_given_up_in_the_end() -> None:
    assert next_try(len(AGAIN) + 1, NOW) is None
