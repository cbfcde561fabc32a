"""Promise: behind so many proxies nobody is taken for somebody else by what they write into a header."""

import pytest

from dakika_core.values.hops import by_hops


@pytest.mark.parametrize(
    ("told", "forwarded", "hops", "client"),
    [
        ("10.0.0.1", "203.0.113.9", 1, "203.0.113.9"),
        ("10.0.0.1", "6.6.6.6, 203.0.113.9", 1, "203.0.113.9"),
        ("10.0.0.1", "6.6.6.6, 203.0.113.9, 10.0.0.2", 2, "203.0.113.9"),
        ("10.0.0.1", "", 1, "10.0.0.1"),
        ("10.0.0.1", "203.0.113.9", 0, "10.0.0.1"),
        ("10.0.0.1", "nobody, 203.0.113.9", 2, "203.0.113.9"),
        ("10.0.0.1", "<script>", 1, "10.0.0.1"),
        ("::1", "2001:db8::7", 1, "2001:db8::7"),
        ("", "", 1, ""),
    ],
)
def test_whom_the_outermost_proxy_heard(told: str, forwarded: str, hops: int, client: str) -> None:
    assert by_hops(told, forwarded, hops) == client
