"""The one way to fetch a page, a feed or a document of an open standard from anywhere: guarded.

Private, loopback and other special addresses are refused, the configured stand-ins excepted. The
address that was checked is the one that is called (no second look-up), on every redirect anew.
Size, time and the number of redirects are bounded.
"""

import ipaddress
import socket
import time
from dataclasses import dataclass
from urllib.parse import SplitResult, urlsplit, urlunsplit

import httpx
from dakika_core.values.addresses import AddressError, clean_destination, resolve
from django.conf import settings

LARGEST_BYTES = 5 * 1024 * 1024
LONGEST_SECONDS = 15.0
MOST_REDIRECTS = 5
AGENT = "Dakika/1.0 (collects public pages and feeds that its users follow)"


class FetchError(Exception):
    """The page could not be had; the text says why, for people."""


@dataclass(frozen=True, kw_only=True)
class Fetched:
    """What came: status (304 where nothing changed), the final address, the content, headers in lower case."""

    status: int
    address: str
    content: bytes
    headers: dict[str, str]

    @property
    def text(self) -> str:
        """The content as text, in the encoding that the header names, else UTF-8 with what cannot be read replaced."""
        kind = self.headers.get("content-type", "")
        charset = kind.partition("charset=")[2].strip("\"' ;").lower() or "utf-8"
        try:
            return self.content.decode(charset, errors="replace")
        except LookupError:
            return self.content.decode("utf-8", errors="replace")


def fetch(
    address: str, *, accept: str = "*/*", headers: dict[str, str] | None = None, most_bytes: int = LARGEST_BYTES,
    seen: list[tuple[int, str]] | None = None,
) -> Fetched:  # fmt: skip
    """Fetch an http(s) address. `seen` is told each step on the way: status and address.

    Raises FetchError for addresses that may not be called, for what is too large or too slow, for
    redirects without end, and for any status but 2xx and 304.
    """
    until = time.monotonic() + LONGEST_SECONDS
    for _ in range(MOST_REDIRECTS + 1):
        try:
            address = clean_destination(address)
        except AddressError as error:
            raise FetchError(str(error)) from None
        answer = _once(address, {"Accept": accept, "User-Agent": AGENT, **(headers or {})}, most_bytes, until)
        if seen is not None:
            seen.append((answer.status, address))
        if answer.status not in (301, 302, 303, 307, 308):
            if answer.status != 304 and not 200 <= answer.status < 300:
                raise FetchError(f"{urlsplit(address).hostname} answers with status {answer.status}.")
            return answer
        address = resolve(address, answer.headers.get("location", ""))
    raise FetchError(f"The page leads on and on ({MOST_REDIRECTS} redirects and more).")


def _once(address: str, headers: dict[str, str], most_bytes: int, until: float) -> Fetched:
    parts = urlsplit(address)
    host = parts.hostname or ""
    numeric = checked_address(parts)
    netloc = f"[{numeric}]" if ":" in numeric else numeric
    target = urlunsplit(parts._replace(netloc=f"{netloc}:{parts.port}" if parts.port else netloc, fragment=""))
    sent = {**headers, "Host": parts.netloc}
    try:
        with (
            httpx.Client(timeout=max(0.5, until - time.monotonic()), follow_redirects=False) as client,
            client.stream("GET", target, headers=sent, extensions={"sni_hostname": host}) as response,
        ):
            content = bytearray()
            for chunk in response.iter_bytes(65536):
                content += chunk
                if len(content) > most_bytes:
                    raise FetchError(f"{host} sends more than {most_bytes // 1024 // 1024} MB.")
                if time.monotonic() > until:
                    raise FetchError(f"{host} takes longer than {LONGEST_SECONDS:.0f} seconds.")
            found = {name.lower(): value for name, value in response.headers.items()}
            return Fetched(status=response.status_code, address=address, content=bytes(content), headers=found)
    except httpx.TimeoutException:
        raise FetchError(f"{host} takes longer than {LONGEST_SECONDS:.0f} seconds.") from None
    except httpx.HTTPError:
        raise FetchError(f"{host} cannot be reached.") from None


def checked_address(parts: SplitResult) -> str:
    """The numeric address to call for a host. Raises FetchError when any of its addresses is not a public one."""
    host, port = parts.hostname or "", parts.port or (443 if parts.scheme == "https" else 80)
    standins = urlsplit(settings.STANDINS_ADDRESS)
    if (host, parts.port) == (standins.hostname, standins.port):
        return host if host[:1].isdigit() else "127.0.0.1"
    try:
        found = {str(entry[4][0]) for entry in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)}
    except OSError:
        raise FetchError(f"There is no server called {host}.") from None
    for numeric in found:
        if not is_public(numeric):
            raise FetchError(f"{host} leads to an internal address, which is never called.")
    return sorted(found)[0]


def is_public(numeric: str) -> bool:
    """Whether an address is one of the public internet. IPv4 inside IPv6 is looked at as what it is."""
    address = ipaddress.ip_address(numeric.partition("%")[0])
    if isinstance(address, ipaddress.IPv6Address):
        inner = address.ipv4_mapped or address.sixtofour or (address.teredo or (None, None))[1]
        if inner is not None and not is_public(str(inner)):
            return False
        if address in ipaddress.ip_network("64:ff9b::/96"):
            return is_public(str(ipaddress.IPv4Address(int(address) & 0xFFFFFFFF)))
    return address.is_global and not address.is_multicast
