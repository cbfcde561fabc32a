"""Signed requests: HTTP Message Signatures (RFC 9421) by HMAC-SHA256 over what is sent, and its digest (RFC 9530).

Whoever gets a request rebuilds the signature base from the request itself and the Signature-Input field, and compares.
"""

import hashlib
import hmac
from base64 import b64encode
from collections.abc import Mapping, Sequence

# What is signed: that it is this request, to this address, with this content.
COVERED = ("@method", "@target-uri", "content-type", "content-digest")
ALGORITHM = "hmac-sha256"


def content_digest(body: bytes) -> str:
    """The field Content-Digest of a body (RFC 9530, 2)."""
    return f"sha-256=:{_base64(hashlib.sha256(body).digest())}:"


def key_id(secret: str) -> str:
    """By what a secret is named without being told: the first twelve digits of its SHA-256."""
    return hashlib.sha256(secret.encode()).hexdigest()[:12]


def signature_base(components: Mapping[str, str], params: str) -> str:
    """What is signed (RFC 9421, 2.5): a line a component, in order, and the parameters last."""
    lines = [f'"{name}": {value}' for name, value in components.items()]
    return "\n".join([*lines, f'"@signature-params": {params}'])


def signature(secret: bytes, base: str) -> str:
    """HMAC-SHA256 of a signature base, in Base64 (RFC 9421, 3.3.3)."""
    return _base64(hmac.new(secret, base.encode(), hashlib.sha256).digest())


def signed_headers(
    secrets: Sequence[str], *, address: str, body: bytes, created: int, content_type: str = "application/json"
) -> dict[str, str]:
    """The fields with which a POST is sent. created: seconds of the epoch.

    Each of the secrets signs, under a label of its own, so that a new one can come in while the old one is still known.
    """
    digest = content_digest(body)
    components = dict(zip(COVERED, ("POST", address, content_type, digest), strict=True))
    covered = " ".join(f'"{name}"' for name in COVERED)
    inputs, signatures = [], []
    for number, secret in enumerate(secrets, 1):
        params = f'({covered});created={created};keyid="{key_id(secret)}";alg="{ALGORITHM}"'
        inputs.append(f"sig{number}={params}")
        signatures.append(f"sig{number}=:{signature(secret.encode(), signature_base(components, params))}:")
    return {
        "Content-Type": content_type, "Content-Digest": digest,
        "Signature-Input": ", ".join(inputs), "Signature": ", ".join(signatures),
    }  # fmt: skip


def _base64(content: bytes) -> str:
    return b64encode(content).decode()
