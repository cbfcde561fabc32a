"""The one way to fetch a page, a feed or a document of an open standard from anywhere, or to send to one: guarded.

Private, loopback and other special addresses are refused, the configured stand-ins excepted. The
address that was checked is the one that is called (no second look-up), on every redirect anew.
Size, time and the number of redirects are bounded.

In the trade's words: SSRF protection, DNS rebinding, timeout.
"""

import ipaddress
import socket
import threading
import time
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from typing import Any
from urllib.parse import SplitResult, urlsplit, urlunsplit

import httpx
from dakika_core.values.addresses import AddressError, clean_destination, resolve
from django.conf import settings

from dakika_server.networks.trusted import trusted

LARGEST_BYTES = 5 * 1024 * 1024
LARGEST_ANSWER = 64 * 1024
LONGEST_SECONDS = 15.0
MOST_REDIRECTS = 5
LONGEST_WAIT_SECONDS = 3.0
_PLACES_FOR_PEOPLE = threading.BoundedSemaphore(2)
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


@contextmanager
def place_for_people() -> Iterator[None]:
    """A place among the few calls that people wait for: a slow server elsewhere never takes all threads of the web.

    Raises FetchError when all are taken for as long as one would wait.
    """
    if not _PLACES_FOR_PEOPLE.acquire(timeout=LONGEST_WAIT_SECONDS):
        raise FetchError("Other pages are being looked at just now. Try again in a minute.")
    try:
        yield
    finally:
        _PLACES_FOR_PEOPLE.release()


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
        try:
            address = resolve(address, answer.headers.get("location", ""))
        except (AddressError, ValueError):
            raise FetchError(f"{urlsplit(address).hostname} leads on to what is no web address.") from None
    raise FetchError(f"The page leads on and on ({MOST_REDIRECTS} redirects and more).")


def post(address: str, content: bytes, headers: dict[str, str]) -> Fetched:
    """Send to an https address that somebody gave us (or to the stand-ins), with the same guards as fetching.

    Redirects are not followed. Whatever the status is, it is the caller's to read. Raises FetchError for addresses
    that may not be called and where no answer came in time.
    """
    try:
        address = clean_destination(address)
        secure = urlsplit(address).scheme == "https" or is_standin(address)
    except (AddressError, ValueError) as error:
        raise FetchError(str(error)) from None
    if not secure:
        raise FetchError("Only addresses that begin with https:// are sent to.")
    sent = {"User-Agent": AGENT, **headers}
    return _once(address, sent, LARGEST_ANSWER, time.monotonic() + LONGEST_SECONDS, content)


def is_standin(address: str) -> bool:
    """Whether an address is one of the configured stand-ins."""
    parts, standins = urlsplit(address), urlsplit(settings.STANDINS_ADDRESS)
    return bool(standins.hostname) and (parts.hostname, parts.port) == (standins.hostname, standins.port)


def _once(
    address: str, headers: dict[str, str], most_bytes: int, until: float, sending: bytes | None = None
) -> Fetched:
    """One call: GET, or POST where there is something to send."""
    parts = urlsplit(address)
    host = parts.hostname or ""
    numeric = checked_address(parts)
    netloc = f"[{numeric}]" if ":" in numeric else numeric
    target = urlunsplit(parts._replace(netloc=f"{netloc}:{parts.port}" if parts.port else netloc, fragment=""))
    sent = {**headers, "Host": parts.netloc, "Accept-Encoding": "gzip"}
    too_slow = FetchError(f"{host} takes longer than {LONGEST_SECONDS:.0f} seconds.")
    with _Deadline(until) as deadline:
        try:
            with (
                httpx.Client(
                    timeout=max(0.5, until - time.monotonic()), follow_redirects=False, verify=trusted()
                ) as client,
                client.stream(
                    "GET" if sending is None else "POST",
                    target,
                    headers=sent,
                    content=sending,
                    extensions={"sni_hostname": host, "trace": deadline.watch},
                ) as response,
            ):
                unpack = _unpacker(response.headers.get("content-encoding", ""), host)
                content = bytearray()
                for chunk in response.iter_raw():
                    content += unpack(chunk, most_bytes + 1 - len(content))
                    if len(content) > most_bytes:
                        raise FetchError(f"{host} sends more than {most_bytes // 1024 // 1024} MB.")
                    if time.monotonic() > until:
                        raise too_slow
                if deadline.met:
                    # Without a length told, a shut socket looks like the end: half a page is none.
                    raise too_slow
                found = {name.lower(): value for name, value in response.headers.items()}
                return Fetched(status=response.status_code, address=address, content=bytes(content), headers=found)
        except httpx.TimeoutException:
            raise too_slow from None
        except httpx.InvalidURL:
            # The client reads the place a redirect names even where it does not follow it.
            raise FetchError(f"{host} sends on to something that is no web address.") from None
        except httpx.HTTPError:
            raise (too_slow if deadline.met else FetchError(f"{host} cannot be reached.")) from None
        except zlib.error:
            raise FetchError(f"{host} sends packed content that is broken.") from None


