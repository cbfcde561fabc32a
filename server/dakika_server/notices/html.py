"""A letter's text as HTML, for programs that show that: the same words, no pictures, nothing fetched from anywhere."""

import re

from django.utils.html import escape

_PAGE = (
    '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">'
    '<body style="margin:0;background:#eff1ea;color:#18211c;font:16px/1.5 sans-serif">'
    '<div style="max-width:36em;margin:0 auto;padding:24px 20px">{body}</div></body></html>'
)
_LINK = '<a href="{href}" style="color:#9a2452">{href}</a>'
# An address up to a blank, without the full stop or bracket that the sentence puts behind it.
_ADDRESS = re.compile(r"https?://[^\s<>\"]+[^\s<>\".,;:!?)\]]")
_ITEM = re.compile(r"^- ")


def as_html(text: str) -> str:
    """Paragraphs parted by blank lines, lists of lines that begin with "- ", addresses as links; all else escaped."""
    return _PAGE.format(body="".join(_block(part) for part in re.split(r"\n\s*\n", text.strip()) if part.strip()))


def _block(part: str) -> str:
    lines = part.split("\n")
    if not any(_ITEM.match(line) for line in lines):
        return f'<p style="margin:0 0 1em">{"<br>".join(_linked(line) for line in lines)}</p>'
    items: list[str] = []
    for line in lines:
        if _ITEM.match(line) or not items:
            items.append(_linked(_ITEM.sub("", line)))
        else:
            items[-1] += f"<br>{_linked(line.strip())}"
    return f'<ul style="margin:0 0 1em;padding-left:1.2em">{"".join(f"<li>{item}</li>" for item in items)}</ul>'


def _linked(line: str) -> str:
    parts, end = [], 0
    for found in _ADDRESS.finditer(line):
        parts += [escape(line[end : found.start()]), _LINK.format(href=escape(found[0]))]
        end = found.end()
    return "".join([*parts, escape(line[end:])])
