"""Who clicked, without knowing who: a keyed hash whose key is thrown away daily.

In the trade's words: pseudonymisation, salted hash, unique visitors.
"""

import hmac


def visitor_hash(address: str, agent: str, salt: bytes) -> bytes:
    """16 bytes that stay the same for one address and agent while the salt lives (HMAC, RFC 2104).

    Raises ValueError for a salt shorter than 16 bytes.
    """
    if len(salt) < 16:
        raise ValueError("a salt has at least 16 bytes")
    return hmac.digest(salt, f"{address}\n{agent}".encode(errors="replace"), "sha256")[:16]
