"""Promise: the profiles that a page names as its owner's are found, and nothing else is taken for one."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.sources.discovery import read_site
from dakika_core.sources.plain_text import text_of

PATTERNS = {
    "commons": "https://commons.example/{handle}", "vignette": "https://vignette.example/@{handle}",
    "guildhall": "https://guildhall.example/organisations/{handle}", "corkboard": "https://corkboard.example/{handle}/boards",
}  # fmt: skip


def found(page: str, address: str = "https://tide.example/") -> list[tuple[str, str, str]]:
    return [(p.network, p.handle, p.evidence) for p in read_site(page, address, PATTERNS).profiles]


def test_what_a_page_says_of_itself_comes_before_plain_links() -> None:
    page = """<a href="https://vignette.example/@tide?x=1">v</a>
    <a rel="me noopener" href="https://commons.example/tidehall/">c</a>
    <script type="application/ld+json">{"@type": "Museum", "sameAs": ["https://guildhall.example/organisations/tide"]}</script>
    <a href="https://commons.example/tidehall">again</a>"""
    assert found(page) == [
        ("guildhall", "tide", "structured data"), ("commons", "tidehall", "rel-me"), ("vignette", "tide", "link"),
    ]  # fmt: skip


@pytest.mark.parametrize(
    "href",
    ["https://commons.example/share?u=x", "https://commons.example/", "https://evil.example/commons.example/x",
     "https://commons.example/a/b", "https://corkboard.example/x", "javascript:alert(1)", "https://[::1", "//", "",
     "https://vignette.example/tide"],
)  # fmt: skip
def test_what_is_no_profile_is_left(href: str) -> None:
    assert found(f'<a href="{href}">x</a>') == []


def test_relative_addresses_names_and_feeds() -> None:
    page = """<title> Tide  Hall </title><meta property="og:site_name" content="Tide Hall, Port Aldous">
    <meta property="og:image" content="/p.png"><link rel="alternate" type="application/atom+xml" href="feed.xml">"""
    site = read_site(page, "https://tide.example/news/", PATTERNS)
    assert site.name == "Tide Hall, Port Aldous"
    assert site.picture == "https://tide.example/p.png"
    assert site.feeds == ("https://tide.example/news/feed.xml",)
    assert read_site("", "https://tide.example/", PATTERNS).name == "tide.example"


@given(st.text(max_size=300))
def test_any_page_is_survived(page: str) -> None:
    read_site(
        f"<script type='application/ld+json'>{page}</script><a href='{page}'>{page}", "https://a.example/", PATTERNS
    )
    assert "\x00" not in text_of(page)


def test_structured_data_of_any_depth_is_survived() -> None:
    assert found(f'<script type="application/ld+json">{"[" * 50_000}</script>') == []


def test_text_of_html() -> None:
    html = "<p>One <b>two</b></p><p>three<br>four</p><script>alert(1)</script><style>x{}</style>&amp; &lt;five&gt;"
    assert text_of(html) == "One two\nthree\nfour\n& <five>"
    assert text_of("x" * 50_000, longest=100) == "x" * 100
