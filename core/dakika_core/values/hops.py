"""Whom a request comes from, where it is known through how many proxies it came.

In the trade's words: trusted proxies, X-Forwarded-For, client IP.
"""

from ipaddress import ip_address


def by_hops(told: str, forwarded: str, hops: int) -> str:
    """The address that the outermost of so many proxies heard.

    told: who is connected to us. forwarded: X-Forwarded-For as it arrived; each proxy adds at the right whom it
    heard. Who came by fewer is taken for the farthest that is known; what is no address is not believed.
    """
    way = [told, *(hop.strip() for hop in reversed(forwarded.split(",")) if hop.strip())][: hops + 1]
    known = [hop for hop in way if is_address(hop)]
    return known[-1] if known else told


def is_address(text: str) -> bool:
    """Whether a text is an IPv4 or IPv6 address."""
    try:
        ip_address(text)
    except ValueError:
        return False
    return True
