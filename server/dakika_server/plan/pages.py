"""What a page says of itself to whoever shows a link to it. Pure, and run in a child with bounds: strangers wrote it.

The Open Graph protocol (ogp.me) names og:title, og:description and og:image; where they are missing, what an oEmbed
document says that the page names (oembed.com, 4. Discovery), then the page's own title and description.
"""

import json
from dataclasses import dataclass, replace
from html.parser import HTMLParser
from urllib.parse import urljoin

LONGEST = 300
READ = 300_000
EMBED_TYPE = "application/json+oembed"


@dataclass(frozen=True, kw_only=True)
class PageSays:
    """Title, description, and the address of a picture, empty where the page says nothing.

    embed is the address of an oEmbed document, named where it could tell what the page does not.
    """

    title: str = ""
    description: str = ""
    picture: str = ""
    embed: str = ""


class _Head(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.said: dict[str, str] = {}
        self.embed = ""
        self.title: list[str] = []
        self.is_title = False

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.is_title = tag == "title" and not self.title
        if tag == "meta":
            given = {name: value or "" for name, value in attrs}
            key = (given.get("property") or given.get("name") or "").lower()
            if key and given.get("content"):
                self.said.setdefault(key, given["content"])

        elif tag == "link" and not self.embed:
            given = {name: value or "" for name, value in attrs}
            if "alternate" in given.get("rel", "").lower().split() and given.get("type", "").lower() == EMBED_TYPE:
                self.embed = given.get("href", "")

    def handle_endtag(self, tag: str) -> None:
        self.is_title = self.is_title and tag != "title"

    def handle_data(self, data: str) -> None:
        if self.is_title:
            self.title.append(data)


def page_says(text: str, address: str) -> PageSays:
    """What the page's head says; addresses are made whole, and left out where they are none of the web."""
    head = _Head()
    head.feed(text[:READ])
    said = head.said
    has_card = bool(said.get("og:title") and said.get("og:image"))
    return PageSays(
        title=_short(said.get("og:title") or "".join(head.title)),
        description=_short(said.get("og:description") or said.get("description", "")),
        picture=_whole(address, said.get("og:image", "")), embed="" if has_card else _whole(address, head.embed),
    )  # fmt: skip


def with_embed(page: PageSays, text: str, address: str) -> PageSays:
    """A page's words with what its oEmbed document adds (oembed.com, 2.3.4): its title first, its thumbnail.

    A document that cannot be read adds nothing.
    """
    try:
        said = json.loads(text)
    except (ValueError, RecursionError):
        return page
    if not isinstance(said, dict):
        return page
    told = {name: value for name in ("title", "author_name", "thumbnail_url", "provider_name")
            if isinstance(value := said.get(name), str)}  # fmt: skip
    by = " · ".join(_short(told[name]) for name in ("author_name", "provider_name") if told.get(name))
    return replace(
        page, title=_short(told.get("title", "")) or page.title, description=page.description or by,
        picture=page.picture or _whole(address, told.get("thumbnail_url", "")),
    )  # fmt: skip


def _whole(page: str, address: str) -> str:
    if not address:
        return ""
    try:
        found = urljoin(page, address)
    except ValueError:
        return ""
    return found[:2000] if found.startswith(("http://", "https://")) else ""


def _short(text: str) -> str:
    return " ".join(text.replace("\x00", "").split())[:LONGEST]
