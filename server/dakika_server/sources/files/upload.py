"""Uploading a file, and what is settled before a row comes in: kind, mapping, how it is written, whose it is."""

import uuid
from dataclasses import dataclass, field
from itertools import islice
from typing import IO, Any, cast

from dakika_core.sources.delimited import FileError
from dakika_core.sources.formats import how_written, zone_of
from dakika_core.sources.kinds import KINDS
from dakika_core.sources.mapping import problems_of_mapping, propose_kind, propose_mapping
from dakika_core.sources.rows import ReadOptions, RowError, RowProblem, RowReader
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require_editor
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.sources.files import store
from dakika_server.sources.files.tables import Form, checked_form, form_of, open_rows
from dakika_server.sources.models import Import, Profile

SAMPLE_ROWS = 300
# Below this the rows are counted; above, estimated from the size until they are read.
COUNTED_BYTES = 8 * 1024 * 1024
LONGEST_CELL = 2000
PER_ROW = "rows"
# What belongs to the brand itself.
OF_NO_PROFILE = ("clicks", "conversions")


@dataclass(frozen=True, kw_only=True)
class Preview:
    """What an import would bring, from its first rows: items with their row, problems, what keeps it from use."""

    items: list[tuple[int, dict[str, Any]]] = field(default_factory=list)
    problems: list[RowProblem] = field(default_factory=list)
    mapping_problems: list[str] = field(default_factory=list)
    rows_looked_at: int = 0


def upload_file(actor: Any, brand: Brand, *, name: str, size: int, file: IO[bytes]) -> Import:
    """Store a file and propose what it is; what a person said of a file with the same head is remembered.

    Raises Problem with what to do when it cannot be read. Nothing but the upload itself is stored.
    """
    require_editor(actor, brand)
    try:
        form = form_of(name, size, file)
        header, sample, row_count, is_exact = _look(form, file, size)
    except FileError as error:
        raise Problem("file_unreadable", str(error)) from None
    if not sample:
        raise Problem("file_unreadable", f"“{name}” has a head but no rows. Is it the right file?")
    digest = store.digest_of(file)
    with transaction.atomic():
        item = Import(
            brand=brand, created_by=actor, created_at=clock.now(), file_name=name[:255], size=size, digest=digest,
            header=header, sample=sample, row_count=row_count, is_exact=is_exact,
        )  # fmt: skip
        _propose(item, form)
        item.save()
        file.seek(0)
        store.keep(item, file)
    return item


