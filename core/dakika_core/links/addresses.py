"""The query strings of tracked addresses: how they are put together.

The rules, in order: the destination's own parameters are kept as they stand, to the byte; UTM
parameters are added unless the destination has them; what a visitor's address brought along is
passed on unless the name is taken; our click identifier comes last; the fragment stays at the
end (RFC 3986, section 3).
"""

import re
from collections.abc import Mapping
from urllib.parse import quote, unquote_plus, urlsplit, urlunsplit

from dakika_core.values.addresses import FORBIDDEN, AddressError, clean_destination

__all__ = [
    "CLICK_PARAMETER",
    "AddressError",
    "clean_destination",
    "name_of_address",
    "names_in",
    "redirect_target",
    "with_parameters",
]

CLICK_PARAMETER = "dk"
PAGE_ENDINGS = {"html", "htm", "php", "asp", "aspx", "jsp"}


def names_in(query: str) -> set[str]:
    """Names of the parameters of a query string, decoded."""
    return {unquote_plus(part.partition("=")[0]) for part in query.split("&") if part}


def name_of_address(address: str) -> str:
    """A name for the page at an address that nobody has named: the words of its last part, else its host.

    "https://orrery.example/visit/night-openings?x=1" is "Night openings". At most 80 letters.
    """
    _, netloc, path, _, _ = urlsplit(address)
    host = netloc.rpartition("@")[2].partition(":")[0].removeprefix("www.")
    last = next((part for part in reversed(path.split("/")) if part), "")
    stem, dot, ending = last.rpartition(".")
    told = unquote_plus(stem if dot and ending in PAGE_ENDINGS else last)
    words = " ".join(re.split(r"[-_+\s]+", told)).strip()
    if not any(letter.isalpha() for letter in words):
        return " ".join(filter(None, [host, words]))[:80]
    return (words[:1].upper() + words[1:])[:80]


def with_parameters(address: str, parameters: Mapping[str, str], *, is_replacing: bool = False) -> str:
    """The address with parameters added whose names it does not have yet; empty values are left out.

    `is_replacing` lets ours win: theirs of the same name are taken out, the others stay to the byte.
    """
    scheme, netloc, path, query, fragment = urlsplit(address)
    if is_replacing:
        ours = {name for name, value in parameters.items() if value}
        query = "&".join(p for p in query.split("&") if p and unquote_plus(p.partition("=")[0]) not in ours)
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
        if part and unquote_plus(part.partition("=")[0]) not in taken and not FORBIDDEN.search(part)
    ]
    mine = f"{CLICK_PARAMETER}={quote(click_id, safe='')}"
    kept = [part for part in query.split("&") if part and unquote_plus(part.partition("=")[0]) != CLICK_PARAMETER]
    return urlunsplit((scheme, netloc, path, "&".join([*kept, *passed, mine]), fragment))
