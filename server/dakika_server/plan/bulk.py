"""Many posts from one table: read, checked row by row, mended in place, made together, taken back together."""

import csv
import io
import logging
import shutil
import tempfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from typing import IO, Any

from dakika_core.plan.bulk import FIELDS, MOST_ROWS, BulkRow, order_in, propose_columns, read_row, spaced
from dakika_core.plan.states import State
from dakika_core.sources.files.delimited import FileError
from dakika_core.sources.files.guard import neutralise
from django.core.exceptions import PermissionDenied
from django.db import OperationalError, transaction
from django.http import Http404
from rest_framework.exceptions import APIException

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.links.actions import Draft, make_link
from dakika_server.media.bringing import add_from_address
from dakika_server.media.checking import check as look_into
from dakika_server.media.models import Asset
from dakika_server.networks.definitions import network_name
from dakika_server.plan.actions import SENT, save_planned_post
from dakika_server.plan.content import Common, VersionInput, check_content, whole
from dakika_server.plan.models import Batch, BatchRow, PlannedPost
from dakika_server.plan.queries import planned_of
from dakika_server.plan.reviewing import rules_of_brand
from dakika_server.plan.saying import on_its_way
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.files.forms import form_of
from dakika_server.sources.files.tables import open_table
from dakika_server.sources.models import Profile
from dakika_server.timing.rhythms import TAKEN_WITHIN, is_taken, slots_between