def _look(form: Form, file: IO[bytes], size: int) -> tuple[list[str], list[list[object]], int, bool]:
    """Header, the first rows as they may be kept, how many rows there are, and whether they were counted."""
    file.seek(0)
    header, rows = open_rows(form, cast(IO[bytes], _Unclosed(file)))
    sample = [[_kept(cell) for cell in row] for row in islice(rows, SAMPLE_ROWS)]
    if len(sample) < SAMPLE_ROWS:
        return header, sample, len(sample), True
    if size <= COUNTED_BYTES and form.form != "xlsx":
        return header, sample, len(sample) + sum(1 for _ in rows), True
    read = sum(len(str(cell)) + 1 for row in sample for cell in row) or 1
    packed = 6 if form.form == "xlsx" else 1
    return header, sample, max(len(sample), size * packed * len(sample) // read), False


class _Unclosed:
    """A file that the text layer around it must not close."""

    def __init__(self, file: IO[bytes]) -> None:
        self._file = file

    def __getattr__(self, name: str) -> Any:
        return getattr(self._file, name)

    def close(self) -> None:
        """Left open."""


def _kept(cell: object) -> object:
    return cell[:LONGEST_CELL].replace("\x00", "") if isinstance(cell, str) else cell


def _propose(item: Import, form: Form) -> None:
    known = (
        Import.objects.filter(brand=item.brand, header=item.header, state__in=["done", "undone"])
        .order_by("-pk")
        .first()
    )
    item.kind = known.kind if known else propose_kind(item.header, item.sample)
    kind = KINDS[item.kind]
    item.mapping = known.mapping if known else _proposed(item)
    written = how_written(kind, item.header, item.mapping, item.sample)
    item.detected = {
        "form": form.form, "encoding": form.encoding, "delimiter": form.delimiter, "decimal": written.decimal,
        "is_day_first": written.is_day_first, "zone": written.zone, "has_offsets": written.has_offsets,
        "is_remembered": known is not None,
    }  # fmt: skip
    kept = known.options if known else {}
    item.options = {
        "form": form.form, "encoding": form.encoding, "delimiter": form.delimiter,
        "decimal": written.decimal or kept.get("decimal", ""),
        "is_day_first": written.is_day_first if written.is_day_first is not None else kept.get("is_day_first", True),
        "zone": written.zone or kept.get("zone") or item.brand.time_zone,
    }  # fmt: skip


def _proposed(item: Import) -> dict[str, int]:
    return {p.field: p.column for p in propose_mapping(KINDS[item.kind], item.header, item.sample)}


def reader_of(item: Import) -> RowReader:
    """The reader of an import's rows as things are settled now."""
    options = ReadOptions(
        zone=zone_of(item.options["zone"]), is_day_first=item.options["is_day_first"], decimal=item.options["decimal"]
    )
    return RowReader(KINDS[item.kind], item.header, item.mapping, options, now=item.created_at)


def preview_of(item: Import) -> Preview:
    """Read the sample by what is settled now."""
    problems = problems_of_mapping(KINDS[item.kind], item.mapping, item.header)
    if problems:
        return Preview(mapping_problems=problems)
    reader = reader_of(item)
    items: list[tuple[int, dict[str, Any]]] = []
    row_problems: list[RowProblem] = []
    for number, row in enumerate(item.sample, start=2):
        try:
            items.append((number, reader.read(row)))
        except RowError as error:
            row_problems.append(RowProblem(row=number, column=error.column, message=error.message))
    return Preview(items=items, problems=row_problems, rows_looked_at=len(item.sample))


def settle_file(
    actor: Any, item: Import, *, kind: str | None = None, mapping: dict[str, int] | None = None,
    options: dict[str, Any] | None = None,
) -> Import:  # fmt: skip
    """Take the person's word on the kind, on which column is what, and on how the cells are written.

    Another kind brings its own proposal; another encoding or delimiter reads the beginning anew.
    Raises ValidationError for what there is not, Conflict once the file was brought in.
    """
    require_editor(actor, item.brand)
    _require_waiting(item)
    if kind is not None and kind != item.kind:
        if kind not in KINDS:
            raise field_errors({"kind": "There is no such kind of file."})
        item.kind = kind
        item.mapping = _proposed(item)
    if mapping is not None:
        unknown = set(mapping) - set(KINDS[item.kind].by_key)
        if unknown:
            raise field_errors({"mapping": f"There is no field {sorted(unknown)[0]}."})
        item.mapping = mapping
    if options:
        _settle_options(item, options)
    item.save(update_fields=["kind", "mapping", "options", "header", "sample", "row_count", "is_exact"])
    return item


def _settle_options(item: Import, options: dict[str, Any]) -> None:
    settled = {**item.options, **{k: v for k, v in options.items() if k in item.options and k != "form"}}
    try:
        zone_of(settled["zone"])
    except ValueError as error:
        raise field_errors({"zone": str(error)}) from None
    if settled["decimal"] not in ("", ".", ","):
        raise field_errors({"decimal": "Choose the point or the comma."})
    form = Form(form=settled["form"], encoding=settled["encoding"], delimiter=settled["delimiter"])
    is_other = (form.encoding, form.delimiter) != (item.options["encoding"], item.options["delimiter"])
    if is_other:
        try:
            with store.on_disk(item) as file:
                found = _look(checked_form(form), file, item.size)
        except FileError as error:
            raise field_errors({"encoding": str(error)}) from None
        item.header, item.sample, item.row_count, item.is_exact = found
        item.mapping = _proposed(item)
    item.options = settled


def confirm_file(
    actor: Any, item: Import, *, profile_id: int | None = None, new_profile: str = "", network: str = "",
    is_per_row: bool = False,
) -> Import:  # fmt: skip
    """Begin bringing the rows in: into a profile, a new one, or the profiles that the rows name.

    Raises Problem when no row of the sample can be read, Conflict when the import is over already.
    """
    from dakika_server.sources.jobs import read_file

    require_editor(actor, item.brand)
    with transaction.atomic():
        item = Import.objects.select_for_update(of=("self",)).select_related("brand").get(pk=item.pk)
        _require_waiting(item)
        preview = preview_of(item)
        if preview.mapping_problems:
            raise Problem("mapping_incomplete", preview.mapping_problems[0])
        if not preview.items:
            raise Problem("nothing_to_import", "No row can be read. Correct the mapping, or the file.")
        if item.kind not in OF_NO_PROFILE:
            item.profile = None if is_per_row else _target(item, profile_id, new_profile, network)
            if is_per_row and not {"profile_handle", "profile_network"} <= set(item.mapping):
                raise field_errors({"profile_id": "Say which columns hold the profile's network and handle."})
        item.state = Import.State.RUNNING
        item.save(update_fields=["profile", "state"])
        audit.record(actor, "import_file", item, brand_id=item.brand_id)
        read_file.defer(import_id=item.pk)
    return item


def discard_file(actor: Any, item: Import) -> None:
    """Throw an upload away that was not confirmed."""
    require_editor(actor, item.brand)
    with transaction.atomic():
        _require_waiting(item)
        item.state, item.sample = Import.State.DISCARDED, []
        item.save(update_fields=["state", "sample"])
        store.throw_away(item)


def undo_file(actor: Any, item: Import) -> Import:
    """Begin taking out again what a file brought, or is bringing. Raises Conflict when there is nothing to take out."""
    from dakika_server.sources.jobs import undo_file as job

    require_editor(actor, item.brand)
    with transaction.atomic():
        item = Import.objects.select_for_update(of=("self",)).select_related("brand").get(pk=item.pk)
        if item.state not in (Import.State.DONE, Import.State.FAILED, Import.State.RUNNING):
            raise Conflict("import_not_done", "Only a file that was brought in can be undone.")
        item.state = Import.State.UNDOING
        item.save(update_fields=["state"])
        audit.record(actor, "undo_import", item, brand_id=item.brand_id)
        job.defer(import_id=item.pk)
    return item


def _require_waiting(item: Import) -> None:
    words = {
        "running": "This file is being brought in.", "done": "This file was brought in already.",
        "discarded": "This file was thrown away.",
    }  # fmt: skip
    if item.state != Import.State.WAITING:
        raise Conflict("import_over", words.get(item.state, "This file was taken out again. Upload it anew."))


def _target(item: Import, profile_id: int | None, new_profile: str, network: str) -> Profile:
    brand = item.brand
    if profile_id is not None:
        found = Profile.objects.filter(brand=brand, pk=profile_id).select_related("brand").first()
        if found is None:
            raise field_errors({"profile_id": "Choose one of the brand's profiles."})
        return found
    if not new_profile.strip():
        raise field_errors({"profile_id": "Choose the profile that the rows belong to."})
    key = "-".join(network.strip().lower().split())
    if not key or len(key) > 40 or not key.replace("-", "").replace("_", "").isalnum():
        raise field_errors({"network": "Name the network that the profile is on, in at most 40 letters."})
    return Profile.objects.create(
        brand=brand, network=key, external_id=f"file:{uuid.uuid4()}", handle=new_profile.strip()[:200],
        name=new_profile.strip()[:200], kind=Profile.Kind.OWN, added_at=clock.now(),
    )  # fmt: skip
