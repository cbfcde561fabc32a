"""Access logs: the Common and the Combined Log Format, and the W3C Extended Log File Format.

A line that cannot be read is counted, never guessed. Only requests for pages are kept: pictures,
styles and scripts are the same visit said again.

In the trade's words: log parser.
"""

import re
from collections.abc import Iterable, Iterator
from datetime import UTC, datetime, timedelta, timezone
from functools import lru_cache
from typing import NamedTuple

# Quoted text is read by runs: a million lines letter by letter would take twice as long.
_QUOTED = r'"([^"\\]*(?:\\.[^"\\]*)*)"'
# Groups: host, instant, request, status, referrer, agent.
_COMBINED = re.compile(
    rf'(\S+) \S+ (?:\S+|".*?") \[([^\]]+)\] {_QUOTED} (\d{{3}}|-) (?:\d+|-)(?: {_QUOTED} {_QUOTED})?'
)
_MONTHS = {
    m: i for i, m in enumerate(["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"], 1)
}
_ASSETS = re.compile(
    r"\.(?:avif|css|gif|ico|jpe?g|js|json|map|mjs|mp3|mp4|ogg|png|svg|txt|ttf|webm|webp|webmanifest|woff2?|xml)$",
    re.IGNORECASE,
)
LONGEST_LINE = 16_384
# The same pages are asked for again and again.
REMEMBERED = 8192


class Hit(NamedTuple):
    """One request for a page. `address` is the visitor's, to be hashed and forgotten; `target` path and query."""

    at: datetime
    address: str
    method: str
    target: str
    status: int
    referrer: str
    agent: str


class LogReader:
    """Reads lines of either format; a W3C file names its fields in its own head. Counts what it leaves out."""

    def __init__(self) -> None:
        self.unreadable, self.not_pages, self.read = 0, 0, 0
        self._fields: list[str] | None = None
        self._day = ""

    def hits(self, lines: Iterable[str]) -> Iterator[Hit]:
        """Requests for pages, in the order of the file."""
        for line in lines:
            if not line.strip():
                continue
            if line.startswith("#"):
                self._directive(line)
                continue
            self.read += 1
            hit = (self._extended(line) if self._fields else combined(line)) if len(line) <= LONGEST_LINE else None
            if hit is None:
                self.unreadable += 1
            elif not is_page(hit):
                self.not_pages += 1
            else:
                yield hit

    def _directive(self, line: str) -> None:
        name, _, rest = line[1:].partition(":")
        if name.strip().lower() == "fields":
            self._fields = rest.split()
        elif name.strip().lower() == "date":
            self._day = rest.split()[0] if rest.split() else ""

    def _extended(self, line: str) -> Hit | None:
        """A line of the W3C format (working draft of 1996): fields apart by spaces, times in GMT, + for a space."""
        cells = _cells(line)
        if self._fields is None or len(cells) != len(self._fields):
            return None
        row = {name: "" if cell == "-" else cell for name, cell in zip(self._fields, cells, strict=True)}
        query = row.get("cs-uri-query", "")
        target = (
            row.get("cs-uri-stem", "") + (f"?{query}" if query else "")
            if "cs-uri-stem" in row
            else row.get("cs-uri", "")
        )
        try:
            at = datetime.fromisoformat(f"{row.get('date') or self._day} {row['time']}").replace(tzinfo=UTC)
            status = int(row.get("sc-status") or 200)
        except (KeyError, ValueError):
            return None
        return Hit(
            at=at, address=row.get("c-ip", ""), method=row.get("cs-method", "GET"), target=target, status=status,
            referrer=row.get("cs(Referer)", ""), agent=row.get("cs(User-Agent)", "").replace("+", " "),
        )  # fmt: skip


def combined(line: str) -> Hit | None:
    """A line of the Common or Combined Log Format, or None when it is neither."""
    found = _COMBINED.match(line)
    if found is None:
        return None
    address, told, request, status, referrer, agent = found.groups()
    at = _instant(told)
    asked = _request(request)
    if at is None or asked is None:
        return None
    return Hit(
        at, address, asked[0], asked[1], int(status) if status != "-" else 0, _plain(referrer), _plain(agent)
    )  # fmt: skip


@lru_cache(maxsize=REMEMBERED)
def _request(text: str) -> tuple[str, str] | None:
    """Method and target of a request line, which may hold spaces where a server wrote them down as they came."""
    parts = _unescaped(text).split(" ")
    return (parts[0], " ".join(parts[1:-1]) or parts[1]) if len(parts) > 1 else None


def is_page(hit: Hit) -> bool:
    """A page that was really delivered to somebody who asked to see it."""
    if hit.method != "GET" or not (200 <= hit.status < 300 or hit.status == 304):
        return False
    return not _is_asset(hit.target)


@lru_cache(maxsize=REMEMBERED)
def _is_asset(target: str) -> bool:
    return _ASSETS.search(target.partition("?")[0].partition("#")[0]) is not None


def _plain(text: str | None) -> str:
    """What a field says; a dash says nothing."""
    if text is None or text == "-":
        return ""
    return _unescaped(text)


def _unescaped(text: str) -> str:
    return text.replace('\\"', '"').replace("\\\\", "\\") if "\\" in text else text


def _cells(line: str) -> list[str]:
    """Fields apart by spaces; one in quotation marks may hold spaces, and doubled quotation marks."""
    if '"' not in line:
        return line.split()
    return [m[1].replace('""', '"') if m[1] is not None else m[0] for m in re.finditer(r'"((?:[^"]|"")*)"|\S+', line)]


def _instant(text: str) -> datetime | None:
    """10/Oct/2000:13:55:36 -0700 as an instant."""
    minute = _minute(text[:17], text[20:])
    if minute is None or not text[18:20].isdigit():
        return None
    second = int(text[18:20])
    return minute + timedelta(seconds=second) if second < 61 else None


@lru_cache(maxsize=4096)
def _minute(text: str, zone: str) -> datetime | None:
    """The minute of an instant: many lines share one."""
    try:
        year, hour, minute = int(text[7:11]), int(text[12:14]), int(text[15:17])
        offset = timedelta(hours=int(zone[2:4]), minutes=int(zone[4:6]))
        there = timezone(-offset if zone[1] == "-" else offset)
        return datetime(year, _MONTHS[text[3:6]], int(text[:2]), hour, minute, tzinfo=there).astimezone(UTC)
    except (ValueError, KeyError, IndexError):
        return None
