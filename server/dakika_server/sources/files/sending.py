"""Rows that a program of the team sends: they come in as a file with the same rows would, by the same rules."""

import csv
import io
from collections.abc import Sequence
from typing import Any

from dakika_core.sources.files.kinds import KINDS, Kind
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.files.confirming import confirm_file
from dakika_server.sources.files.own import mark_line
from dakika_server.sources.files.upload import OF_NO_PROFILE, upload_file
from dakika_server.sources.models import Import, Profile

MOST_ROWS, LONGEST_VALUE = 10_000, 100_000
_SCALARS = (str, int, float, bool, type(None))


def take_rows(
    actor: Any, brand: Brand, *, kind: str, rows: Sequence[dict[str, Any]], channel: str = "", network: str = "",
    profile_id: int | None = None,
) -> Import:  # fmt: skip
    """Begin bringing rows in; returns the import, which tells what became of them. Raises field errors, Problem.

    kind: what the rows are, its fields being those of an own export. Posts and readings belong to a profile of ours
    (profile_id), or to a channel on a network of any name, which is made with its first rows. What is there already is
    not changed and not doubled, so that the same rows may be sent again.
    """
    require(actor, brand, "sources.files")
    head = _head(KINDS[kind], rows)
    content = _as_file(brand, kind, head, rows)
    with transaction.atomic():
        # Two programs that begin one channel at once make one profile.
        Brand.objects.select_for_update(no_key=True).get(pk=brand.pk)
        name = f"{channel or network or kind}, sent {clock.now():%Y-%m-%d %H:%M}.csv"
        item = upload_file(actor, brand, name=name, size=len(content), file=io.BytesIO(content))
        if kind in OF_NO_PROFILE:
            return confirm_file(actor, item)
        found = _known(brand, channel, network) if profile_id is None else profile_id
        return confirm_file(actor, item, profile_id=found, new_profile=channel, network=network)


def _head(kind: Kind, rows: Sequence[dict[str, Any]]) -> list[str]:
    """The fields that the rows name, in the kind's order. Raises field errors by row for what is none."""
    if not rows:
        raise field_errors({"rows": "Send at least one row."})
    named: set[str] = set()
    for number, row in enumerate(rows, start=1):
        if strange := sorted({*row} - {*kind.by_key}):
            known = ", ".join(kind.by_key)
            raise field_errors(
                {"rows": f"Row {number}: {kind.name} have no field {strange[0][:60]}. They have {known}."}
            )
        for key, value in row.items():
            if not isinstance(value, _SCALARS):
                raise field_errors({"rows": f"Row {number}: {key} is a text, a number, true, false or null."})
            if isinstance(value, str) and len(value) > LONGEST_VALUE:
                raise field_errors({"rows": f"Row {number}: {key} has more than {LONGEST_VALUE} signs."})
        named |= {*row}
    return [key for key in kind.by_key if key in named]


def _known(brand: Brand, channel: str, network: str) -> int | None:
    """The profile of ours that a channel is; None for one that is new."""
    key, handle = "-".join(network.strip().lower().split()), channel.strip().removeprefix("@")
    found = Profile.objects.filter(brand=brand, network=key, handle=handle, kind=Profile.Kind.OWN)
    return found.order_by("pk").values_list("pk", flat=True).first()


def _as_file(brand: Brand, kind: str, head: Sequence[str], rows: Sequence[dict[str, Any]]) -> bytes:
    """The rows in the form of an own export, whose names need no guessing."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(mark_line(kind, brand.name, clock.now().date().isoformat()))
    writer.writerow(head)
    writer.writerows([_cell(row.get(key)) for key in head] for row in rows)
    return out.getvalue().encode("utf-8", "replace")


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    return str(value).replace("\x00", "")
