"""The text of a piece of HTML, for reading and counting; nothing of its markup is kept.

Read in one pass whose time grows with the length alone: html.parser looks to the end of the text again for each
opening that is never closed, so that a few hundred kilobytes can hold a process for minutes.
"""

import re
from html import unescape

_BREAKS = frozenset({"p", "br", "div", "li", "h1", "h2", "h3", "h4", "blockquote", "tr"})
_SILENT = frozenset({"head", "template", "noscript"})
# Their content is no markup: it ends at their own end alone (HTML standard, 13.2.5.2 and 13.2.5.4).
_RAW_ENDS = {name: re.compile(rf"</{name}[\s/>]", re.IGNORECASE) for name in ("script", "style")}
_TAG = re.compile(r"</?([a-zA-Z][^\s/>]{0,40})")
_STOP = re.compile(r"[>\"']")


def text_of(html: str, *, longest: int = 20_000) -> str:
    """Text of HTML with line breaks where blocks end, NUL and runs of blanks taken out, cut at `longest` characters."""
    text = "".join(_parts(html[: longest * 20])).replace("\x00", "")
    lines = (re.sub(r"[^\S\n]+", " ", line).strip() for line in text.split("\n"))
    return re.sub(r"\n{2,}", "\n", "\n".join(lines)).strip()[:longest]


def _parts(html: str) -> list[str]:
    parts: list[str] = []
    silent, at = 0, 0
    while 0 <= at < len(html):
        opening = html.find("<", at)
        if opening != at and not silent:
            parts.append(unescape(html[at:] if opening < 0 else html[at:opening]))
        if opening < 0:
            break
        tag = _TAG.match(html, opening)
        if html.startswith("<!--", opening):
            at = _after(html, "-->", opening + 4)
        elif tag is None:
            if html[opening + 1 : opening + 2] in ("!", "?", "/"):
                at = _after(html, ">", opening)
            else:
                at = opening + 1
                parts += [] if silent else ["<"]
        else:
            name, is_end = tag[1].lower(), html[opening + 1] == "/"
            at = _end_of_tag(html, tag.end())
            if name in _BREAKS:
                parts.append("\n")
            elif name in _SILENT:
                silent = max(0, silent + (-1 if is_end else 1))
            elif name in _RAW_ENDS and not is_end and at >= 0:
                end = _RAW_ENDS[name].search(html, at)
                at = end.start() if end else -1
    return parts


def _after(html: str, mark: str, start: int) -> int:
    """The place behind a mark; -1 where it does not come: the rest is then part of what was opened."""
    found = html.find(mark, start)
    return found + len(mark) if found >= 0 else -1


def _end_of_tag(html: str, start: int) -> int:
    """The place behind a tag. An angle within quotes does not end it; a quote that is never closed is none."""
    at = start
    while stop := _STOP.search(html, at):
        if stop[0] == ">":
            return stop.end()
        closing = html.find(stop[0], stop.end())
        if closing < 0:
            return _after(html, ">", stop.end())
        at = closing + 1
    return -1


_TITLE, _TITLE_END = re.compile(r"<title(?=[\s/>])", re.IGNORECASE), re.compile(r"</title", re.IGNORECASE)


def title_of(html: str, *, longest: int = 200) -> str:
    """The title of a page, in one line; nothing where it has none."""
    opening = _TITLE.search(html)
    start = _end_of_tag(html, opening.end()) if opening else -1
    end = _TITLE_END.search(html, start) if start >= 0 else None
    return " ".join(unescape(html[start : end.start()]).split())[:longest] if end else ""
