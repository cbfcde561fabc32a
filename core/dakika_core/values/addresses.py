"""Web addresses: which may be called, in which one form, and what a reference on a page means."""

import ipaddress
import re
from urllib.parse import quote, urljoin, urlsplit, urlunsplit

import idna

LONGEST_ADDRESS = 2048
FORBIDDEN = re.compile(r"[\x00-\x20\x7f<>\"\\^`{|}]")
_NUMERIC = re.compile(r"^([0-9]+|0x[0-9a-f]*)$")
_DOT = re.compile(r"%2e", re.IGNORECASE)
_DEFAULT_PORTS = {"http": 80, "https": 443}
_HOST = re.compile(r"^(?=.{1,253}$)([a-z0-9_]([a-z0-9_-]{0,61}[a-z0-9_])?\.)*[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$")


class AddressError(ValueError):
    """An address that may not be followed; the text says why."""


def clean_destination(address: str) -> str:
    """An address that a redirect may lead to, normalised (RFC 3986, 6.2: case, dot segments, default port).

    Internationalised hosts become ASCII by UTS #46. Raises AddressError for anything but absolute
    http and https addresses without credentials, and for hosts that only some programs would read
    as an IP address: what is checked must be what is called.
    """
    address = address.strip()
    if not address:
        raise AddressError("Give the address that the link leads to.")
    if len(address) > LONGEST_ADDRESS:
        raise AddressError(f"The address is longer than {LONGEST_ADDRESS} characters.")
    if FORBIDDEN.search(address):
        raise AddressError("The address holds a space or a character that must be percent-encoded.")
    if address.startswith("//") or "://" not in address:
        raise AddressError("The address must begin with https:// or http://.")
    try:
        parts = urlsplit(address)
        port = parts.port
    except ValueError:
        raise AddressError("This is not a valid web address.") from None
    if parts.scheme not in ("http", "https"):
        raise AddressError("Only http and https addresses can be followed.")
    if parts.username is not None or parts.password is not None:
        raise AddressError("The address holds a user name or password. Take it out.")
    host = _ascii_host(parts.hostname or "")
    netloc = host if port in (None, _DEFAULT_PORTS[parts.scheme]) else f"{host}:{port}"
    path = without_dot_segments(quote(parts.path, safe="/%:@!$&'()*+,;=-._~") or "/")
    query = quote(parts.query, safe="/%:@!$&'()*+,;=-._~?[]")
    fragment = quote(parts.fragment, safe="/%:@!$&'()*+,;=-._~?[]")
    return urlunsplit((parts.scheme, netloc, path, query, fragment))


def without_dot_segments(path: str) -> str:
    """A path without its . and .. segments, percent-encoded dots included (RFC 3986, 5.2.4)."""
    kept: list[str] = []
    segments = path.split("/")
    for i, segment in enumerate(segments):
        plain = _DOT.sub(".", segment)
        is_last = i == len(segments) - 1
        if plain == "..":
            if len(kept) > 1:
                kept.pop()
            if is_last:
                kept.append("")
        elif plain == ".":
            if is_last:
                kept.append("")
        else:
            kept.append(segment)
    return "/".join(kept) if len(kept) > 1 else "/"


def resolve(base: str, reference: str) -> str:
    """The address that a reference found at `base` means (RFC 3986, 5.2, strict)."""
    parts = urlsplit(reference)
    if parts.scheme:
        # The standard library still merges "http:g" into the base, which the standard gave up.
        netloc = f"//{parts.netloc}" if parts.netloc else ""
        path = without_dot_segments(parts.path) if parts.path.startswith("/") else parts.path
        rest = reference.partition(":")[2].removeprefix(netloc)[len(parts.path) :]
        return f"{parts.scheme}:{netloc}{path}{rest}"
    return urljoin(base, reference)


def _ascii_host(host: str) -> str:
    try:
        if ":" in host:
            return f"[{ipaddress.IPv6Address(host)}]"
        ascii_host = _ascii_name(host)
        if _NUMERIC.match(ascii_host.rstrip(".").rpartition(".")[2]):
            return str(ipaddress.IPv4Address(ascii_host))
    except ValueError:
        raise AddressError("The address has no valid host name.") from None
    if not _HOST.match(ascii_host):
        raise AddressError("The address has no valid host name.")
    return ascii_host


def _ascii_name(host: str) -> str:
    """Labels in ASCII; ValueError for what is no name in any script (idna.IDNAError is one)."""
    mapped = idna.uts46_remap(host, std3_rules=False, transitional=False)
    labels = [
        idna.alabel(label).decode() if not label.isascii() or label.startswith("xn--") else label
        for label in mapped.split(".")
    ]
    return ".".join(labels)
