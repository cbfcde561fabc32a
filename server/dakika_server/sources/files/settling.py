"""What a person says of a file before it comes in: each word reads the beginning anew, and the rest follows."""

from collections.abc import Callable
from datetime import timedelta
from typing import IO, Any

from dakika_core.sources.files.dates import fold
from dakika_core.sources.files.delimited import FileError
from dakika_core.sources.files.formats import zone_of
from dakika_core.sources.files.kinds import KINDS
from dakika_core.sources.files.mapping import propose_kind
from dakika_core.sources.files.numbers import CURRENCIES
from django.db import transaction
from django.utils.dateparse import parse_datetime

from dakika_server.brands.permissions import require
from dakika_server.shared.errors import field_errors
from dakika_server.sources.files import accounts, store, waiting
from dakika_server.sources.files.accounts import form_of_item
from dakika_server.sources.files.forms import checked_form
from dakika_server.sources.files.upload import (
    ORDERS,
    look,
    propose,
    proposed,
    remembered,
    require_waiting,
    settle_moment,
    settle_writing,
    take,
)
from dakika_server.sources.models import Import, Profile


def settle_file(
    actor: Any, item: Import, *, kind: str | None = None, mapping: dict[str, list[int]] | None = None,
    options: dict[str, Any] | None = None, profile_id: int | None = None, is_forgotten: bool = False,
) -> Import:  # fmt: skip
    """Take the person's word on the kind, on which column is what, on how the cells are written, and as of when.

    Another kind brings its own proposal; another sheet, head, layout, encoding or delimiter reads
    the beginning anew; another profile brings what was told of its last file. Raises ValidationError
    for what there is not, Conflict once the file was brought in. Where a workbook or an archive must
    be opened for it, a worker does so: the file is *looking* until then.
    """
    require(actor, item.brand, "sources.files")
    asked = {
        "kind": kind, "mapping": mapping, "options": options, "profile_id": profile_id, "is_forgotten": is_forgotten,
    }  # fmt: skip
    with transaction.atomic():
        # Whoever brings it in or throws it away at the same time comes before or after, never in between.
        held = Import.objects.select_for_update(of=("self",)).select_related("brand", "profile")
        item = held.get(pk=item.pk)
        require_waiting(item)
        is_packed = form_of_item(item).is_packed
        try:
            take_word(item, asked, _not_here if is_packed else lambda: store.on_disk(item))
            item.message = ""
        except _NotHere:
            item = held.get(pk=item.pk)
            waiting.have_looked_into(item, asked)
        item.save()
    return item


class _NotHere(Exception):
    """The file would have to be opened, which is the worker's."""


def _not_here() -> IO[bytes]:
    raise _NotHere


def take_word(item: Import, asked: dict[str, Any], opened: Callable[[], IO[bytes]]) -> None:
    """settle_file's work on the item, which is not saved. `opened` gives the file where it must be read again."""
    kind, mapping, options, profile_id = (asked[name] for name in ("kind", "mapping", "options", "profile_id"))
    if asked["is_forgotten"]:
        Import.objects.filter(brand=item.brand, header=item.header).exclude(pk=item.pk).update(is_forgotten=True)
        _propose_anew(item, None, opened)
    elif profile_id is not None and profile_id != item.detected.get("profile_id"):
        _take_target(item, profile_id, opened)
    if kind is not None and kind != item.kind:
        if kind not in KINDS:
            raise field_errors({"kind": "There is no such kind of file."})
        item.kind = kind
        item.mapping = proposed(item)
        settle_writing(item, {})
        settle_moment(item)
    if mapping is not None:
        unknown = set(mapping) - set(KINDS[item.kind].by_key)
        if unknown:
            raise field_errors({"mapping": f"There is no field {sorted(unknown)[0]}."})
        date_field = KINDS[item.kind].date_field
        is_dated_otherwise = mapping.get(date_field) != item.mapping.get(date_field)
        item.mapping = {key: list(places) for key, places in mapping.items() if places}
        settle_writing(item, item.options)
        if is_dated_otherwise and "as_of" not in item.detected.get("told", []):
            settle_moment(item)
    if options:
        _settle_options(item, options, opened)
    if accounts.is_outdated(item):
        with opened() as file:
            accounts.count(item, file)


