"""Many posts from one table: which column holds what, and what each row says. A brand's own things are not known here.

Columns are proposed by their names, in the languages that files of posts are read in; the names of times, texts and
addresses are those of `sources.files`. Names of the rest are common practice, no source.

In the trade's words: bulk upload, bulk scheduling.
"""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta

from dakika_core.sources.files.cells import is_empty
from dakika_core.sources.files.date_order import Order, order_of
from dakika_core.sources.files.dates import fold, read_date
from dakika_core.sources.files.guard import restore
from dakika_core.sources.files.kinds import POSTS

MOST_ROWS = 1_000
LONGEST_CELL = 20_000
FAR = timedelta(days=18_000)
_BESIDES = {
    "title": "working title; internal title; name; topic; subject; arbeitstitel; thema; título interno; titel",
    "headline": "headline; post title; video title; title on the network; überschrift; manchete; titular",
    "profiles": "network; networks; channel; channels; account; accounts; page; profile; kanal; netzwerk; "
    "rede; redes; perfil; perfis; canal; red; réseau; compte; ağ; hesap; δίκτυο; προφίλ",
    "media": "picture; pictures; image; images; photo; photos; media; video; file; files; attachment; attachments; "
    "bild; bilder; imagem; imagens; imagen; ficheiro; ficheiros; fichier; fichiers; resim; görsel; εικόνα; εικόνες",
    "words": "alternative text; alt text; alt; image description; alternativtext; texto alternativo; texte alternatif",
    "first_comment": "first comment; comment; erster kommentar; primeiro comentário; primer comentario",
    "note": "note; notes; internal note; remark; notiz; nota; notas; remarque; not; σημείωση",
}  # fmt: skip
_OF_FILES = {"text": "text", "at": "published_at", "time": "time", "link": "url"}
_TEXTS = ("text", "title", "headline", "link", "first_comment", "campaign", "note")
FIELDS = ("at", "time", "profiles", "media", "words", *_TEXTS)
_MORE = {
    "link": ("link", "links", "url", "address", "destination", "landingpage"),
    "at": ("scheduledat", "scheduled", "day"),
    "text": ("post", "posttext", "copy", "words", "caption"),
    "campaign": ("campaign", "campaigns"),
}
_APART = re.compile(r"[;|\n]")
_DAY_OF_WORKBOOK = re.compile(r"\d{4}-\d\d-\d\d[T ]00:00:00")
_APART_WIDELY = re.compile(r"[,;|\n]")


def _names_of(key: str) -> tuple[str, ...]:
    known = POSTS.by_key.get(_OF_FILES.get(key, ""))
    own = tuple(fold(name) for name in _BESIDES.get(key, "").split(";") if name.strip())
    return (fold(key), *own, *_MORE.get(key, ()), *(known.names if known else ()))


@dataclass(frozen=True, kw_only=True)
class BulkRow:
    """What a row says: texts as they are written, times by the clock of the brand, and what could not be read."""

    number: int
    values: Mapping[str, str]
    profiles: tuple[str, ...] = ()
    media: tuple[str, ...] = ()
    words: tuple[str, ...] = ()
    at: datetime | None = None
    problems: Mapping[str, str] = field(default_factory=dict)


def propose_columns(header: Sequence[str]) -> dict[str, int]:
    """The column of each field that is found by its name; no column twice, the first of several."""
    folded = [fold(name) for name in header]
    found: dict[str, int] = {}
    for key in FIELDS:
        for name in _names_of(key):
            at = next((i for i, one in enumerate(folded) if one == name and i not in found.values()), None)
            if at is not None:
                found[key] = at
                break
    return found


def order_in(rows: Iterable[Sequence[object]], columns: Mapping[str, int], *, now: datetime) -> Order:
    """The order of day, month and year in the table's dates; they lie ahead, so that the future rules nothing out."""
    at = columns.get("at")
    cells = [row[at] for row in rows if at is not None and at < len(row) and not is_empty(row[at])]
    # Dates of a plan are to come: what is left in doubt by sorting and spread is asked.
    return order_of(cells, now=now + FAR)


def read_row(number: int, cells: Sequence[object], columns: Mapping[str, int], order: str) -> BulkRow:
    """One row by the columns. order: that of the dates."""

    def cell(key: str) -> object:
        at = columns.get(key)
        return cells[at] if at is not None and at < len(cells) and not is_empty(cells[at]) else ""

    def text(key: str) -> str:
        found = cell(key)
        return restore(str(found)).replace("\x00", "").replace("\r\n", "\n").strip()[:LONGEST_CELL]

    at, problem = _instant(cell("at"), cell("time"), order)
    return BulkRow(
        number=number, values={key: text(key) for key in _TEXTS},
        profiles=_parts(text("profiles"), _APART_WIDELY), media=_parts(text("media"), _APART),
        words=_parts(text("words"), _APART), at=at, problems={"at": problem} if problem else {},
    )  # fmt: skip


def _parts(text: str, apart: re.Pattern[str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(part.strip() for part in apart.split(text) if part.strip()))


def _instant(day: object, clock: object, order: str) -> tuple[datetime | None, str]:
    """A time by the brand's clock, or one with its own offset; and what is wrong with it."""
    if day == "" and clock == "":
        return None, ""
    if day == "":
        return None, "There is a time and no day."
    try:
        read = read_date(day, order)
        if read is not None and _DAY_OF_WORKBOOK.fullmatch(str(day)):
            # A workbook's cell that holds a day alone is a midnight, to the second.
            read = replace(read, has_time=False)
        if read is not None and not read.has_time and clock != "":
            told = clock.strftime("%H:%M") if hasattr(clock, "strftime") else str(clock)
            read = read_date(f"{read.at:%Y-%m-%d} {told}", order)
            if read is None or not read.has_time:
                return None, f"“{told[:20]}” is no time of the day."
    except (ValueError, OverflowError):
        read = None
    if read is None:
        return None, f"“{str(day)[:30]}” is no day that can be read."
    if not read.has_time:
        return None, "There is a day and no time."
    return read.at, ""


def spaced(first: datetime, minutes: int, count: int) -> list[datetime]:
    """So many instants from the first on, so many minutes apart. first carries its zone; steps are of real time."""
    begin = first.astimezone(UTC).timestamp()
    return [datetime.fromtimestamp(begin + 60 * minutes * i, tz=UTC) for i in range(count)]
