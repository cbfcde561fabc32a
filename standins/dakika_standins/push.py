"""A push service (RFC 8030) and its browsers: takes messages for browsers that subscribed, opens them, shows them.

It decrypts with code of its own, after RFC 8291 and RFC 8188, so that whoever sends is held against the standards and
not against the package it sends with; and it checks who sends (RFC 8292).
"""

import base64
import json
import os
from typing import Any

from cryptography.exceptions import InvalidSignature, InvalidTag
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.asymmetric.utils import encode_dss_signature
from cryptography.hazmat.primitives.ciphers.aead import AESGCM
from cryptography.hazmat.primitives.kdf.hkdf import HKDF
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat
from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.http import state_of
from dakika_standins.state import State

MOST_BYTES = 4096
LONGEST_CLAIM_SECONDS = 24 * 3600


class Unreadable(Exception):
    """What came cannot be opened; the text says why."""


def subscribe(state: State, base: str, count: int) -> list[dict[str, Any]]:
    """So many new browsers; what each hands to whoever wants to send (W3C Push API, PushSubscriptionJSON)."""
    found = []
    for _ in range(count):
        private = ec.generate_private_key(ec.SECP256R1())
        auth, name = os.urandom(16), os.urandom(12).hex()
        state.data["browsers"][name] = {
            "private": private.private_numbers().private_value, "auth": _text(auth), "gone": False, "shown": {},
        }  # fmt: skip
        point = private.public_key().public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
        found.append({"endpoint": f"{base}/push/to/{name}", "keys": {"p256dh": _text(point), "auth": _text(auth)}})
    state.save()
    return found


async def take(request: Request) -> Response:
    """Take a message for a browser: 201 (RFC 8030, 5), or what is wrong with it."""
    state = state_of(request)
    if state.fault("push", "error500"):
        return Response(status_code=500)
    if state.fault("push", "too_many"):
        return Response(status_code=429, headers={"Retry-After": "90"})
    browser = state.data["browsers"].get(request.path_params["name"])
    if browser is None or browser["gone"]:
        return Response(status_code=410)
    if not request.headers.get("ttl", "").isdigit():
        return Response("a TTL is due (5.2)", status_code=400)
    topic = request.headers.get("topic", "")
    if len(topic) > 32:
        return Response("a topic has at most 32 characters (5.4)", status_code=400)
    body = await request.body()
    if len(body) > MOST_BYTES:
        return Response(status_code=413)
    wrong = _who(request, state.now().timestamp())
    if wrong:
        return Response(wrong, status_code=403)
    try:
        if request.headers.get("content-encoding") != "aes128gcm":
            raise Unreadable("the coding is aes128gcm (RFC 8291, 4)")
        told = json.loads(opened(body, int(browser["private"]), _bytes(browser["auth"])))
    except (Unreadable, ValueError) as error:
        return Response(str(error), status_code=400)
    # What has the same tag takes the place of what is shown.
    browser["shown"].setdefault(told["tag"], {**told, "times": 0, "at": state.now().isoformat()})["times"] += 1
    state.save()
    if state.fault("push", "lost_answer"):
        return Response(status_code=502)
    return Response(status_code=201, headers={"Location": f"/push/message/{told.get('token', told['tag'])}"})


def opened(body: bytes, private_value: int, auth: bytes) -> bytes:
    """The words of an encrypted message (RFC 8291, 3.4; one record of RFC 8188, 2). Raises Unreadable."""
    if len(body) < 21 + 65:
        raise Unreadable("the header is cut short")
    salt, record, length = body[:16], int.from_bytes(body[16:20], "big"), body[20]
    sender_point, sealed = body[21 : 21 + length], body[21 + length :]
    if length != 65 or record < 18 or len(sealed) > record:
        raise Unreadable("the header is none of one record")
    private = ec.derive_private_key(private_value, ec.SECP256R1())
    try:
        sender = ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), sender_point)
    except ValueError:
        raise Unreadable("the sender's key is no point") from None
    mine = private.public_key().public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
    secret = _hkdf(auth, b"WebPush: info\x00" + mine + sender_point, 32, private.exchange(ec.ECDH(), sender))
    key = _hkdf(salt, b"Content-Encoding: aes128gcm\x00", 16, secret)
    nonce = _hkdf(salt, b"Content-Encoding: nonce\x00", 12, secret)
    try:
        padded = AESGCM(key).decrypt(nonce, sealed, None)
    except InvalidTag:
        raise Unreadable("it was not encrypted for this browser") from None
    words, mark, padding = padded.rpartition(b"\x02")
    if not mark or padding.strip(b"\x00"):
        raise Unreadable("the last record ends with 2")
    return words


def _hkdf(salt: bytes, info: bytes, length: int, secret: bytes) -> bytes:
    return HKDF(algorithm=hashes.SHA256(), length=length, salt=salt, info=info).derive(secret)


def _who(request: Request, now: float) -> str:
    """What is wrong with who it says it is from (RFC 8292, 2 and 3); nothing where all is well."""
    scheme, _, told = request.headers.get("authorization", "").partition(" ")
    parts = dict(part.strip().partition("=")[::2] for part in told.split(","))
    if scheme.lower() != "vapid" or not {"t", "k"} <= set(parts):
        return "who sends is not told"
    try:
        signed, _, signature = parts["t"].rpartition(".")
        claims = json.loads(_bytes(signed.split(".")[1]))
        raw = _bytes(signature)
        key = ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), _bytes(parts["k"]))
        pair = encode_dss_signature(int.from_bytes(raw[:32], "big"), int.from_bytes(raw[32:], "big"))
        key.verify(pair, signed.encode(), ec.ECDSA(hashes.SHA256()))
    except (ValueError, IndexError, InvalidSignature):
        return "the signature does not hold"
    if claims.get("aud") != str(request.base_url).rstrip("/"):
        return "it is meant for another service"
    return "" if now < float(claims.get("exp", 0)) <= now + LONGEST_CLAIM_SECONDS else "the claim is over or too long"


def _text(content: bytes) -> str:
    return base64.urlsafe_b64encode(content).rstrip(b"=").decode()


def _bytes(text: str) -> bytes:
    return base64.urlsafe_b64decode(text + "=" * (-len(text) % 4))


async def browsers(request: Request) -> Response:
    """The hand on browsers: {"subscribe": 3} makes some, {"leave": 2} has the first so many gone; GET tells of all."""
    state = state_of(request)
    if request.method == "POST":
        told = await request.json()
        for name in list(state.data["browsers"])[: int(told.get("leave", 0))]:
            state.data["browsers"][name]["gone"] = True
        state.save()
        return JSONResponse(
            subscribe(state, str(request.base_url).rstrip("/"), min(1000, int(told.get("subscribe", 0))))
        )
    return JSONResponse(
        [{"gone": one["gone"], "shown": list(one["shown"].values())} for one in state.data["browsers"].values()]
    )


def push_routes() -> list[Route]:
    """The service, and the hand on its browsers."""
    return [
        Route("/push/to/{name}", take, methods=["POST"]),
        Route("/control/browsers", browsers, methods=["GET", "POST"]),
    ]