def _take_target(item: Import, profile_id: int, opened: Callable[[], IO[bytes]]) -> None:
    """The profile that the rows shall belong to: what was told of its last file counts, another profile's does not.

    0 stands for a profile that is new, of which nothing was told yet.
    """
    if profile_id and not Profile.objects.filter(brand=item.brand, pk=profile_id).exists():
        raise field_errors({"profile_id": "Choose one of the brand's profiles."})
    known = remembered(item, profile_id) if profile_id else None
    if known is not None or item.detected.get("is_remembered"):
        _propose_anew(item, known, opened)
    item.detected["profile_id"] = profile_id or None


def _propose_anew(item: Import, known: Import | None, opened: Callable[[], IO[bytes]]) -> None:
    with opened() as file:
        found = look(form_of_item(item), file, item.size)
        if known is None:
            item.kind = found.table.own_table or propose_kind(item.header, item.sample)
        propose(item, found, known=known)
        accounts.count(item, file)


def _settle_options(item: Import, options: dict[str, Any], opened: Callable[[], IO[bytes]]) -> None:
    settled = {**item.options, **{k: v for k, v in options.items() if k in item.options and k != "form"}}
    try:
        zone_of(settled["zone"])
    except ValueError as error:
        raise field_errors({"zone": str(error)}) from None
    if settled["decimal"] not in ("", ".", ","):
        raise field_errors({"decimal": "Choose the point or the comma."})
    if settled["date_order"] not in ("", *ORDERS):
        raise field_errors({"date_order": "Choose whether the day, the month or the year comes first."})
    if settled["currency"] and settled["currency"] not in CURRENCIES:
        raise field_errors({"currency": "Name the currency by its code of three letters, such as EUR."})
    settled["formats"] = {fold(word)[:60]: known for word, known in dict(settled["formats"]).items()}
    settled["as_of"] = _checked_moment(item, settled["as_of"])
    if "sheet" in options and options["sheet"] != item.options["sheet"]:
        settled |= {"head_row": 0, "head_lines": 0, "layout": ""}
        settled |= {"encoding": "", "delimiter": ""} if settled["form"] == "zip" else {}
    elif "head_row" in options:
        settled |= {"head_lines": options.get("head_lines", 0), "layout": ""}
    item.detected["told"] = sorted({*item.detected.get("told", []), *options})
    names = ("encoding", "delimiter", "sheet", "head_row", "head_lines", "layout")
    is_other = any(settled[name] != item.options[name] for name in names)
    item.options = settled
    if is_other:
        _reread(item, opened)
    elif options.get("zone") and "as_of" not in options and item.detected.get("as_of_why") in ("name", "newest"):
        settle_moment(item)


def _reread(item: Import, opened: Callable[[], IO[bytes]]) -> None:
    """Look into the file anew, by what was told of its sheet, head, layout, encoding and delimiter."""
    told = dict(item.options)
    try:
        form = form_of_item(item)
        with opened() as file:
            found = look(
                checked_form(form) if not (form.form == "zip" and not form.encoding) else form, file, item.size
            )
    except FileError as error:
        raise field_errors({"encoding": str(error)}) from None
    if not found.sample:
        raise field_errors({"head_row": "No row stands below this head."})
    take(item, found)
    item.kind = found.table.own_table or propose_kind(item.header, item.sample)
    propose(item, found, known=None)
    item.options |= {"zone": told["zone"], "currency": told["currency"], "formats": told["formats"]}
    settle_moment(item)


def _checked_moment(item: Import, text: str) -> str:
    at = parse_datetime(text) if text else None
    if text and (at is None or at.tzinfo is None):
        raise field_errors({"as_of": "Give the moment with its offset, such as 2026-10-31T18:00:00+00:00."})
    if at and at > item.created_at + timedelta(minutes=1):
        raise field_errors({"as_of": "The figures cannot be of a later moment than now."})
    return text
