"""Importing posts from a file: upload, correct the mapping, confirm."""

import hashlib
import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import IO, Any

from dakika_core.sources.delimited import FileError
from dakika_core.sources.mapping import problems_of_mapping, propose_mapping
from dakika_core.sources.posts_file import FilePost, RowProblem, read_posts
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require_editor
from dakika_server.networks.definitions import all_networks
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.sources.files import read_table
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Import, Profile

SAMPLE_ROWS = 50


@dataclass(frozen=True, kw_only=True)
class Preview:
    """What an import would bring: the posts that can be read, the problems by row, what keeps the mapping from use."""

    posts: list[FilePost]
    problems: list[RowProblem]
    mapping_problems: list[str]


def upload_file(actor: Any, brand: Brand, *, name: str, size: int, file: IO[bytes]) -> Import:
    """Read a file and propose a mapping; the one that was used for the same head last is taken again.

    Raises Problem with what to do when it cannot be read. Nothing but the upload itself is stored.
    """
    require_editor(actor, brand)
    try:
        table = read_table(name, size, file)
    except FileError as error:
        raise Problem("file_unreadable", str(error)) from None
    file.seek(0)
    digest = hashlib.file_digest(file, "sha256").hexdigest()  # type: ignore[arg-type]
    known = Import.objects.filter(brand=brand, state="done", header=table.header).order_by("-pk").first()
    mapping = (
        known.mapping if known else {p.field: p.column for p in propose_mapping(table.header, table.rows[:SAMPLE_ROWS])}
    )
    return Import.objects.create(
        brand=brand, created_by=actor, created_at=clock.now(), file_name=name[:255], digest=digest,
        encoding=table.encoding, delimiter=table.delimiter, header=table.header, rows=table.rows,
        row_count=len(table.rows), mapping=mapping, is_day_first=known.is_day_first if known else True,
    )  # fmt: skip


def preview_of(item: Import) -> Preview:
    """Read the rows by the mapping as it is now."""
    problems = problems_of_mapping(item.mapping, item.header)
    if any(column >= len(item.header) for column in item.mapping.values()):
        problems.append("A chosen column is not in the file.")
    if "published_at" not in item.mapping or problems:
        return Preview(posts=[], problems=[], mapping_problems=problems)
    posts, row_problems = read_posts(
        item.rows, header=item.header, mapping=item.mapping, zone=item.brand.zone, is_day_first=item.is_day_first,
        now=item.created_at,
    )  # fmt: skip
    return Preview(posts=posts, problems=row_problems, mapping_problems=[])


def correct_mapping(actor: Any, item: Import, *, mapping: dict[str, int], is_day_first: bool) -> Import:
    """Take the person's word on which column is what."""
    require_editor(actor, item.brand)
    _require_waiting(item)
    item.mapping, item.is_day_first = mapping, is_day_first
    item.save(update_fields=["mapping", "is_day_first"])
    return item


def confirm_import(
    actor: Any, item: Import, *, profile_id: int | None = None, new_profile: str = "", network: str = ""
) -> Import:
    """Bring the readable rows in, all or none, and work the profile's measures out anew.

    Raises Problem when no row can be read, Conflict when the import is over already.
    """
    from dakika_server.sources.collect import AFTER_COLLECTING

    require_editor(actor, item.brand)
    with transaction.atomic():
        item = Import.objects.select_for_update(of=("self",)).select_related("brand").get(pk=item.pk)
        _require_waiting(item)
        preview = preview_of(item)
        if preview.mapping_problems:
            raise Problem("mapping_incomplete", preview.mapping_problems[0])
        if not preview.posts:
            raise Problem("nothing_to_import", "No row can be read. Correct the mapping, or the file.")
        profile = _target(item.brand, profile_id, new_profile, network)
        taken_at = _taken_at(item, profile)
        taken = take_posts(profile, [_post_in(post, taken_at) for post in preview.posts], import_id=item.pk)
        item.profile, item.state, item.rows = profile, Import.State.DONE, []
        item.accepted, item.refused, item.added = len(preview.posts), len(preview.problems), taken.posts_new
        item.save()
        audit.record(actor, "import_file", item, brand_id=item.brand_id, accepted=item.accepted)
    for hook in AFTER_COLLECTING:
        hook(profile)
    return item


def _taken_at(item: Import, profile: Profile) -> datetime:
    """A file speaks of the moment it was first brought in, so that bringing it again says nothing new."""
    earlier = Import.objects.filter(profile=profile, digest=item.digest, state="done").order_by("created_at").first()
    return earlier.created_at if earlier else item.created_at


def _post_in(post: FilePost, taken_at: datetime) -> PostIn:
    at = max(post.taken_at or taken_at, post.published_at)
    return PostIn(
        external_id=post.external_id, published_at=post.published_at, format=post.format.value, text=post.text,
        url=post.url, readings=[(at, post.counts, None)] if post.counts else (),
    )  # fmt: skip


def discard_import(actor: Any, item: Import) -> None:
    """Throw an upload away that was not confirmed."""
    require_editor(actor, item.brand)
    _require_waiting(item)
    item.state, item.rows = Import.State.DISCARDED, []
    item.save(update_fields=["state", "rows"])


def _require_waiting(item: Import) -> None:
    if item.state != Import.State.WAITING:
        raise Conflict(
            "import_over", "This file was imported already." if item.state == "done" else "This file was thrown away."
        )


def _target(brand: Brand, profile_id: int | None, new_profile: str, network: str) -> Profile:
    if profile_id is not None:
        found = (
            Profile.objects.filter(brand=brand, pk=profile_id, kind=Profile.Kind.OWN).select_related("brand").first()
        )
        if found is None:
            raise field_errors({"profile_id": "Choose one of the brand's own profiles."})
        return found
    if not new_profile.strip():
        raise field_errors({"profile_id": "Choose the profile that the posts belong to."})
    if network not in all_networks():
        raise field_errors({"network": "Choose the network that the posts were on."})
    return Profile.objects.create(
        brand=brand, network=network, external_id=f"file:{uuid.uuid4()}", handle=new_profile.strip()[:200],
        name=new_profile.strip()[:200], kind=Profile.Kind.OWN, added_at=clock.now(),
    )  # fmt: skip
