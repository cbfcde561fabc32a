"""Access logs become visits: read as a stream, so that memory does not grow with the file.

Addresses are hashed with a key of the day made from the installation's own, and never stored; the
same log read again makes the same hashes, so that nothing is counted twice.
"""

import gzip
import hmac
import io
import zlib
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from hashlib import sha256
from itertools import islice
from pathlib import Path
from typing import IO, Any

from dakika_core.links.agents import browser_of, device_of
from dakika_core.links.bots import known_crawlers
from dakika_core.links.visitors import visitor_hash
from dakika_core.site.logs import LONGEST_LINE, REMEMBERED, LogReader
from dakika_core.site.visits import Sessions, Visit, arrival_of
from django.conf import settings

from dakika_server.site.collecting import country_of
from dakika_server.site.models import Site
from dakika_server.site.visiting import VisitIn, take_visits

VISITS_AT_ONCE = 5000
GZIP = b"\x1f\x8b"
MOST_CHARACTERS = 20 * 10**9
LOOKED_AT = 500


class LogError(Exception):
    """A log that cannot be read, with what is wrong."""


@dataclass(kw_only=True)
class LogRead:
    """What came of a log."""

    lines: int = 0
    unreadable: int = 0
    not_pages: int = 0
    bots: int = 0
    visits: int = 0
    new_visits: int = 0


def read_log(site: Site, lines: Iterable[str], progress: Callable[[LogRead], None] | None = None) -> LogRead:
    """Read lines of the Common, Combined or W3C Extended format, the oldest first, into visits of a site."""
    reader, sessions, done, crawlers = LogReader(), Sessions(), LogRead(), known_crawlers()
    of_visitor: dict[bytes, tuple[str, str]] = {}
    waiting: list[VisitIn] = []

    # The same pages are asked for again and again, and a visitor asks for several.
    hosts = tuple(site.hosts)
    read_arrival = lru_cache(maxsize=REMEMBERED)(lambda target, referrer: arrival_of(target, referrer, hosts))
    visitor_of = lru_cache(maxsize=REMEMBERED)(
        lambda address, agent, day: visitor_hash(f"{site.pk} {address}", agent, _key_of(date.fromordinal(day)))
    )

    def hand_on(visits: list[Visit], *, is_last: bool = False) -> None:
        for visit in visits:
            agent, country = of_visitor.pop(visit.visitor, ("", ""))
            waiting.append(VisitIn(
                visitor=visit.visitor, arrival=visit.arrival, started=visit.started, ended=visit.ended,
                pages=visit.pages, paths=visit.paths, device=device_of(agent), browser=browser_of(agent),
                country=country,
            ))  # fmt: skip
        if waiting and (is_last or len(waiting) >= VISITS_AT_ONCE):
            done.visits += len(waiting)
            done.new_visits += take_visits(site, waiting, "log")
            waiting.clear()
            done.lines, done.unreadable, done.not_pages = reader.read, reader.unreadable, reader.not_pages
            if progress:
                progress(done)

    for hit in reader.hits(lines):
        if not hit.agent or crawlers.match(hit.agent):
            done.bots += 1
            continue
        visitor = visitor_of(hit.address, hit.agent, hit.at.toordinal())
        over = sessions.add(visitor, hit.at, read_arrival(hit.target, hit.referrer))
        if over:
            hand_on(over)
        if visitor not in of_visitor:
            of_visitor[visitor] = (hit.agent, country_of(hit.address))
    hand_on(sessions.rest(), is_last=True)
    done.lines, done.unreadable, done.not_pages = reader.read, reader.unreadable, reader.not_pages
    return done


@lru_cache(maxsize=64)
def _key_of(day: date) -> bytes:
    return hmac.new(settings.SECRET_KEY.encode(), f"access log {day}".encode(), sha256).digest()


def files_of(paths: Iterable[Path]) -> list[Path]:
    """Files as named, and those in folders as named, by their names. Raises FileNotFoundError."""
    found: list[Path] = []
    for path in paths:
        if path.is_dir():
            found += sorted(file for file in path.iterdir() if file.is_file())
        elif path.exists():
            found.append(path)
        else:
            raise FileNotFoundError(path)
    return found


def lines_of(files: Iterable[Path]) -> Iterator[str]:
    """Lines of plain and gzipped files, one after the other."""
    for path in files:
        with path.open("rb") as file:
            yield from lines_in(file)


def lines_in(file: IO[bytes]) -> Iterator[str]:
    """Lines of a plain or gzipped stream that can be looked at ahead; bytes that are no UTF-8 are replaced.

    Bounded: of a line longer than any log's, the beginning alone is handed on. Raises LogError for a
    gzip that is broken or grows beyond any log.
    """
    peeked: Any = file
    plain: Any = gzip.GzipFile(fileobj=file) if peeked.peek(2)[:2] == GZIP else file
    text = io.TextIOWrapper(plain, encoding="utf-8", errors="replace", newline="\n")
    read, is_rest = 0, False
    try:
        while line := text.readline(LONGEST_LINE + 1):
            read += len(line)
            if read > MOST_CHARACTERS:
                raise LogError(f"The log grows beyond {MOST_CHARACTERS // 10**9} GB when it is unpacked.")
            if not is_rest:
                yield line.rstrip("\r\n")
            is_rest = not line.endswith("\n")
    except (EOFError, gzip.BadGzipFile, zlib.error):
        raise LogError("The file is packed by gzip, and broken.") from None
    finally:
        text.detach()


def is_log(lines: Iterable[str]) -> bool:
    """Whether any of the first lines is of a format that can be read."""
    reader = LogReader()
    for _ in reader.hits(islice(lines, LOOKED_AT)):
        return True
    return reader.read > reader.unreadable
