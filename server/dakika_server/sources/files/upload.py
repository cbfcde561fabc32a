"""Uploading a file, and what is settled before a row comes in: kind, mapping, how it is written, as of when."""

from collections import deque
from dataclasses import asdict, dataclass, field, replace
from datetime import datetime
from itertools import islice
from typing import IO, Any, cast

from dakika_core.sources.files.dates import fold, has_offset, read_date
from dakika_core.sources.files.delimited import FileError
from dakika_core.sources.files.formats import as_of, how_written, newest_in, zone_of
from dakika_core.sources.files.identifiers import are_rounded, is_damaged
from dakika_core.sources.files.kinds import KINDS
from dakika_core.sources.files.mapping import problems_of_mapping, propose_kind, propose_mapping
from dakika_core.sources.files.rows import Note, ReadOptions, RowError, RowProblem, RowReader
from django.db import transaction
from django.utils.dateparse import parse_datetime

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.shared import clock
from dakika_server.shared.errors import Conflict, Problem
from dakika_server.sources.files import accounts, store, waiting
from dakika_server.sources.files.forms import Form, form_of
from dakika_server.sources.files.tables import Table, open_table
from dakika_server.sources.models import Import

SAMPLE_ROWS = 300
SAMPLE_CELLS = 40_000
SPREAD_ROWS = 400
LAST_ROWS = 20
# Below this the rows are counted; above, estimated from the size until they are read.
COUNTED_BYTES = 8 * 1024 * 1024
LONGEST_CELL = 2000
LONGEST_NAME = 200
ORDERS = {"dmy": "the day comes first", "mdy": "the month comes first", "ymd": "the year comes first"}
SHOWN_DATES = 4
CHOOSE_ORDER = "The dates of this file can be read in more than one order. Choose which is right."
# What belongs to the brand itself.
OF_NO_PROFILE = ("clicks", "conversions")
TURNED = ("rows", "long", "wide")


@dataclass(frozen=True, kw_only=True)
class Preview:
    """What an import would bring, from its first rows: items with their row, problems, what keeps it from use."""

    items: list[tuple[int, dict[str, Any]]] = field(default_factory=list)
    problems: list[RowProblem] = field(default_factory=list)
    notes: list[Note] = field(default_factory=list)
    mapping_problems: list[str] = field(default_factory=list)
    rows_looked_at: int = 0


def upload_file(actor: Any, brand: Brand, *, name: str, size: int, file: IO[bytes]) -> Import:
    """Store a file and propose what it is; what a person said of a file with the same head is remembered.

    A workbook or an archive is only stored: a worker looks into it. Raises Problem with what to do
    when the file cannot be read. Nothing but the upload itself is stored.
    """
    require(actor, brand, "sources.files")
    name = _kept_name(name)
    item = Import(brand=brand, created_by=actor, created_at=clock.now(), file_name=name[:255], size=size)
    try:
        form = form_of(name, size, file)
        with transaction.atomic():
            item.digest = store.digest_of(file)
            item.save()
            store.keep(item, file)
            if form.is_packed:
                waiting.have_looked_into(item)
            else:
                look_first(item, form, file)
            item.save()
    except FileError as error:
        raise Problem("file_unreadable", str(error)) from None
    return item


def look_first(item: Import, form: Form, file: IO[bytes]) -> None:
    """Look into a file that was never looked into, and propose what it is. Raises FileError."""
    found = look(form, file, item.size)
    if not found.sample:
        raise FileError(f"“{item.file_name}” has a head but no rows. Is it the right file?")
    take(item, found)
    item.kind = found.table.own_table or propose_kind(item.header, item.sample)
    propose(item, found, known=remembered(item, None))
    accounts.count(item, file)


def _kept_name(name: str) -> str:
    return name.replace("\x00", "").encode("utf-8", "replace").decode() or "file"


@dataclass(frozen=True, kw_only=True)
class Looked:
    """A file that was looked into: its table, rows as they may be kept with their numbers, how many there are."""

    table: Table
    header: list[str]
    sample: list[list[object]]
    numbers: list[int]
    spread: list[list[object]]
    row_count: int
    is_exact: bool


