"""The corpus: each file with what it must lead to, and what a person has to say about it, if anything."""

import csv
import io
import json
import zipfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from email.utils import format_datetime
from typing import Any

from babel.dates import format_datetime as by_language
from openpyxl import Workbook
from openpyxl.styles import Font

from dakika_server.sources.tests.corpus.truth import DAYS, METRICS, POSTS, TruePost

Row = Sequence[object]
EN = ("Date", "Post", "Likes", "Comments", "Shares", "Impressions")
HEADS = {
    "en": EN,
    "de": ("Veröffentlicht am", "Beitragstext", "Gefällt mir", "Kommentare", "Geteilte Inhalte", "Impressionen"),
    "pt": ("Data de publicação", "Publicação", "Curtidas", "Comentários", "Partilhas", "Impressões"),
    "el": ("Ημερομηνία", "Κείμενο", "Μου αρέσει", "Σχόλια", "Κοινοποιήσεις", "Εμφανίσεις"),
    "es": ("Fecha", "Publicación", "Me gusta", "Comentarios", "Veces compartido", "Impresiones"),
    "fr": ("Date de publication", "Texte", "J'aime", "Commentaires", "Partages", "Affichages"),
    "tr": ("Yayın tarihi", "Gönderi metni", "Beğeniler", "Yorumlar", "Paylaşımlar", "Görüntülenme"),
}
NAME = "export_2026-10-31.csv"


@dataclass(frozen=True, kw_only=True)
class Case:
    """A file, and what must come of it.

    metrics: those that the file tells. has_time: whether instants come as they are, or as days.
    settle: what a person says before it comes in. told: words that must stand among the notes.
    posts: how many of the truth's posts it holds. missing: metrics that some cells do not tell, by post.
    """

    name: str
    content: bytes
    file_name: str = NAME
    metrics: tuple[str, ...] = METRICS
    has_time: bool = True
    has_text: bool = True
    settle: dict[str, Any] = field(default_factory=dict)
    told: str = ""
    missing: dict[str, set[int]] = field(default_factory=dict)
    refused: int = 0

    def __str__(self) -> str:
        return self.name


def as_csv(rows: Sequence[Row], delimiter: str = ",", encoding: str = "utf-8", ends: str = "\r\n") -> bytes:
    out = io.StringIO(newline="")
    csv.writer(out, delimiter=delimiter, lineterminator=ends).writerows(rows)
    return out.getvalue().encode(encoding)


