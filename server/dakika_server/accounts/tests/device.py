"""A device that keeps passkeys, for tests: what Web Authentication, Level 3, has an authenticator answer (section 6)."""

import base64
import json
from dataclasses import dataclass, field
from hashlib import sha256
from typing import Any

import cbor2
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec

PRESENT, VERIFIED, HAS_CREDENTIAL = 0x01, 0x04, 0x40


def b64(data: bytes) -> str:
    return base64.urlsafe_b64encode(data).rstrip(b"=").decode()


@dataclass
class Device:
    """One key pair (ES256). What a test changes of it, it lies about."""

    origin: str
    party: str
    flags: int = PRESENT | VERIFIED
    count: int = 0
    credential_id: bytes = b"a credential of sixteen+ bytes"
    key: ec.EllipticCurvePrivateKey = field(default_factory=lambda: ec.generate_private_key(ec.SECP256R1()))

    def made(self, options: dict[str, Any]) -> dict[str, Any]:
        """The answer to creation options: attestation "none" (section 8.7)."""
        numbers = self.key.public_key().public_numbers()
        cose = cbor2.dumps({1: 2, 3: -7, -1: 1, -2: numbers.x.to_bytes(32, "big"), -3: numbers.y.to_bytes(32, "big")})
        attested = bytes(16) + len(self.credential_id).to_bytes(2, "big") + self.credential_id + cose
        data = self._data(self.flags | HAS_CREDENTIAL) + attested
        attestation = cbor2.dumps({"fmt": "none", "attStmt": {}, "authData": data})
        client = self._client("webauthn.create", options["challenge"])
        return self._credential({"clientDataJSON": b64(client), "attestationObject": b64(attestation)})

    def signed(self, options: dict[str, Any]) -> dict[str, Any]:
        """The answer to request options (section 6.3.3)."""
        client, data = self._client("webauthn.get", options["challenge"]), self._data(self.flags)
        signature = self.key.sign(data + sha256(client).digest(), ec.ECDSA(hashes.SHA256()))
        return self._credential(
            {"clientDataJSON": b64(client), "authenticatorData": b64(data), "signature": b64(signature)}
        )

    def _data(self, flags: int) -> bytes:
        return sha256(self.party.encode()).digest() + bytes([flags]) + self.count.to_bytes(4, "big")

    def _client(self, kind: str, challenge: str) -> bytes:
        return json.dumps({"type": kind, "challenge": challenge, "origin": self.origin}).encode()

    def _credential(self, response: dict[str, str]) -> dict[str, Any]:
        return {
            "id": b64(self.credential_id), "rawId": b64(self.credential_id), "type": "public-key",
            "response": response, "clientExtensionResults": {},
        }  # fmt: skip