class _Deadline:
    """Ends a call at an instant, however slowly the other side sends: the socket is shut from outside.

    A timeout of the client is one of single reads: a byte a second would never meet it.
    """

    def __init__(self, until: float) -> None:
        self.met = False
        self._sockets: list[socket.socket] = []
        self._timer = threading.Timer(max(0.1, until - time.monotonic()), self._shut)
        self._timer.daemon = True

    def __enter__(self) -> "_Deadline":
        self._timer.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._timer.cancel()

    def watch(self, event: str, info: dict[str, Any]) -> None:
        """Told by the client of each step; a new connection's socket is noted."""
        if event in ("connection.connect_tcp.complete", "connection.start_tls.complete"):
            found = info["return_value"].get_extra_info("socket")
            if found is not None:
                self._sockets.append(found)

    def _shut(self) -> None:
        self.met = True
        for one in self._sockets:
            with suppress(OSError):
                one.shutdown(socket.SHUT_RDWR)


def _unpacker(coding: str, host: str) -> Callable[[bytes, int], bytes]:
    """What undoes a content coding, never giving more than is asked for. Stacked and unknown codings are refused."""
    name = coding.strip().lower()
    if name in ("", "identity"):
        return lambda chunk, most: chunk[: max(0, most)]
    if name not in ("gzip", "x-gzip", "deflate"):
        raise FetchError(f"{host} sends content that is packed in a way that is not read.")
    # 32 more than the largest window: the header tells whether it is gzip or zlib (zlib's manual, inflateInit2).
    inflate = zlib.decompressobj(wbits=zlib.MAX_WBITS | 32)

    def unpack(chunk: bytes, most: int) -> bytes:
        return inflate.decompress(chunk, max(1, most)) if not inflate.eof else b""

    return unpack


def checked_address(parts: SplitResult) -> str:
    """The numeric address to call for a host. Raises FetchError when any of its addresses is not a public one."""
    host, port = parts.hostname or "", parts.port or (443 if parts.scheme == "https" else 80)
    if is_standin(parts.geturl()):
        return host if host[:1].isdigit() else "127.0.0.1"
    try:
        found = {str(entry[4][0]) for entry in socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)}
    except OSError:
        raise FetchError(f"There is no server called {host}.") from None
    for numeric in found:
        if not is_public(numeric):
            raise FetchError(f"{host} leads to an internal address, which is never called.")
    return sorted(found)[0]


# Not told by the library, and nobody's public address: IPv4-compatible (RFC 4291, 2.5.5.1), local translation
# (RFC 8215), site-local (RFC 3879).
_INSIDE = [ipaddress.ip_network(text) for text in ("::/96", "64:ff9b:1::/48", "fec0::/10")]


def is_public(numeric: str) -> bool:
    """Whether an address is one of the public internet. IPv4 inside IPv6 is looked at as what it is."""
    address = ipaddress.ip_address(numeric.partition("%")[0])
    if any(address in network for network in _INSIDE if network.version == address.version):
        return False
    if isinstance(address, ipaddress.IPv6Address):
        inner = address.ipv4_mapped or address.sixtofour or (address.teredo or (None, None))[1]
        if inner is not None and not is_public(str(inner)):
            return False
        if address in ipaddress.ip_network("64:ff9b::/96"):
            return is_public(str(ipaddress.IPv4Address(int(address) & 0xFFFFFFFF)))
    return address.is_global and not address.is_multicast