def as_xlsx(rows: Sequence[Row], *, before: Sequence[Row] = (), links: int = -1, sheet: str = "Posts") -> bytes:
    book = Workbook()
    page = book.active
    page.title = sheet
    for row in [*before, *rows]:
        page.append(list(row))
    if links >= 0:
        for i, post in enumerate(POSTS):
            cell = page.cell(row=len(before) + 2 + i, column=links + 1)
            cell.hyperlink, cell.font = post.url, Font(underline="single")
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def as_ods(rows: Sequence[Row]) -> bytes:
    """OpenDocument 1.2 by hand: values by their type, runs of the same cell written once."""
    office, table = (
        "urn:oasis:names:tc:opendocument:xmlns:office:1.0",
        "urn:oasis:names:tc:opendocument:xmlns:table:1.0",
    )
    text = "urn:oasis:names:tc:opendocument:xmlns:text:1.0"

    def cell(value: object) -> str:
        if isinstance(value, datetime):
            told = value.isoformat()
            return f'<t:table-cell o:value-type="date" o:date-value="{told}"><x:p>{told}</x:p></t:table-cell>'
        if isinstance(value, int):
            return f'<t:table-cell o:value-type="float" o:value="{value}"><x:p>{value:,}</x:p></t:table-cell>'
        if value is None:
            return '<t:table-cell t:number-columns-repeated="2"/>'
        return f'<t:table-cell o:value-type="string"><x:p>{value}</x:p></t:table-cell>'

    lines = "".join(f"<t:table-row>{''.join(map(cell, row))}</t:table-row>" for row in rows)
    content = (
        f'<o:document-content xmlns:o="{office}" xmlns:t="{table}" xmlns:x="{text}"><o:body><o:spreadsheet>'
        f'<t:table t:name="Posts"><t:table-row t:number-rows-repeated="2"><t:table-cell '
        f't:number-columns-repeated="1024"/></t:table-row>{lines}<t:table-row t:number-rows-repeated="1048000">'
        '<t:table-cell t:number-columns-repeated="1024"/></t:table-row></t:table>'
        "</o:spreadsheet></o:body></o:document-content>"
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        archive.writestr("content.xml", content)
        archive.writestr("META-INF/manifest.xml", "<manifest/>")
    return out.getvalue()


def as_zip(**members: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in members.items():
            archive.writestr(name.replace("_csv", ".csv").replace("__", "/"), content)
    return out.getvalue()


def table(
    head: Row = EN, date: Callable[[TruePost], object] = lambda p: p.at.isoformat(),
    number: Callable[[int], object] = str, *, more: Callable[[TruePost], Row] = lambda _: (),
) -> list[Row]:  # fmt: skip
    """The posts under a head: date, text, four counts, and what more a row holds."""
    return [
        head, *((date(p), p.text, *(number(getattr(p, key)) for key in METRICS), *more(p)) for p in POSTS)
    ]  # fmt: skip


def grouped(sign: str) -> Callable[[int], str]:
    return lambda n: f"{n:,}".replace(",", sign)


def local(pattern: str) -> Callable[[TruePost], str]:
    return lambda p: p.local.strftime(pattern)


def in_words(language: str, pattern: str = "d MMMM yyyy HH:mm") -> Callable[[TruePost], str]:
    """A date with its month's name, as the Unicode CLDR has it (babel)."""
    return lambda p: by_language(p.local, pattern, locale=language)


def _serial(p: TruePost) -> float:
    return (p.local - datetime(1899, 12, 30)).total_seconds() / 86_400  # noqa: DTZ001 (local by meaning)


def _languages() -> list[Case]:
    """The habits of spreadsheet programs in seven languages: encodings, delimiters, grouping, dates."""
    dmy = local("%d.%m.%Y %H:%M")
    slashed = local("%d/%m/%Y %H:%M")
    return [
        Case(name="en, utf-8", content=as_csv(table(HEADS["en"], local("%m/%d/%Y %I:%M %p"), grouped(",")))),
        Case(name="de, windows-1252", content=as_csv(table(HEADS["de"], dmy, grouped(".")), ";", "cp1252")),
        Case(name="pt, utf-8 with mark", content=as_csv(table(HEADS["pt"], slashed, grouped(".")), ";", "utf-8-sig")),
        Case(name="el, windows-1253", content=as_csv(table(HEADS["el"], slashed, grouped(".")), ";", "cp1253")),
        Case(name="es, utf-16", content=as_csv(table(HEADS["es"], slashed, grouped(".")), "\t", "utf-16")),
        Case(name="fr, windows-1252", content=as_csv(table(HEADS["fr"], slashed, grouped("\u00a0")), ";", "cp1252")),
        Case(name="tr, iso-8859-9", content=as_csv(table(HEADS["tr"], dmy, grouped(".")), ";", "iso8859-9")),
        *[
            Case(name=f"{language}, workbook", content=as_xlsx(table(HEADS[language], lambda p: p.local, int)),
                 file_name="posts 2026-10-31.xlsx")
            for language in ("de", "el", "tr")
        ],
    ]  # fmt: skip


def _dates() -> list[Case]:
    """Twenty and more shapes of dates."""
    shapes: dict[str, Callable[[TruePost], object]] = {
        "ISO 8601 with Z": lambda p: p.at.strftime("%Y-%m-%dT%H:%M:%SZ"),
        "ISO 8601 with milliseconds": lambda p: p.at.strftime("%Y-%m-%dT%H:%M:%S.000+0000"),
        "ISO 8601, local": local("%Y-%m-%d %H:%M:%S"),
        "year first with slashes": local("%Y/%m/%d %H:%M"),
        "year first with points": local("%Y.%m.%d %H:%M"),
        "two-digit year, day first": local("%d.%m.%y %H:%M"),
        "two-digit year, month first": local("%m/%d/%y %H:%M"),
        "month name, English": local("%b %d, %Y %I:%M %p"),
        "month name, English, whole": local("%A, %B %d, %Y at %I:%M:%S %p"),
        "month name between dashes": local("%d-%b-%y %H:%M"),
        "month name, German": in_words("de", "d. MMMM yyyy, HH:mm 'Uhr'"),
        "month name, Portuguese": in_words("pt", "d 'de' MMMM 'de' yyyy 'às' HH:mm"),
        "month name, Greek": in_words("el", "d MMMM yyyy h:mm a"),
        "month name, Spanish": in_words("es", "EEE, d 'de' MMM 'de' yyyy HH:mm"),
        "month name, French": in_words("fr", "EEEE d MMMM yyyy 'à' HH:mm"),
        "month name, Turkish": in_words("tr", "d MMM yyyy HH:mm"),
        "RFC 5322": lambda p: format_datetime(p.at),
        "UTC at the end": lambda p: p.at.strftime("%Y-%m-%d %H:%M:%S UTC"),
        "day first with UTC": lambda p: p.at.strftime("%d/%m/%Y %H:%M UTC"),
        "seconds since 1970": lambda p: str(int(p.at.timestamp())),
        "milliseconds since 1970": lambda p: str(int(p.at.timestamp() * 1000)),
        "serials as text": lambda p: f"{_serial(p):.6f}",
        "serials as text with a comma": lambda p: f"{_serial(p):.6f}".replace(".", ","),
        "asctime": lambda p: p.at.strftime("%a %b %d %H:%M:%S +0000 %Y"),
        "time in front": local("%H:%M %d.%m.%Y"),
        "a point in the time": local("%d.%m.%Y %H.%M"),
        "an h in the time": local("%d/%m/%Y %Hh%M"),
    }
    found = [Case(name=f"date: {name}", content=as_csv(table(date=date), ";")) for name, date in shapes.items()]
    two = table(("Date", *EN[1:], "Time"), local("%d.%m.%Y"), more=lambda p: (p.local.strftime("%H:%M"),))
    return [
        *found,
        Case(name="date and time in two columns", content=as_csv(two, ";")),
        Case(name="a day without a time", content=as_csv(table(date=local("%d.%m.%Y")), ";"), has_time=False),
        Case(name="a day shown at midnight", content=as_csv(table(date=local("%Y-%m-%d 00:00:00"))), has_time=False),
        Case(name="serials in a workbook", content=as_xlsx(table(date=_serial, number=int)), file_name="2026-10-31.xlsx"),
        Case(
            name="days that can be read both ways", content=as_csv(_only_early_days(), ";"),
            settle={"options": {"date_order": "mdy"}},
        ),
    ]  # fmt: skip


def _only_early_days() -> list[Row]:
    """Every day at most the twelfth and out of order: nothing but a person knows which number is the day."""
    rows = [p for p in POSTS if p.local.day <= 12]
    return [
        EN,
        *(
            (p.local.strftime("%m/%d/%Y %H:%M"), p.text, *(getattr(p, k) for k in METRICS))
            for p in (*rows[1::2], *rows[::2])
        ),
    ]


def _numbers() -> list[Case]:
    empties = ("--", "n.d.", "k.A.", "N/D", "#N/A", "–", "", "NULL", "n/a", "-", "<5", "10+", "many", "=SUM(A1)")
    holes = [EN, *((p.at.isoformat(), p.text, p.reactions, cell, p.shares, p.impressions)
                   for p, cell in zip(POSTS, empties, strict=True))]  # fmt: skip
    return [
        *[
            Case(name=f"thousands by {sign!r}", content=as_csv(table(number=grouped(sign)), ";"))
            for sign in (",", ".", " ", "\u202f", "'")
        ],
        Case(name="numbers with noughts behind the point", content=as_csv(table(number=lambda n: f"{n}.0"))),
        Case(
            name="cells that say nothing or nonsense", content=as_csv(holes), told="is read as nothing",
            missing={"comments": set(range(14))},
        ),
        Case(
            name="thousands in words", metrics=("reactions",), told="",
            content=as_csv([("Datum", "Beitrag", "Gefällt mir"),
                            *((p.at.isoformat(), p.text, f"{p.reactions / 1000:.3f} Tsd".replace(".", ","))
                              for p in POSTS)], ";"),
        ),
    ]  # fmt: skip


def _places() -> list[Case]:
    """The head is not the first row, the table not on the first sheet, the file not a file but an archive."""
    rows = table()
    titled = [["Report of Orrery House"], [], ["made on 31 October"], [], *rows]
    group = ["", "", "Engagement", "", "", "Seen"]
    wide_head = [f"Metric {i}" for i in range(394)]
    wide = [[*EN, *wide_head], *([*row, *([i] * 394)] for i, row in enumerate(rows[1:]))]
    two_sheets = Workbook()
    two_sheets.active.append(["Notes on this export"])
    for row in table(date=lambda p: p.local, number=int):
        (two_sheets["Data"] if "Data" in two_sheets.sheetnames else two_sheets.create_sheet("Data")).append(list(row))
    out = io.BytesIO()
    two_sheets.save(out)
    return [
        Case(name="a title above", content=as_csv(titled)),
        Case(name="a title above, in a workbook", file_name="a 2026-10-31.xlsx",
             content=as_xlsx(table(date=lambda p: p.local, number=int), before=[["Report"], [None], ["of autumn"]])),
        Case(name="two lines of head", content=as_csv([group, *rows])),
        Case(name="sep=;", content=b"sep=;\r\n" + as_csv(rows, ";")),
        Case(name="empty lines between", content=as_csv([x for row in rows for x in (row, [])])),
        Case(name="lines that end in CR", content=as_csv(rows, ends="\r")),
        Case(name="tabs", content=as_csv(rows, "\t"), file_name="2026-10-31.tsv"),
        Case(name="bars", content=as_csv(rows, "|")),
        Case(name="another sheet", content=out.getvalue(), file_name="a 2026-10-31.xlsx"),
        Case(name="OpenDocument", content=as_ods(table(date=lambda p: p.local, number=int)),
             file_name="posts 31.10.2026.ods"),
        Case(name="an archive", content=as_zip(readme_csv=b"hello\n", autumn__posts_csv=as_csv(rows)),
             file_name="2026-10-31.zip"),
        Case(name="400 columns of which 6 matter", content=as_csv(wide)),
        Case(name="columns in another order", content=as_csv([list(reversed(row)) for row in rows])),
    ]  # fmt: skip


def _objects() -> list[Case]:
    flat = [dict(zip(("created_at", "full_text", "like_count", "reply_count", "repost_count", "impression_count"),
                     row, strict=True)) for row in table()[1:]]  # fmt: skip
    nested = [
        {"id": p.identifier, "created_at": p.at.isoformat(), "text": p.text,
         "public_metrics": {"like_count": p.reactions, "reply_count": p.comments, "share_count": p.shares},
         "organic": {"metrics": {"impression_count": p.impressions}}}
        for p in POSTS
    ]  # fmt: skip
    named = [
        {"id": p.identifier, "timestamp": p.at.isoformat(), "message": p.text, "insights": {"data": [
            {"name": "likes", "values": [{"value": p.reactions}]}, {"name": "comments", "values": [{"value": p.comments}]},
            {"name": "shares", "values": [{"value": p.shares}]}, {"name": "impressions", "values": [{"value": p.impressions}]},
        ]}}
        for p in POSTS
    ]  # fmt: skip
    lines = "\n".join(map(json.dumps, flat)).encode()
    return [
        Case(name="JSON", content=json.dumps(flat).encode(), file_name="2026-10-31.json"),
        Case(name="JSON lines", content=lines, file_name="2026-10-31.jsonl"),
        Case(name="JSON, wrapped", file_name="2026-10-31.json",
             content=json.dumps({"status": "ok", "data": flat, "paging": {"next": None}}).encode()),
        Case(name="JSON, nested", content=json.dumps({"data": nested}).encode(), file_name="2026-10-31.json"),
        Case(name="JSON, named values", content=json.dumps({"data": named}).encode(), file_name="2026-10-31.json"),
    ]  # fmt: skip


def _identities() -> list[Case]:
    """Identifiers as a spreadsheet leaves them, addresses, texts with entities, columns that add up or are twins."""

    def with_id(told: Callable[[str], object]) -> list[Row]:
        return table((*EN, "Post ID"), more=lambda p: (told(p.identifier),))

    escaped = [EN, *((r[0], str(r[1]).replace("'", "&#39;").replace(":", "&#58;"), *r[2:]) for r in table()[1:])]
    parts = [
        ("Date", "Post", "Hearts", "Thumbs", "Comments", "Shares", "Impressions"),
        *((p.at.isoformat(), p.text, p.reactions - 400, 400, p.comments, p.shares, p.impressions) for p in POSTS),
    ]
    return [
        Case(name="identifiers", content=as_csv(with_id(str))),
        Case(name="identifiers as powers of ten", content=as_csv(with_id(lambda i: f"{float(i):.5E}"))),
        Case(name="identifiers as powers with a comma", content=as_csv(with_id(lambda i: f"{float(i):.5E}".replace(".", ",")), ";")),
        Case(name="identifiers rounded to fifteen figures", content=as_csv(with_id(lambda i: i[:15] + "0000"))),
        Case(name="identifiers as numbers of a workbook", file_name="2026-10-31.xlsx",
             content=as_xlsx(table((*EN, "Post ID"), more=lambda p: (float(p.identifier),)))),
        Case(name="addresses", content=as_csv(table((*EN, "Permalink"), more=lambda p: (p.url,)))),
        Case(name="addresses behind titles", file_name="2026-10-31.xlsx",
             content=as_xlsx(table(date=lambda p: p.local, number=int), links=1)),
        Case(name="entities of HTML", content=as_csv(escaped)),
        Case(name="unknown formats", content=as_csv(table((*EN, "Type"), more=lambda p: ("Shimmer",))),
             told="no format that is known"),
        Case(name="a column twice", content=as_csv(table((*EN, "Likes"), more=lambda p: (7,)))),
        Case(name="two columns that add up", content=as_csv(parts),
             settle={"mapping": {"published_at": [0], "text": [1], "reactions": [2, 3], "comments": [4], "shares": [5],
                                 "impressions": [6]}}),
    ]  # fmt: skip


def all_cases() -> list[Case]:
    """Every file of posts."""
    return [*_languages(), *_dates(), *_numbers(), *_places(), *_objects(), *_identities()]


def day_files() -> dict[str, tuple[str, bytes]]:
    """Days of a profile: as a plain table, long, wide, wide with several metrics, in other words."""
    names = {"followers": "Followers", "gained": "New followers", "lost": "Lost followers", "reach": "Reach"}
    plain = [("Date", *names.values()), *((d.isoformat(), *values.values()) for d, values in DAYS)]
    long = [("Date", "Metric", "Value"), *((d.isoformat(), names[k], v) for k in names for d, values in DAYS
                                           for v in [values[k]])]  # fmt: skip
    wide = [("Metric", *(d.strftime("%d %b %Y") for d, _ in DAYS)),
            *((names[k], *(values[k] for _, values in DAYS)) for k in names)]  # fmt: skip
    german = [
        ("Datum", "Follower", "Neue Follower", "Verlorene Follower", "Reichweite"),
        *((d.strftime("%d.%m.%Y"), *(f"{v:,}".replace(",", ".") for v in values.values())) for d, values in DAYS),
    ]
    return {
        "plain": ("days.csv", as_csv(plain)), "long": ("days.csv", as_csv(long)), "wide": ("days.csv", as_csv(wide)),
        "german": ("tage.csv", as_csv(german, ";", "cp1252")), "wide workbook": ("days.xlsx", as_xlsx(wide)),
    }  # fmt: skip


UTC_END_OF_EXPORT = datetime(2026, 10, 31, 23, 59, 59, tzinfo=UTC)
