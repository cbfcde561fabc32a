"""Addresses: which may be followed, and how their query strings are put together.

The rules, in order: the destination's own parameters are kept as they stand, to the byte; UTM
parameters are added unless the destination has them; what a visitor's address brought along is
passed on unless the name is taken; our click identifier comes last; the fragment stays at the
end (RFC 3986, section 3).
"""

import re
from collections.abc import Mapping
from urllib.parse import quote, unquote_plus, urlsplit, urlunsplit

CLICK_PARAMETER = "dk"
LONGEST_ADDRESS = 2048
_FORBIDDEN = re.compile(r"[\x00-\x20\x7f<>\"\\^`{|}]")
_HOST = re.compile(r"^(?=.{1,253}$)([a-z0-9_]([a-z0-9_-]{0,61}[a-z0-9_])?\.)*[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$")


class AddressError(ValueError):
    """An address that may not be followed; the text says why."""


def clean_destination(address: str) -> str:
    """An address that a redirect may lead to, trimmed and with its host in ASCII lower case.

    Raises AddressError for anything but absolute http and https addresses without credentials.
    """
    address = address.strip()
    if not address:
        raise AddressError("Give the address that the link leads to.")
    if len(address) > LONGEST_ADDRESS:
        raise AddressError(f"The address is longer than {LONGEST_ADDRESS} characters.")
    if _FORBIDDEN.search(address):
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
    netloc = host if port is None else f"{host}:{port}"
    path = quote(parts.path, safe="/%:@!$&'()*+,;=-._~") or "/"
    query = quote(parts.query, safe="/%:@!$&'()*+,;=-._~?[]")
    fragment = quote(parts.fragment, safe="/%:@!$&'()*+,;=-._~?[]")
    return urlunsplit((parts.scheme, netloc, path, query, fragment))


def _ascii_host(host: str) -> str:
    if ":" in host:
        return f"[{host}]"
    try:
        ascii_host = host.encode("idna").decode("ascii").lower() if host else ""
    except UnicodeError:
        ascii_host = ""
    if not _HOST.match(ascii_host):
        raise AddressError("The address has no valid host name.")
    return ascii_host


def names_in(query: str) -> set[str]:
    """Names of the parameters of a query string, decoded."""
    return {unquote_plus(part.partition("=")[0]) for part in query.split("&") if part}


def with_parameters(address: str, parameters: Mapping[str, str]) -> str:
    """The address with parameters added whose names it does not have yet; empty values are left out."""
    scheme, netloc, path, query, fragment = urlsplit(address)
    taken = names_in(query)
    added = [
        f"{quote(name, safe='')}={quote(value, safe='')}"
        for name, value in parameters.items()
        if value and name not in taken
    ]
    return urlunsplit((scheme, netloc, path, "&".join(filter(None, [query, *added])), fragment))


def redirect_target(stored: str, incoming_query: str, click_id: str) -> str:
    """Where a click is sent: the stored address, what the visitor brought along, the click's identifier."""
    scheme, netloc, path, query, fragment = urlsplit(stored)
    taken = names_in(query) | {CLICK_PARAMETER}
    passed = [
        part
        for part in incoming_query.split("&")
        if part and unquote_plus(part.partition("=")[0]) not in taken and not _FORBIDDEN.search(part)
    ]
    mine = f"{CLICK_PARAMETER}={quote(click_id, safe='')}"
    kept = [part for part in query.split("&") if part and unquote_plus(part.partition("=")[0]) != CLICK_PARAMETER]
    return urlunsplit((scheme, netloc, path, "&".join([*kept, *passed, mine]), fragment))
