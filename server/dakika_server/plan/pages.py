"""What a page says of itself to whoever shows a link to it. Pure, and run in a child with bounds: strangers wrote it.

The Open Graph protocol (ogp.me) names og:title, og:description and og:image; where they are missing the page's own
title and description stand in.
"""

from dataclasses import dataclass
from html.parser import HTMLParser
from urllib.parse import urljoin

LONGEST = 300
READ = 300_000


@dataclass(frozen=True, kw_only=True)
class PageSays:
    """Title, description, and the address of a picture, empty where the page says nothing."""

    title: str = ""
    description: str = ""
    picture: str = ""


class _Head(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.said: dict[str, str] = {}
        self.title: list[str] = []
        self.is_title = False

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.is_title = tag == "title" and not self.title
        if tag == "meta":
            given = {name: value or "" for name, value in attrs}
            key = (given.get("property") or given.get("name") or "").lower()
            if key and given.get("content"):
                self.said.setdefault(key, given["content"])

    def handle_endtag(self, tag: str) -> None:
        self.is_title = self.is_title and tag != "title"

    def handle_data(self, data: str) -> None:
        if self.is_title:
            self.title.append(data)


def page_says(text: str, address: str) -> PageSays:
    """What the page's head says; the picture's address is made whole, and left out where it is none of the web."""
    head = _Head()
    head.feed(text[:READ])
    said = head.said
    picture = urljoin(address, said.get("og:image", "")) if said.get("og:image") else ""
    return PageSays(
        title=_short(said.get("og:title") or "".join(head.title)),
        description=_short(said.get("og:description") or said.get("description", "")),
        picture=picture[:2000] if picture.startswith(("http://", "https://")) else "",
    )


def _short(text: str) -> str:
    return " ".join(text.replace("\x00", "").split())[:LONGEST]
