"""Bringing a file's rows in: a batch, its problems and the place in the file are committed together.

A worker that is killed is followed by one that goes on behind the last batch; nothing comes twice.
"""

from collections.abc import Iterator
from contextlib import suppress
from itertools import islice
from typing import IO, Any

from dakika_core.sources.files.delimited import FileError
from dakika_core.sources.files.rows import Notes, RowError, RowProblem, RowReader
from dakika_core.sources.files.shapes import NumberedRow
from django.conf import settings
from django.db import connection, transaction

from dakika_server.shared import clock
from dakika_server.sources.files import store
from dakika_server.sources.files.accounts import form_of_item
from dakika_server.sources.files.confirming import is_large
from dakika_server.sources.files.forms import Form
from dakika_server.sources.files.rows_in import AS_SHARES, INTAKES, RECOUNTS, Batch, BatchIn, Places
from dakika_server.sources.files.tables import open_table
from dakika_server.sources.files.upload import reader_of
from dakika_server.sources.models import Import, ImportProblem, Profile
from dakika_server.sources.rebuilding import request_rebuild
from dakika_server.sources.told import tell_of_file

ROWS_AT_ONCE = 25_000
# The first batches are small, so that progress is seen at once and a wrong file is known soon.
ROWS_AT_FIRST = 2_000
MOST_PROBLEMS_KEPT = 100_000


class TakenOver(Exception):
    """Somebody took the file back, or another worker goes on with it: this one stops without a word."""


def read_into(import_id: int) -> None:
    """Bring the rows in from where the last worker stopped. Run again when it is over, it does nothing."""
    item = Import.objects.select_related("brand", "profile").filter(pk=import_id, state=Import.State.RUNNING).first()
    if item is None:
        return
    form = form_of_item(item)
    try:
        with _opened(item, form) as file:
            _read(item, reader_of(item), open_table(form, file, item.header, is_whole=True).rows)
    except TakenOver:
        return
    except FileError as error:
        _end(
            item,
            Import.State.FAILED,
            f"{error} The {item.rows_read:,} rows before were brought in; undo takes them out.",
        )
        return
    _end(item, Import.State.DONE, "")


def _opened(item: Import, form: Form) -> IO[bytes]:
    return store.on_disk(item) if form.is_packed else store.buffered(item)


def _read(item: Import, reader: RowReader, rows: Iterator[NumberedRow]) -> None:
    places = Places(item)
    notes = Notes.of(item.notes)
    for number, row in islice(rows, item.rows_read):
        # Told again, for the places of rows alike; what there is to say of them was said.
        with suppress(RowError):
            if item.kind in RECOUNTS:
                RECOUNTS[item.kind](places, reader.read(row, number))
    reader.notes = notes
    while True:
        at_once = ROWS_AT_FIRST if item.rows_read < ROWS_AT_FIRST else ROWS_AT_ONCE
        batch: list[tuple[int, dict[str, Any]]] = []
        problems: list[tuple[RowProblem, list[object]]] = []
        count = 0
        for number, row in islice(rows, at_once):
            count += 1
            try:
                batch.append((number, reader.read(row, number)))
            except RowError as error:
                problems.append((RowProblem(row=number, column=error.column, message=error.message), row))
        if count == 0:
            return
        _commit(item, batch, problems, count, places, notes)
        if item.rows_read >= settings.IMPORT_MAX_ROWS:
            raise FileError(f"The file has more than {settings.IMPORT_MAX_ROWS:,} rows.")


def _commit(
    item: Import, batch: Batch, problems: list[tuple[RowProblem, list[object]]], count: int, places: Places,
    notes: Notes,
) -> None:  # fmt: skip
    with transaction.atomic(), connection.cursor() as cursor:
        # Somebody may have taken the file back in between; and two workers never read the same file.
        held = Import.objects.select_for_update().filter(
            pk=item.pk, state=Import.State.RUNNING, rows_read=item.rows_read
        )
        if not held.exists():
            raise TakenOver
        _require_profiles(item)
        took = INTAKES[item.kind](cursor, item, batch, places) if batch else BatchIn()
        for column, message, row in took.notes:
            notes.add(column, message, row)
        cells = {number: values for number, values in batch} if took.problems else {}  # noqa: C416 (a copy by row)
        kept = [(p, row) for p, row in problems]
        kept += [(p, _cells_of(item, cells.get(p.row, {}))) for p in took.problems]
        _keep_problems(item, kept)
        item.rows_read += count
        item.accepted += len(batch) - len(took.problems)
        item.refused += len(kept)
        item.added += took.added
        item.posts_added += took.posts_added
        item.known += took.known
        item.together += took.together
        item.notes = notes.as_list()
        item.profiles_touched = sorted({*item.profiles_touched, *took.profiles})
        if took.days:
            item.first_day = min(filter(None, (item.first_day, took.days[0])))
            item.last_day = max(filter(None, (item.last_day, took.days[1])))
        item.save(update_fields=_COUNTED)


_COUNTED = [
    "rows_read", "accepted", "refused", "added", "posts_added", "known", "together", "notes", "profiles_touched",
    "first_day", "last_day",
]  # fmt: skip


def _require_profiles(item: Import) -> None:
    """The profiles that the rows go to, held until the batch is in. One that was erased meanwhile ends the file."""
    into = item.options.get("into")
    wanted = {into} if into else {
        one["profile_id"] for one in item.options.get("accounts", []) if one["profile_id"]
    }  # fmt: skip
    if not wanted:
        return
    here = set(
        Profile.objects.select_for_update(of=("self",), no_key=True).filter(pk__in=wanted, brand=item.brand_id)
        .order_by("pk").values_list("pk", flat=True)
    )  # fmt: skip
    if wanted - here:
        raise FileError("The profile was erased while the file came in.")


def _cells_of(item: Import, values: dict[str, Any]) -> list[object]:
    """The cells of a row that was understood but found no place, in the order of the file as far as they are mapped."""
    cells: list[object] = [""] * len(item.header)
    for key, places in item.mapping.items():
        if places and places[0] < len(cells):
            cells[places[0]] = values.get(key)
    return cells


def _keep_problems(item: Import, problems: list[tuple[RowProblem, list[object]]]) -> None:
    room = max(0, MOST_PROBLEMS_KEPT - item.refused)
    ImportProblem.objects.bulk_create(
        [
            ImportProblem(
                item=item, row=p.row, column=p.column[:200], message=p.message[:300],
                cells=["" if c is None else str(c)[:2000].replace("\x00", "") for c in row],
            )
            for p, row in problems[:room]
        ],
        ignore_conflicts=True,
    )  # fmt: skip


def _end(item: Import, state: Import.State, message: str) -> None:
    with transaction.atomic(), connection.cursor() as cursor:
        if item.kind == "audience":
            cursor.execute(AS_SHARES, {"import": item.pk})
        item.state, item.message, item.ended_at = state, message[:500], clock.now()
        item.row_count, item.is_exact, item.spread = item.rows_read, True, []
        item.save(update_fields=["state", "message", "ended_at", "row_count", "is_exact", "spread"])
        store.throw_away(item)
        tell_of_file(item)
    after_rows_changed(item)


def after_rows_changed(item: Import) -> None:
    """Have worked out anew what follows from the rows of the profiles that a file touched."""
    for profile in Profile.objects.filter(pk__in=item.profiles_touched).select_related("brand"):
        request_rebuild(profile, is_large=is_large(item))
