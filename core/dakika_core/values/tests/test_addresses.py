"""Promise: an address means here what the standards say, and what is checked is what is called."""

import json
from pathlib import Path
from urllib.parse import urlsplit

import pytest

from dakika_core.values.addresses import AddressError, clean_destination, resolve

# The test data of the URL standard (WHATWG) as Debian's librust-url-dev ships them.
STANDARD = next(Path("/usr/share/cargo/registry").glob("url-*/tests/urltestdata.json"))

# RFC 3986, sections 5.4.1 and 5.4.2: what a reference means at http://a/b/c/d;p?q.
REFERENCES = {
    "g:h": "g:h", "g": "http://a/b/c/g", "./g": "http://a/b/c/g", "g/": "http://a/b/c/g/", "/g": "http://a/g",
    "//g": "http://g", "?y": "http://a/b/c/d;p?y", "g?y": "http://a/b/c/g?y", "#s": "http://a/b/c/d;p?q#s",
    "g#s": "http://a/b/c/g#s", "g?y#s": "http://a/b/c/g?y#s", ";x": "http://a/b/c/;x", "g;x": "http://a/b/c/g;x",
    "g;x?y#s": "http://a/b/c/g;x?y#s", "": "http://a/b/c/d;p?q", ".": "http://a/b/c/", "./": "http://a/b/c/",
    "..": "http://a/b/", "../": "http://a/b/", "../g": "http://a/b/g", "../..": "http://a/", "../../": "http://a/",
    "../../g": "http://a/g", "../../../g": "http://a/g", "../../../../g": "http://a/g", "/./g": "http://a/g",
    "/../g": "http://a/g", "g.": "http://a/b/c/g.", ".g": "http://a/b/c/.g", "g..": "http://a/b/c/g..",
    "..g": "http://a/b/c/..g", "./../g": "http://a/b/g", "./g/.": "http://a/b/c/g/", "g/./h": "http://a/b/c/g/h",
    "g/../h": "http://a/b/c/h", "g;x=1/./y": "http://a/b/c/g;x=1/y", "g;x=1/../y": "http://a/b/c/y",
    "g?y/./x": "http://a/b/c/g?y/./x", "g?y/../x": "http://a/b/c/g?y/../x", "g#s/./x": "http://a/b/c/g#s/./x",
    "g#s/../x": "http://a/b/c/g#s/../x", "http:g": "http:g",
}  # fmt: skip


@pytest.mark.parametrize("reference", REFERENCES)
def test_references_resolve_as_rfc_3986_has_it(reference: str) -> None:
    assert resolve("http://a/b/c/d;p?q", reference) == REFERENCES[reference]


def same_for_a_server(ours: str, theirs: str) -> bool:
    """Whether two addresses call the same thing: what is known to differ is an empty fragment, a # inside one, and %27."""

    def plain(address: str) -> str:
        parts = urlsplit(address)
        return parts._replace(query=parts.query.replace("%27", "'"), fragment="").geturl()

    return plain(ours) == plain(theirs)


def test_the_url_standards_own_cases_are_read_alike_or_refused() -> None:
    read = 0
    for case in json.loads(STANDARD.read_text()):
        if not isinstance(case, dict):
            continue
        try:
            ours = clean_destination(case["input"])
        except AddressError:
            continue
        assert not case.get("failure"), f"{case['input']!r} is no address, and was taken for {ours}"
        assert same_for_a_server(ours, case["href"]), case["input"]
        read += 1
    assert read > 70


@pytest.mark.parametrize(
    "address", ["http://0x7f.1/", "http://2130706433/", "http://127.1/", "http://0177.0.0.1/", "http://１２７.1/"]
)
def test_hosts_that_some_would_read_as_a_private_address_are_refused(address: str) -> None:
    with pytest.raises(AddressError):
        clean_destination(address)


def test_hosts_in_any_script_become_ascii_by_the_newer_rules() -> None:
    # UTS #46, non-transitional: ß is a letter of its own.
    assert clean_destination("https://faß.ExAmPlE/") == "https://xn--fa-hia.example/"
