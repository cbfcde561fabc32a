"""Taking out again what a file brought, as a whole: its readings, and the posts that nothing else speaks of."""

from collections.abc import Callable
from typing import Any

from django.db import connection, transaction

from dakika_server.shared import clock
from dakika_server.sources.files.reading import after_rows_changed
from dakika_server.sources.forget import forget_posts
from dakika_server.sources.models import Import, Post, Profile

ROWS_AT_ONCE = 50_000
_TABLES = ("sources_postreading", "sources_profilereading", "sources_audiencereading")
POSTS_AT_ONCE = 5_000
# Areas above register how they take out what of theirs an import brought.
ALSO_UNDONE: list[Callable[[Any, int], int]] = []


def take_out(import_id: int) -> None:
    """Undo a file. Broken off, it goes on where it stopped; run again when it is over, it does nothing."""
    item = Import.objects.select_related("brand").filter(pk=import_id, state=Import.State.UNDOING).first()
    if item is None:
        return
    for table in _TABLES:
        while _delete(table, import_id):
            pass
    with connection.cursor() as cursor:
        for undo in ALSO_UNDONE:
            undo(cursor, import_id)
    _take_out_posts(import_id)
    with transaction.atomic():
        Post.objects.filter(first_import_id=import_id).update(first_import=None)
        item.state, item.ended_at = Import.State.UNDONE, clock.now()
        item.save(update_fields=["state", "ended_at"])
    after_rows_changed(item)
    # A profile that only this file spoke of goes with it.
    for profile in Profile.objects.filter(pk__in=item.profiles_touched, external_id__startswith="file:"):
        is_empty = not (profile.posts.exists() or profile.readings.exists() or profile.audience_readings.exists())
        if is_empty and not Import.objects.filter(profile=profile).exclude(state__in=["undone", "discarded"]).exists():
            profile.delete()


def _delete(table: str, import_id: int) -> int:
    statement = f"DELETE FROM {table} WHERE id IN (SELECT id FROM {table} WHERE import_id = %s LIMIT {ROWS_AT_ONCE})"
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(statement, [import_id])
        return int(cursor.rowcount)


def _take_out_posts(import_id: int) -> None:
    """A post that something else has spoken of since stays, and is nobody's import any more."""
    while True:
        with transaction.atomic():
            unread = Post.objects.filter(first_import_id=import_id, readings__isnull=True)
            ids = list(unread.values_list("pk", flat=True)[:POSTS_AT_ONCE])
            if not ids:
                return
            forget_posts(ids)
