"""Taking out again what a file brought, as a whole: its readings, and the posts that nothing else speaks of.

In the trade's words: rollback of an import.
"""

from typing import Any

from django.db import connection, transaction
from django.db.models import Exists, OuterRef, Q, Subquery

from dakika_server.shared import clock
from dakika_server.shared.hooks import Hook
from dakika_server.sources.files import store
from dakika_server.sources.files.reading import after_rows_changed
from dakika_server.sources.forget import forget_posts
from dakika_server.sources.models import Import, Post, PostSource, Profile
from dakika_server.sources.models.profiles import FROM_FILE

ROWS_AT_ONCE = 50_000
_TABLES = ("sources_postreading", "sources_profilereading", "sources_audiencereading")
POSTS_AT_ONCE = 5_000
# Areas above take out what of theirs an import brought.
import_undone: Hook[[Any, int], int] = Hook("a file is taken out again")


def take_out(import_id: int) -> None:
    """Undo a file. Broken off, it goes on where it stopped; run again when it is over, it does nothing.

    In whatever order several files are undone, nothing of them is left once all are: a post goes
    with the last that speaks of it.
    """
    item = Import.objects.select_related("brand").filter(pk=import_id, state=Import.State.UNDOING).first()
    if item is None:
        return
    for table in _TABLES:
        while _delete(table, import_id):
            pass
    with connection.cursor() as cursor:
        import_undone(cursor, import_id)
    while _take_out_posts(import_id):
        pass
    with transaction.atomic():
        store.throw_away(item)
        item.state, item.ended_at = Import.State.UNDONE, clock.now()
        item.save(update_fields=["state", "ended_at"])
    # A profile that only files spoke of goes with the last of them.
    for profile in Profile.objects.filter(pk__in=item.profiles_touched, external_id__startswith=FROM_FILE):
        is_empty = not (profile.posts.exists() or profile.readings.exists() or profile.audience_readings.exists())
        if is_empty and not _is_spoken_of(profile):
            profile.delete()
    after_rows_changed(item)


def _is_spoken_of(profile: Profile) -> bool:
    others = Import.objects.filter(brand=profile.brand_id).exclude(state__in=["undone", "discarded", "waiting"])
    return others.filter(Q(profile=profile) | Q(profiles_touched__contains=[profile.pk])).exists()


def _delete(table: str, import_id: int) -> int:
    statement = f"DELETE FROM {table} WHERE id IN (SELECT id FROM {table} WHERE import_id = %s LIMIT {ROWS_AT_ONCE})"
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(statement, [import_id])
        return int(cursor.rowcount)


def _take_out_posts(import_id: int) -> int:
    """Some of the posts that a file spoke of: those that nothing else speaks of go, the others are another file's."""
    with transaction.atomic():
        ids = list(PostSource.objects.filter(import_id=import_id).values_list("post_id", flat=True)[:POSTS_AT_ONCE])
        PostSource.objects.filter(import_id=import_id, post_id__in=ids)._raw_delete("default")
        others = PostSource.objects.filter(post=OuterRef("pk"))
        gone = Post.objects.filter(pk__in=ids, first_import__isnull=False, readings__isnull=True).exclude(
            Exists(others)
        )
        forget_posts(list(gone.values_list("pk", flat=True)))
        next_file = others.order_by("import_id").values("import_id")[:1]
        Post.objects.filter(pk__in=ids, first_import_id=import_id).update(first_import_id=Subquery(next_file))
        return len(ids)
