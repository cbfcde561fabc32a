"""Taking posts out for good, with everything that any area keeps of them. In parts: the caller bounds how many."""

from collections.abc import Callable

from django.db import connection

from dakika_server.sources.models import Post, PostReading

# Areas above register how they forget posts: they stand on these rows.
FORGET_POSTS: list[Callable[[list[int]], None]] = []


def forget_posts(ids: list[int]) -> None:
    """Delete these posts, inside the caller's transaction."""
    for forget in FORGET_POSTS:
        forget(ids)
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM sources_comment WHERE post_id = ANY(%s)", [ids])
        cursor.execute("DELETE FROM sources_postsource WHERE post_id = ANY(%s)", [ids])
    PostReading.objects.filter(post_id__in=ids)._raw_delete(PostReading.objects.db)
    Post.objects.filter(pk__in=ids)._raw_delete(Post.objects.db)
