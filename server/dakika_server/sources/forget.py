"""Taking posts out for good, with everything that any area keeps of them. In parts: the caller bounds how many."""

from datetime import datetime, timedelta

from django.conf import settings
from django.db import connection

from dakika_server.shared.hooks import Hook
from dakika_server.sources.models import Post, PostReading

# Areas above stand on these rows, and forget what is theirs of them.
posts_forgotten: Hook[[list[int]], None] = Hook("posts are taken out for good")


def forget_posts(ids: list[int]) -> None:
    """Delete these posts, inside the caller's transaction."""
    posts_forgotten(ids)
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM sources_comment WHERE post_id = ANY(%s)", [ids])
        cursor.execute("DELETE FROM sources_postsource WHERE post_id = ANY(%s)", [ids])
    PostReading.objects.filter(post_id__in=ids)._raw_delete(PostReading.objects.db)
    Post.objects.filter(pk__in=ids)._raw_delete(Post.objects.db)


# Each batch is a transaction of its own, so that no collection waits for it.
ANSWERS_AT_ONCE = 5_000
_OLD_ANSWERS = """
UPDATE sources_postreading SET raw = NULL WHERE id = ANY (ARRAY(
    SELECT id FROM sources_postreading WHERE raw IS NOT NULL AND taken_at < %s ORDER BY taken_at LIMIT %s))
"""


def forget_old_answers(now: datetime) -> bool:
    """Forget some of what networks said in their own words longer ago than is kept; whether there is more."""
    before = now - timedelta(days=settings.ANSWERS_KEPT_DAYS)
    with connection.cursor() as cursor:
        cursor.execute(_OLD_ANSWERS, [before, ANSWERS_AT_ONCE])
        return int(cursor.rowcount) == ANSWERS_AT_ONCE
