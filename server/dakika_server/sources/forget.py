"""Taking posts out for good, with everything that any area keeps of them. In parts: the caller bounds how many."""

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
