"""Web Push (RFC 8030, 8291, 8292): a browser's subscription, a message that it alone can read, and who sends it."""

import base64
import binascii
from dataclasses import dataclass
from email.utils import parseaddr
from urllib.parse import urlsplit

from dakika_core.values.addresses import AddressError, clean_destination
from django.conf import settings

from dakika_server.networks.fetcher import Fetched, is_standin, post
from dakika_server.shared import clock

LONGEST_ENDPOINT = 1000


class NoSubscription(ValueError):
    """What was sent is no subscription that could be used."""


@dataclass(frozen=True, kw_only=True)
class Subscription:
    """Where a browser's push service takes messages, and the browser's keys (RFC 8291, 3.2; base64url)."""

    endpoint: str
    p256dh: str
    auth: str


def subscription_of(told: object) -> Subscription:
    """A subscription as a browser tells it (W3C Push API, PushSubscriptionJSON), checked. Raises NoSubscription."""
    if not isinstance(told, dict) or not isinstance(told.get("keys"), dict):
        raise NoSubscription("no subscription")
    endpoint, p256dh, auth = (told.get("endpoint"), told["keys"].get("p256dh"), told["keys"].get("auth"))
    if not (isinstance(endpoint, str) and isinstance(p256dh, str) and isinstance(auth, str)):
        raise NoSubscription("address and keys are texts")
    try:
        clean_destination(endpoint)
    except AddressError as error:
        raise NoSubscription(str(error)) from None
    if len(endpoint) > LONGEST_ENDPOINT or not (endpoint.startswith("https://") or is_standin(endpoint)):
        raise NoSubscription("push services are at https:// addresses")
    if len(p256dh) > 100 or len(auth) > 40 or len(_decoded(auth)) != 16:
        raise NoSubscription("these are no keys")
    from cryptography.hazmat.primitives.asymmetric import ec

    try:
        ec.EllipticCurvePublicKey.from_encoded_point(ec.SECP256R1(), _decoded(p256dh))
    except ValueError:
        raise NoSubscription("the key is no point of the curve") from None
    return Subscription(endpoint=endpoint, p256dh=p256dh, auth=auth)


def _decoded(text: str) -> bytes:
    try:
        return base64.b64decode(text.rstrip("=") + "=" * (-len(text.rstrip("=")) % 4), altchars=b"-_", validate=True)
    except (binascii.Error, ValueError):
        raise NoSubscription("keys are written in base64url") from None


def new_keys() -> tuple[str, str]:
    """A key pair on P-256 with which a sender names itself to push services (RFC 8292, 2): public, private."""
    from cryptography.hazmat.primitives.asymmetric import ec
    from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat

    private = ec.generate_private_key(ec.SECP256R1())
    point = private.public_key().public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
    return as_base64url(point), as_base64url(private.private_numbers().private_value.to_bytes(32, "big"))


def as_base64url(content: bytes) -> str:
    """Without padding, as these standards write keys (RFC 4648, 5)."""
    return base64.urlsafe_b64encode(content).rstrip(b"=").decode()


def sealed_for(to: Subscription, payload: bytes) -> bytes:
    """Encrypted so that this browser alone can read it (RFC 8291, aes128gcm of RFC 8188)."""
    from pywebpush import WebPusher

    pusher = WebPusher({"endpoint": to.endpoint, "keys": {"p256dh": to.p256dh, "auth": to.auth}})
    body: bytes = pusher.encode(payload, "aes128gcm")["body"]
    return body


def headers_for(to: Subscription, private_key: str, *, seconds: int, topic: str) -> dict[str, str]:
    """Who sends (RFC 8292), how long it is kept, and what it takes the place of (RFC 8030, 5.2 to 5.4)."""
    from py_vapid import Vapid02

    parts = urlsplit(to.endpoint)
    claims = {
        "aud": f"{parts.scheme}://{parts.netloc}", "exp": int(clock.now().timestamp()) + 12 * 3600,
        "sub": f"mailto:{parseaddr(settings.DEFAULT_FROM_EMAIL)[1]}",
    }  # fmt: skip
    signed = Vapid02.from_raw(private_key.encode()).sign(claims)
    return {
        "Authorization": signed["Authorization"], "TTL": str(max(0, seconds)), "Content-Encoding": "aes128gcm",
        "Content-Type": "application/octet-stream", "Urgency": "normal", "Topic": topic,
    }  # fmt: skip


def push(to: Subscription, payload: bytes, private_key: str, *, seconds: int, topic: str) -> Fetched:
    """Send a message to a browser. Raises FetchError where its service does not answer."""
    return post(to.endpoint, sealed_for(to, payload), headers_for(to, private_key, seconds=seconds, topic=topic))
