"""Promise: whose address a request has is said by proxies of ours alone, whatever the client writes before them."""

import pytest
from django.test import RequestFactory

from dakika_server.shared.security import client_address


@pytest.mark.parametrize(
    ("direct", "forwarded", "wanted"),
    [
        ("192.0.2.9", "198.51.100.1", "192.0.2.9"),  # no proxy of ours: its word is not believed
        ("10.0.0.1", "198.51.100.1", "198.51.100.1"),
        ("10.0.0.1", "203.0.113.5, 198.51.100.1", "198.51.100.1"),  # the left one was written by the client
        ("10.0.0.1", "203.0.113.5, 198.51.100.1, 10.0.0.2", "198.51.100.1"),  # two of ours behind one another
        ("10.0.0.1", "10.0.0.7, 10.0.0.2", "10.0.0.7"),
        ("10.0.0.1", "", "10.0.0.1"),
        ("10.0.0.1", "nonsense", "10.0.0.1"),
        ("10.0.0.1", "198.51.100.1, <script>", "10.0.0.1"),
        ("10.0.0.1", "2001:db8::7", "2001:db8::7"),
        ("", "198.51.100.1", ""),  # a socket of the system
    ],
)
def test_the_last_hop_that_is_no_proxy_of_ours(settings: object, direct: str, forwarded: str, wanted: str) -> None:
    settings.TRUSTED_PROXIES = frozenset(["10.0.0.0/24", "::1"])  # type: ignore[attr-defined]
    request = RequestFactory().get("/", REMOTE_ADDR=direct, HTTP_X_FORWARDED_FOR=forwarded)
    assert client_address(request) == wanted


@pytest.mark.parametrize(
    ("hops", "direct", "forwarded", "wanted"),
    [
        (0, "192.0.2.9", "198.51.100.1", "192.0.2.9"),  # nobody stands before us: its word is not believed
        (1, "10.0.0.1", "198.51.100.1", "198.51.100.1"),
        (1, "10.9.9.9", "203.0.113.5, 198.51.100.1", "198.51.100.1"),  # the left one was written by the client
        (2, "10.0.0.1", "203.0.113.5, 198.51.100.1, 10.0.0.2", "198.51.100.1"),
        (2, "10.0.0.1", "198.51.100.1", "198.51.100.1"),  # by fewer than are told: the farthest that is known
        (1, "10.0.0.1", "", "10.0.0.1"),
        (2, "10.0.0.1", "nonsense, 10.0.0.2", "10.0.0.2"),
        (1, "", "2001:db8::7", "2001:db8::7"),  # over a socket of the system
    ],
)
def test_so_many_hops_back_whoever_they_are(
    settings: object, hops: int, direct: str, forwarded: str, wanted: str
) -> None:
    settings.TRUSTED_PROXIES = frozenset()  # type: ignore[attr-defined]
    settings.TRUSTED_HOPS = hops  # type: ignore[attr-defined]
    request = RequestFactory().get("/", REMOTE_ADDR=direct, HTTP_X_FORWARDED_FOR=forwarded)
    assert client_address(request) == wanted