def look(form: Form, file: IO[bytes], size: int) -> Looked:
    """The first rows, rows from all over the file where it is small enough to be read through, how many there are."""
    file.seek(0)
    table = open_table(form, file if form.is_packed else cast(IO[bytes], _Unclosed(file)))
    header = [_kept_name(name)[:LONGEST_NAME] if name else "" for name in table.header]
    wanted = max(30, min(SAMPLE_ROWS, SAMPLE_CELLS // max(1, len(header))))
    first = list(islice(table.rows, wanted))
    sample = [[_kept(cell) for cell in row] for _, row in first]
    if len(first) < wanted:
        return Looked(table=table, header=header, sample=sample, numbers=[n for n, _ in first], spread=[],
                       row_count=len(sample), is_exact=True)  # fmt: skip
    spread: list[list[object]] = []
    if size <= COUNTED_BYTES and table.form.form not in ("xlsx", "ods"):
        step, count = 1, 0
        last: deque[list[object]] = deque(maxlen=LAST_ROWS)
        for count, (_, row) in enumerate(table.rows, 1):
            last.append(row)
            if count % step == 0:
                spread.append(row)
            if len(spread) > SPREAD_ROWS:
                spread, step = spread[1::2], step * 2
        spread += last
        kept = [[_kept(cell) for cell in row] for row in spread] if len(header) <= 60 else []
        return Looked(table=table, header=header, sample=sample, numbers=[n for n, _ in first], spread=kept,
                       row_count=len(sample) + count, is_exact=True)  # fmt: skip
    read = sum(len(str(cell)) + 1 for row in sample for cell in row) or 1
    packed = 6 if table.form.is_packed else 1
    return Looked(
        table=table, header=header, sample=sample, numbers=[n for n, _ in first], spread=[],
        row_count=max(len(sample), size * packed * len(sample) // read), is_exact=False,
    )  # fmt: skip


class _Unclosed:
    """A file that the text layer around it must not close."""

    def __init__(self, file: IO[bytes]) -> None:
        self._file = file

    def __getattr__(self, name: str) -> Any:
        return getattr(self._file, name)

    def close(self) -> None:
        """Left open."""


def _kept(cell: object) -> object:
    """A cell as the database may keep it: no NUL, no half characters, no number beyond all size."""
    if isinstance(cell, str):
        return cell[:LONGEST_CELL].replace("\x00", "").encode("utf-8", "replace").decode()
    if isinstance(cell, float) and (cell != cell or abs(cell) == float("inf")):
        return str(cell)
    return str(cell) if isinstance(cell, int) and abs(cell) > 1 << 80 else cell


def take(item: Import, found: Looked) -> None:
    """Keep what was seen of a file: its head, its first rows, rows from all over, how many there are."""
    item.header, item.sample, item.sample_rows, item.spread = found.header, found.sample, found.numbers, found.spread
    item.row_count, item.is_exact = found.row_count, found.is_exact


def remembered(item: Import, profile_id: int | None) -> Import | None:
    """The latest file with this head that stayed in: of the profile that is chosen, else of whichever there is."""
    found = Import.objects.filter(brand=item.brand, header=item.header, state="done", is_forgotten=False)
    if profile_id is not None:
        found = found.filter(profile_id=profile_id)
    return found.exclude(pk=item.pk).order_by("-pk").first()


def propose(item: Import, found: Looked, *, known: Import | None) -> None:
    """Kind, columns, and how the file is written: what it says itself, then what was told of the last one like it."""
    own = found.table.own_table
    if known and not own:
        item.kind = known.kind
    kind = KINDS[item.kind]
    item.mapping = known.mapping if known and not own else proposed(item)
    form = found.table.form
    kept = known.options if known else {}
    item.options = {
        **_form_values(form), "decimal": "", "date_order": "", "zone": "", "as_of": "",
        "currency": kept.get("currency", ""), "formats": kept.get("formats", {}),
    }  # fmt: skip
    item.detected = {
        **_form_values(form), "sheets": list(form.sheets), "own_table": own, "is_remembered": known is not None,
        "remembered_of": known.profile.name if known and known.profile else "",
        "profile_id": known.profile_id if known else None, "accounts": [],
    }  # fmt: skip
    settle_writing(item, kept)
    item.options["zone"] = item.detected["zone"] or kept.get("zone") or item.brand.time_zone
    if own and kind.key in KINDS:
        item.options["zone"] = item.detected["zone"] or "UTC"
    settle_moment(item)


def _form_values(form: Form) -> dict[str, Any]:
    values = asdict(replace(form, sheets=()))
    del values["sheets"]
    return values


def settle_writing(item: Import, kept: dict[str, Any]) -> None:
    """What the mapped columns tell of decimal sign, order of dates and zone; what they leave open may be remembered."""
    rows = [*item.sample, *item.spread]
    written = how_written(KINDS[item.kind], item.header, item.mapping, rows, now=item.created_at)
    order = written.order
    remembered = kept.get("date_order", "") if kept.get("date_order") in order.fits and not order.told else ""
    item.detected |= {
        "decimal": written.decimal, "date_order": order.chosen, "date_fits": list(order.fits),
        "date_why": order.why, "zone": written.zone, "has_offsets": written.has_offsets,
        "midnights": _are_days(item, order.chosen or "dmy"), "damaged": _damaged(item),
    }  # fmt: skip
    # What a person has said of this very file stands; a date must still be readable by it.
    told = item.detected.get("told", [])
    if "decimal" not in told:
        item.options["decimal"] = written.decimal or kept.get("decimal", "")
    if "date_order" not in told or item.options.get("date_order") not in order.fits:
        item.options["date_order"] = order.chosen or remembered


def _are_days(item: Import, order: str) -> bool:
    """Whether every instant of the date's column is a midnight: then it tells days, whatever it shows."""
    places = item.mapping.get(KINDS[item.kind].date_field)
    cells = [row[places[0]] for row in [*item.sample, *item.spread] if places and places[0] < len(row)]
    read = [found for cell in cells if not has_offset(cell) and (found := read_date(cell, order)) is not None]
    timed = [found for found in read if found.has_time]
    return len(timed) > 2 and all(found.at.time().isoformat() == "00:00:00" for found in timed)


def _damaged(item: Import) -> list[int]:
    """Columns whose identifiers a spreadsheet has made numbers of and rounded: they tell nothing apart any more."""
    found = []
    for column in range(len(item.header)):
        cells = [row[column] for row in [*item.sample, *item.spread] if column < len(row)]
        told = [cell for cell in cells if cell not in (None, "")]
        if told and (sum(map(is_damaged, told)) > len(told) / 2 or are_rounded(told)):
            found.append(column)
    return found


def settle_moment(item: Import) -> None:
    """Propose as of when the figures stand: an identical file's own word, a day in the name, the newest row, now."""
    kind, zone = KINDS[item.kind], zone_of(item.options["zone"])
    same = Import.objects.filter(brand=item.brand_id, digest=item.digest, state="done").order_by("created_at").first()
    if same is not None:
        at, why = parse_datetime(same.options.get("as_of") or "") or same.created_at, "same file"
    else:
        places = item.mapping.get(kind.date_field, [])
        order = item.options["date_order"] or "dmy"
        rows = [*item.sample, *item.spread]
        newest = newest_in(rows, places[0], zone=zone, order=order, now=item.created_at) if places else None
        found = as_of(item.file_name, newest, now=item.created_at, zone=zone)
        at, why = found.at, found.why
    item.detected["as_of_why"] = why
    item.options["as_of"] = at.isoformat()


def proposed(item: Import) -> dict[str, list[int]]:
    """A column for each field that is recognised; identifiers that a spreadsheet has rounded are none."""
    found = {p.field: [p.column] for p in propose_mapping(KINDS[item.kind], item.header, item.sample)}
    # Posts are told apart by address then, or by instant and text.
    places = found.get("external_id", [])
    cells = [row[c] for row in [*item.sample, *item.spread] for c in places if c < len(row)]
    told = [cell for cell in cells if cell not in (None, "")]
    if told and (sum(map(is_damaged, told)) > len(told) / 2 or are_rounded(told)):
        del found["external_id"]
    return found


def reader_of(item: Import) -> RowReader:
    """The reader of an import's rows as things are settled now."""
    options = ReadOptions(
        zone=zone_of(item.options["zone"]), order=item.options.get("date_order") or "dmy",
        decimal=item.options["decimal"], currency=item.options.get("currency", ""),
        formats=item.options.get("formats", {}), midnights_are_days=bool(item.detected.get("midnights")),
    )  # fmt: skip
    return RowReader(KINDS[item.kind], item.header, item.mapping, options, now=item.created_at)


def preview_of(item: Import) -> Preview:
    """Read the sample by what is settled now."""
    problems = problems_of_mapping(KINDS[item.kind], item.mapping, item.header)
    if not item.options.get("date_order"):
        problems.append(CHOOSE_ORDER)
    if problems:
        return Preview(mapping_problems=problems)
    reader = reader_of(item)
    items: list[tuple[int, dict[str, Any]]] = []
    row_problems: list[RowProblem] = []
    numbers = item.sample_rows or range(2, len(item.sample) + 2)
    for number, row in zip(numbers, item.sample, strict=False):
        try:
            items.append((number, reader.read(row, number)))
        except RowError as error:
            row_problems.append(RowProblem(row=number, column=error.column, message=error.message))
    return Preview(
        items=items, problems=row_problems, rows_looked_at=len(item.sample), notes=list(reader.notes.found.values())
    )


def date_choices(item: Import) -> list[dict[str, Any]]:
    """Where the order of dates is the person's to choose: the first dates, as each order reads them."""
    fits = item.detected.get("date_fits", [])
    places = item.mapping.get(KINDS[item.kind].date_field, [])
    if len(fits) < 2 or not places:
        return []
    cells = [str(row[places[0]]) for row in item.sample if places[0] < len(row) and row[places[0]]]
    told = list(dict.fromkeys(cells))[:SHOWN_DATES]
    return [
        {
            "order": order, "name": ORDERS[order],
            "rows": [
                {"written": text[:60], "read": read.at.isoformat() if (read := read_date(text, order)) else ""}
                for text in told
            ],
        }
        for order in fits
    ]  # fmt: skip


def unknown_formats(item: Import) -> list[str]:
    """The file's own words for formats that are not understood, in the sample."""
    places = item.mapping.get("format", [])
    if item.kind != "posts" or not places:
        return []
    reader = reader_of(item)
    found: dict[str, str] = {}
    for row in [*item.sample, *item.spread]:
        word = str(row[places[0]] or "").strip() if places[0] < len(row) else ""
        if word and not reader.knows_format(word):
            found.setdefault(fold(word), word[:60])
    told = {key: key for key in item.options.get("formats", {})}
    return list({**{k: k for k in told}, **found}.values())[:30]


def discard_file(actor: Any, item: Import) -> None:
    """Throw an upload away that was not confirmed."""
    require(actor, item.brand, "sources.files")
    with transaction.atomic():
        if item.state != Import.State.LOOKING:
            require_waiting(item)
        item.state, item.sample, item.spread = Import.State.DISCARDED, [], []
        item.save(update_fields=["state", "sample", "spread"])
        store.throw_away(item)


def require_waiting(item: Import) -> None:
    """Raise Conflict, in words, for a file that does not wait for a person any more."""
    words = {
        "looking": "This file is being looked into.", "running": "This file is being brought in.",
        "done": "This file was brought in already.",
        "discarded": "This file was thrown away.",
    }  # fmt: skip
    if item.state != Import.State.WAITING:
        raise Conflict("import_over", words.get(item.state, "This file was taken out again. Upload it anew."))


def as_of_of(item: Import) -> datetime:
    """The moment of which an import's figures are: as it was settled, never before it is known."""
    return parse_datetime(item.options.get("as_of") or "") or item.created_at
