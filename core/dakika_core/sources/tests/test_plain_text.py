"""Promise: the text of markup is what a reader would see of it, in a time that grows with its length alone."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.sources.plain_text import _parts, text_of, title_of

SIZE = 400_000


@pytest.mark.parametrize(
    ("html", "text"),
    [
        ('<p>Hello &amp; <b title="a > b">bold</b><br/>x</p>', "Hello & bold\nx"),
        ("a<script>if (a<b) alert('</p>')</script>b<STYLE>p{}</STYLE >c", "abc"),
        ("one<!-- two --> three", "one three"),
        ("one<!-- never closed three", "one"),
        ("3 < 4 and 5 > 4", "3 < 4 and 5 > 4"),
        ("a<![CDATA[x]]>b<?php y ?>c<!DOCTYPE html>d", "abcd"),
        ("<head><title>no</title></head>yes<noscript>no</noscript>", "yes"),
        ("a<b", "a"),
        ("<a href='x\">y</a>z", "yz"),
        ("no\x00nul &#0; &#x1F600;", "nonul \ufffd \U0001f600"),
        ("<li>a<li>b", "a\nb"),
        ("", ""),
    ],
)
def test_what_a_reader_would_see(html: str, text: str) -> None:
    assert text_of(html) == text


@pytest.mark.parametrize(
    "unit",
    ["<!--", "<?", "<a ", "<a href=\"", "<!D", "<![CDATA[", "</a ", "&amp", "<script>", "<", "<a x=", "<a b='", "<br>",
     "&#", "<script></script ", "<a '\">", "<title", "<head>", "\n", " "],
)  # fmt: skip
@pytest.mark.parametrize("tail", ["", ">"])
def test_every_part_is_looked_at_a_bounded_number_of_times(
    unit: str, tail: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Counted, not timed: characters that the searches pass over grow no faster than the text."""
    passed = 0

    class Counted(str):
        def find(self, *given: object) -> int:  # type: ignore[override]
            nonlocal passed
            found = str.find(self, *given)  # type: ignore[arg-type]
            start = given[1] if len(given) > 1 else 0
            passed += (len(self) if found < 0 else found) - start  # type: ignore[operator]
            return found

    html = Counted((unit * (SIZE // len(unit)))[:SIZE] + tail)
    _parts(html)
    assert passed <= 12 * len(html)
    title_of(html)


@given(st.text(alphabet="<>!-/\"' abscript=&;", max_size=60))
def test_no_markup_breaks_it(html: str) -> None:
    assert "\x00" not in text_of(html)


@pytest.mark.parametrize(
    ("html", "title"),
    [("<title>A  page\n here &amp; there</title>", "A page here & there"), ("<TITLE lang='x>y'>B</TITLE>", "B"),
     ("<titles>no</titles>", ""), ("<title>open", ""), ("", "")],
)  # fmt: skip
def test_the_title_of_a_page(html: str, title: str) -> None:
    assert title_of(html) == title