log = logging.getLogger(__name__)
AHEAD_FOR_SLOTS = timedelta(days=90)
MOST_KEPT = 100
# Beyond so many more rows nobody counts.
MOST_LEFT_OUT = 100_000
TIMES = ("given", "spaced", "slots")
USUAL: dict[str, Any] = {
    "order": "", "times": "given", "first": None, "minutes": 60, "profiles": [], "links": True, "becomes": "draft",
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class RowProblem:
    """What is wrong with a row. field: of FIELDS, or what a network says of it; network: its key, where it is one's."""

    field: str
    message: str
    is_blocking: bool = True
    network: str = ""


@dataclass(frozen=True, kw_only=True)
class CheckedRow:
    """A row as it would be made: its values, its minute, profiles and files that were found, and what is wrong."""

    number: int
    values: Mapping[str, str]
    written_at: str
    at: datetime | None
    profiles: tuple[int, ...]
    media: tuple[int, ...]
    addresses: tuple[str, ...]
    words: tuple[str, ...]
    campaign: int | None
    problems: tuple[RowProblem, ...]
    planned: int | None

    @property
    def is_good(self) -> bool:
        """Whether a post can be made of it."""
        return not any(one.is_blocking for one in self.problems)


def read_table(actor: Any, brand: Brand, *, name: str, size: int, file: IO[bytes]) -> Batch:
    """Bring a table in: its first thousand rows, with columns proposed by their names.

    Raises field errors for what is no table, Conflict where very many wait already.
    """
    require(actor, brand, "plan.write")
    if Batch.objects.filter(brand=brand).count() >= MOST_KEPT:
        raise Conflict("too_many_batches", f"{MOST_KEPT} tables are kept already. Throw some away first.")
    try:
        header, rows, left_out = _first_rows(name, size, file)
    except FileError as error:
        raise field_errors({"file": str(error)}) from None
    if not rows:
        raise field_errors({"file": "The table has a head and no rows."})
    columns = propose_columns(header)
    order = order_in([cells for _, cells in rows], columns, now=clock.now())
    with transaction.atomic():
        batch = Batch.objects.create(
            brand=brand, name=name.replace("\x00", "")[:200], header=[str(one)[:200] for one in header],
            columns=columns, choices={**USUAL, "order": order.chosen}, left_out=left_out, made_by=actor,
            made_at=clock.now(),
        )  # fmt: skip
        BatchRow.objects.bulk_create(
            BatchRow(batch=batch, number=number, cells=[_kept(cell) for cell in cells]) for number, cells in rows
        )
        audit.record(actor, "read_batch", batch, brand_id=brand.pk, rows=len(rows))
    return batch


def _first_rows(name: str, size: int, file: IO[bytes]) -> tuple[list[str], list[tuple[int, list[Any]]], int]:
    """The head of a table, its first rows with their numbers, and how many were left out. Raises FileError.

    A workbook is opened by a process of its own, from a file on disk: a small upload is in memory alone.
    """
    form = replace(form_of(name, size, file), layout="rows")
    rows: list[tuple[int, list[Any]]] = []
    left_out = 0
    with tempfile.TemporaryFile() as copy:
        if form.is_packed:
            shutil.copyfileobj(file, copy)
        table = open_table(form, copy if form.is_packed else file)
        for number, cells in table.rows:
            if len(rows) < MOST_ROWS:
                rows.append((number, list(cells)))
                continue
            left_out += 1
            if left_out == MOST_LEFT_OUT:
                break
    return table.header, rows, left_out


def _kept(cell: object) -> Any:
    """A cell as JSON keeps it: times as ISO 8601, which reads the same."""
    if isinstance(cell, datetime):
        return cell.isoformat() if cell.timetuple()[3:6] != (0, 0, 0) else cell.date().isoformat()
    if isinstance(cell, bool | int | float) or cell is None:
        return cell
    return str(cell).replace("\x00", "")[:20_000]


def set_columns(actor: Any, batch: Batch, *, columns: Mapping[str, int], choices: Mapping[str, Any]) -> Batch:
    """Say which column holds what, and what becomes of the rows. Raises field errors, Conflict for what is made."""
    require(actor, batch.brand, "plan.write")
    if any(key not in FIELDS or not 0 <= at < len(batch.header) for key, at in columns.items()):
        raise field_errors({"columns": "There is no such column."})
    if choices["times"] == "spaced" and choices["first"] is None:
        raise field_errors({"first": "Say when the first one goes out."})
    own = {p.pk for p in _own(batch.brand)}
    if not set(choices["profiles"]) <= own:
        raise field_errors({"profiles": "Choose own profiles that are there."})
    with transaction.atomic():
        batch = _waiting(batch)
        first = choices["first"]
        batch.columns = dict(columns)
        batch.choices = {**choices, "first": first.isoformat() if first else None}
        batch.save()
    return batch


def mend_row(actor: Any, batch: Batch, number: int, values: Mapping[str, str]) -> None:
    """Write another value into fields of a row. Raises Http404, field errors for fields that are none."""
    require(actor, batch.brand, "plan.write")
    if not set(values) <= set(FIELDS):
        raise field_errors({"values": "There is no such field."})
    with transaction.atomic():
        _waiting(batch)
        row = BatchRow.objects.select_for_update().filter(batch=batch, number=number).first()
        if row is None:
            raise Http404
        row.mended = {**row.mended, **{key: value.replace("\x00", "") for key, value in values.items()}}
        row.save(update_fields=["mended"])


def _waiting(batch: Batch) -> Batch:
    found = Batch.objects.select_for_update(of=("self",)).select_related("brand").get(pk=batch.pk)
    if found.state != Batch.State.CHECKED:
        raise Conflict("batch_made", f"The posts of this table are {found.state} already.")
    return found


def _own(brand: Brand) -> list[Profile]:
    found = Profile.objects.filter(brand=brand, kind="own", is_followed=True).select_related("brand", "channel_rules")
    return list(found.order_by("pk"))


class _Known:
    """What a brand has that rows may name: profiles, campaigns, files; read once for all rows."""

    def __init__(self, brand: Brand, names: set[str], pictures: Mapping[str, int]) -> None:
        self.brand, self.profiles = brand, _own(brand)
        self.by_pk = {profile.pk: profile for profile in self.profiles}
        self.campaigns = {one.name.casefold(): one.pk for one in Campaign.objects.filter(brand=brand)}
        called: dict[str, list[Profile]] = {}
        for profile in self.profiles:
            called_by = (
                profile.name,
                profile.handle,
                f"@{profile.handle}",
                profile.network,
                network_name(profile.network),
            )
            for name in {one.casefold() for one in called_by}:
                called.setdefault(name, []).append(profile)
        self.called = called
        # With or without what its name ends in, as people write it.
        wanted = {*names, *(name.rpartition(".")[0] for name in names if "." in name)}
        found = Asset.objects.filter(brand=brand, name__in=wanted).exclude(state=Asset.State.REFUSED).order_by("pk")
        by_name = {asset.name: asset for asset in found.prefetch_related("renditions")}
        # What came with the table goes before others of the same name.
        came = {name.rpartition(".")[0]: pk for name, pk in pictures.items()} | dict(pictures)
        came_with = Asset.objects.filter(brand=brand, pk__in={came[name] for name in names if name in came})
        by_pk = {one.pk: one for one in came_with.exclude(state=Asset.State.REFUSED).prefetch_related("renditions")}
        asked = {
            name: by_pk.get(came.get(name, 0)) or by_name.get(name) or by_name.get(name.rpartition(".")[0])
            for name in names
        }
        self.files = {name: asset for name, asset in asked.items() if asset is not None}

    def profiles_of(self, names: Sequence[str]) -> tuple[list[Profile], list[str]]:
        """Profiles that are named, and what is wrong with the names."""
        found: list[Profile] = []
        wrong = []
        for name in names:
            several = self.called.get(name.casefold(), [])
            if not several:
                wrong.append(f"No own profile or network is called “{name[:40]}”.")
            elif len(several) > 1:
                wrong.append(f"“{name[:40]}” is several profiles: name the network.")
            found += several[:1]
        return list(dict.fromkeys(found)), wrong


def checked_rows(batch: Batch) -> list[CheckedRow]:
    """All rows by the columns and choices of their table, each held against the rules of each of its networks."""
    rows = list(BatchRow.objects.filter(batch=batch).order_by("number"))
    read = [_read(row, batch) for row in rows]
    known = _Known(batch.brand, {name for one in read for name in one.media}, batch.pictures)
    checked = [_checked(one, row, batch, known) for one, row in zip(read, rows, strict=True)]
    return _timed(checked, batch)


def _read(row: BatchRow, batch: Batch) -> BulkRow:
    """A row with what was mended of it: mended cells stand behind the file's own columns."""
    cells, columns = list(row.cells), dict(batch.columns)
    cells += [None] * (len(batch.header) - len(cells))
    if "at" in row.mended:
        # Mended times are written whole.
        columns.pop("time", None)
    for key, value in row.mended.items():
        columns[key] = len(cells)
        cells.append(value)
    return read_row(row.number, cells, columns, batch.choices.get("order") or "dmy")


def _checked(read: BulkRow, row: BatchRow, batch: Batch, known: _Known) -> CheckedRow:
    problems = [RowProblem(field=key, message=said) for key, said in read.problems.items()]
    chosen, wrong = known.profiles_of(read.profiles)
    problems += [RowProblem(field="profiles", message=said) for said in wrong]
    if not read.profiles:
        chosen = [known.by_pk[pk] for pk in batch.choices.get("profiles", []) if pk in known.by_pk]
    if not chosen and not wrong:
        problems.append(RowProblem(field="profiles", message="No profile is named. Choose some for all rows."))
    campaign = known.campaigns.get(read.values["campaign"].casefold()) if read.values["campaign"] else None
    if read.values["campaign"] and campaign is None:
        message = f"There is no campaign called “{read.values['campaign'][:40]}”."
        problems.append(RowProblem(field="campaign", message=message))
    link = read.values["link"]
    if link and not link.startswith(("http://", "https://")):
        problems.append(RowProblem(field="link", message="A link begins with https://."))
    addresses = tuple(one for one in read.media if one.startswith(("http://", "https://")))
    missing = [one for one in read.media if one not in addresses and one not in known.files]
    problems += [
        RowProblem(field="media", message=f"No file of the library is called “{one[:60]}”. Bring it first.")
        for one in missing
    ]
    files = [known.files[one] for one in read.media if one in known.files]
    has_files = not missing and not addresses
    problems += _by_rules(read, chosen, files, has_files=has_files)
    at = read.at
    several = {key: "; ".join(getattr(read, key)) for key in ("profiles", "media", "words")}
    instant = None if at is None else (at if at.tzinfo else at.replace(tzinfo=batch.brand.zone)).astimezone(UTC)
    return CheckedRow(
        number=read.number, values={**read.values, **several}, written_at=_written(at, batch.brand), at=instant,
        profiles=tuple(profile.pk for profile in chosen), media=tuple(asset.pk for asset in files), addresses=addresses,
        words=read.words, campaign=campaign, problems=tuple(problems), planned=row.planned_post_id,
    )  # fmt: skip


def _written(at: datetime | None, brand: Brand) -> str:
    if at is None:
        return ""
    local = at.astimezone(brand.zone) if at.tzinfo else at
    return f"{local:%Y-%m-%d %H:%M}"


def _by_rules(
    read: BulkRow, profiles: Sequence[Profile], files: Sequence[Asset], *, has_files: bool
) -> Iterator[RowProblem]:
    """What each network says of it. Files that are yet to be brought are not held against anything."""
    by_number = {asset.pk: asset for asset in files}
    common = _common(read, tuple(by_number))
    for profile in profiles:
        values = {**whole(common, VersionInput(profile_id=profile.pk), None).values, "options": {}}
        for one in check_content(profile, values, by_number).problems:
            if not has_files and one.part == "media":
                continue
            yield RowProblem(
                field=one.part if one.part in FIELDS else "profiles", message=one.message, is_blocking=one.is_blocking,
                network=profile.network,
            )  # fmt: skip


def _common(read: BulkRow | CheckedRow, media: tuple[int, ...]) -> Common:
    text, link = read.values["text"], read.values["link"]
    if link and link not in text:
        text = f"{text}\n{link}" if text else link
    return Common(text=text, headline=read.values["headline"], first_comment=read.values["first_comment"], media=media)


def _timed(rows: list[CheckedRow], batch: Batch) -> list[CheckedRow]:
    """Each row's minute: as it is given, so far apart, or the next free standing slot of one of its profiles."""
    choices, now = batch.choices, clock.now()
    made = PlannedPost.objects.filter(pk__in=[row.planned for row in rows if row.planned])
    when_made = dict(made.values_list("pk", "scheduled_at"))
    if choices["times"] == "spaced" and choices.get("first"):
        first = datetime.fromisoformat(choices["first"])
        instants: list[datetime | None] = [*spaced(first, int(choices["minutes"]), len(rows))]
    elif choices["times"] == "slots":
        instants = _slots(rows, batch.brand)
    else:
        instants = [row.at for row in rows]
    timed = []
    for row, at in zip(rows, instants, strict=True):
        if row.planned is not None:
            timed.append(replace(row, at=when_made.get(row.planned), problems=()))
            continue
        found = list(row.problems)
        if choices["times"] != "given":
            found = [one for one in found if one.field != "at"]
        if at is None and not any(one.field == "at" for one in found):
            no_slot = choices["times"] == "slots"
            message = "No standing slot of its profiles is free." if no_slot else "It has no time."
            is_blocking = no_slot or choices["becomes"] != "draft"
            found.append(RowProblem(field="at", message=message, is_blocking=is_blocking))
        elif at is not None and at < now:
            found.append(RowProblem(field="at", message="This time has passed."))
        timed.append(replace(row, at=at, problems=tuple(found)))
    return timed


def _slots(rows: Sequence[CheckedRow], brand: Brand) -> list[datetime | None]:
    now = clock.now()
    wanted = sorted({pk for row in rows for pk in row.profiles})
    taken = planned_of(wanted, now - TAKEN_WITHIN, now + AHEAD_FOR_SLOTS + TAKEN_WITHIN)
    free = [slot for slot in slots_between(brand, wanted, now, now + AHEAD_FOR_SLOTS) if not is_taken(slot, taken)]
    instants: list[datetime | None] = []
    used: dict[int, list[datetime]] = {}
    for row in rows:
        if row.planned is not None:
            instants.append(None)
            continue
        slot = next(
            (one for one in free if one.profile_id in row.profiles
             and all(abs(at - one.at) > TAKEN_WITHIN for pk in row.profiles for at in used.get(pk, []))),
            None,
        )  # fmt: skip
        if slot is not None:
            free.remove(slot)
            for pk in row.profiles:
                used.setdefault(pk, []).append(slot.at)
        instants.append(slot.at if slot else None)
    return instants


def begin_making(actor: Any, batch: Batch, *, only_good: bool) -> Batch:
    """Have the posts made by the worker. Raises Conflict where rows are wrong and all are wanted."""
    require(actor, batch.brand, "plan.write")
    if batch.choices["becomes"] == "scheduled" and not rules_of_brand(batch.brand_id).steps:
        require(actor, batch.brand, "plan.publish")
    if batch.choices.get("order", "") == "" and "at" in batch.columns and batch.choices["times"] == "given":
        raise field_errors({"order": "Say how the dates are written: they can be read in more than one order."})
    checked = checked_rows(batch)
    bad = sum(not row.is_good for row in checked)
    if bad and not only_good:
        raise Conflict("rows_wrong", f"{bad} rows are wrong. Mend them, or make the good ones alone.")
    if bad == len(checked):
        raise Conflict("rows_wrong", "No row is right. Mend some first.")
    with transaction.atomic():
        batch = _waiting(batch)
        batch.state, batch.made_by = Batch.State.MAKING.value, actor
        batch.save(update_fields=["state", "made_by"])
        ask("plan.make_batch", batch_id=batch.pk)
        audit.record(actor, "make_batch", batch, brand_id=batch.brand_id)
    return batch


def make_posts(batch_id: int) -> None:
    """Make a post of each good row that has none yet; can be carried on wherever it was cut off."""
    batch = Batch.objects.select_related("brand", "made_by").filter(pk=batch_id, state=Batch.State.MAKING.value).first()
    if batch is None:
        return
    actor = batch.made_by
    # Minutes are given once, before the first of them is taken by what is made here.
    for row in checked_rows(batch):
        if row.planned is None and row.is_good:
            try:
                _make(actor, batch, row)
            except OperationalError:
                raise
            except (APIException, PermissionDenied) as error:
                _note(batch, row, _said(error))
            except Exception:
                # Whatever it is, the others are made, and the table is not being made for ever.
                log.exception("row %s of table %s could not be made", row.number, batch.pk)
                _note(batch, row, "Something went wrong here. Write it by hand, or bring it again.")
    with transaction.atomic():
        Batch.objects.filter(pk=batch.pk, state=Batch.State.MAKING.value).update(state=Batch.State.MADE.value)


def _said(error: Exception) -> str:
    """The first thing that an error says."""
    told = getattr(error, "detail", error)
    first = next(iter(told.values()), told) if isinstance(told, dict) else told
    return str(first[0] if isinstance(first, list) and first else first)


def _note(batch: Batch, row: CheckedRow, message: str) -> None:
    BatchRow.objects.filter(batch=batch, number=row.number).update(problem=message[:500])


def _make(actor: Any, batch: Batch, row: CheckedRow) -> None:
    brand = batch.brand
    media = row.media + tuple(_brought(actor, brand, address) for address in row.addresses)
    common, link = _common(row, media), row.values["link"]
    becomes = batch.choices["becomes"]
    for number, words in zip(media, row.words, strict=False):
        Asset.objects.filter(brand=brand, pk=number, words="").update(words=words[:1000])
    with transaction.atomic():
        kept = BatchRow.objects.select_for_update().get(batch=batch, number=row.number)
        if kept.planned_post_id is not None:
            return
        versions = []
        for pk in row.profiles:
            made = link and batch.choices["links"] and make_link(
                actor, brand, Draft(destination=link, profile_id=pk, campaign_id=row.campaign)
            )  # fmt: skip
            versions.append(VersionInput(profile_id=pk, link_id=made.pk if made else None))
        planned = save_planned_post(
            actor, brand, title=row.values["title"][:200], scheduled_at=row.at, campaign_id=row.campaign, common=common,
            versions=versions,
        )  # fmt: skip
        if row.values["note"]:
            PlannedPost.objects.filter(pk=planned.pk).update(note=row.values["note"])
        if becomes != "draft" and row.at is not None:
            on_its_way(actor, planned, at=row.at)
        kept.planned_post, kept.problem = planned, ""
        kept.save(update_fields=["planned_post", "problem"])


def _brought(actor: Any, brand: Brand, address: str) -> int:
    """The file at an address, brought and looked into. Raises field errors where it could not be had."""
    asset, _ = add_from_address(actor, brand, address)
    if asset.state == Asset.State.CHECKING:
        look_into(asset.pk)
    return asset.pk


def take_back_batch(actor: Any, batch: Batch) -> int:
    """Throw away all posts that were made of a table; how many. Raises Conflict where one of them is out."""
    require(actor, batch.brand, "plan.write")
    with transaction.atomic():
        found = Batch.objects.select_for_update().get(pk=batch.pk)
        if found.state != Batch.State.MADE:
            raise Conflict("batch_not_made", f"The posts of this table are {found.state}.")
        made = list(
            BatchRow.objects.filter(batch=found, planned_post__isnull=False).values_list("planned_post", flat=True)
        )
        posts = PlannedPost.objects.select_for_update().filter(pk__in=made)
        if any(post.state in SENT for post in posts) or posts.filter(versions__state__in=SENT).exists():
            raise Conflict("batch_out", "Some of these posts are out already. Take the others back one by one.")
        if any(post.state == State.SCHEDULED for post in posts):
            require(actor, batch.brand, "plan.publish")
        posts.delete()
        found.state = Batch.State.UNDONE.value
        found.save(update_fields=["state"])
        audit.record(actor, "take_back_batch", found, brand_id=found.brand_id, posts=len(made))
    return len(made)


def throw_away_batch(actor: Any, batch: Batch) -> None:
    """Throw a table away; what was made of it stays. Raises Conflict while its posts are being made."""
    require(actor, batch.brand, "plan.write")
    with transaction.atomic():
        found = Batch.objects.select_for_update().get(pk=batch.pk)
        if found.state == Batch.State.MAKING:
            raise Conflict("batch_making", "Its posts are being made. Wait until they are.")
        audit.record(actor, "throw_away_batch", found, brand_id=found.brand_id)
        found.delete()


def wrong_rows(batch: Batch) -> str:
    """Rows that are wrong, as CSV: the file's own columns, and what is wrong. Formulas are made harmless."""
    out = io.StringIO()
    write = csv.writer(out)
    write.writerow([*map(neutralise, batch.header), "row", "what is wrong"])
    cells = dict(BatchRow.objects.filter(batch=batch).values_list("number", "cells"))
    noted = dict(BatchRow.objects.filter(batch=batch).exclude(problem="").values_list("number", "problem"))
    for row in checked_rows(batch):
        if row.is_good and row.number not in noted:
            continue
        own = [*cells[row.number], *[None] * len(batch.header)][: len(batch.header)]
        said = " ".join([*(one.message for one in row.problems if one.is_blocking), noted.get(row.number, "")]).strip()
        write.writerow([*map(neutralise, own), row.number, said])
    return out.getvalue()


def making() -> list[int]:
    """Tables whose posts are being made."""
    return list(Batch.objects.filter(state=Batch.State.MAKING.value).values_list("pk", flat=True))
