"""Erase a profile with everything that was collected of it, in parts, so that no lock is held for long."""

from django.db import transaction

from dakika_server.sources.forget import forget_posts
from dakika_server.sources.models import Post, Profile

POSTS_AT_ONCE = 500


def erase(profile_id: int) -> None:
    """Erase it; broken off, it goes on where it stopped. A profile that is followed again by then is left alone."""
    while True:
        with transaction.atomic():
            profile = Profile.objects.select_for_update().filter(pk=profile_id, is_followed=False).first()
            if profile is None:
                return
            ids = list(Post.objects.filter(profile=profile).values_list("pk", flat=True)[:POSTS_AT_ONCE])
            if not ids:
                profile.delete()
                return
            forget_posts(ids)
