"""The text of a piece of HTML, for reading and counting; nothing of its markup is kept."""

import re
from html.parser import HTMLParser

_BREAKS = frozenset({"p", "br", "div", "li", "h1", "h2", "h3", "h4", "blockquote", "tr"})
_SILENT = frozenset({"script", "style", "head", "template", "noscript"})


class _Text(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.parts: list[str] = []
        self._silent = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag in _SILENT:
            self._silent += 1
        elif tag in _BREAKS:
            self.parts.append("\n")

    def handle_endtag(self, tag: str) -> None:
        if tag in _SILENT:
            self._silent = max(0, self._silent - 1)
        elif tag in _BREAKS:
            self.parts.append("\n")

    def handle_data(self, data: str) -> None:
        if not self._silent:
            self.parts.append(data)


def text_of(html: str, *, longest: int = 20_000) -> str:
    """Text of HTML with line breaks where blocks end, NUL and runs of blanks taken out, cut at `longest` characters."""
    reader = _Text()
    reader.feed(html[: longest * 20])
    reader.close()
    text = "".join(reader.parts).replace("\x00", "")
    lines = (re.sub(r"[^\S\n]+", " ", line).strip() for line in text.split("\n"))
    return re.sub(r"\n{2,}", "\n", "\n".join(lines)).strip()[:longest]
