"""The area links."""

from typing import Any

from django.apps import AppConfig


class LinksConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.links"

    def ready(self) -> None:
        """Files of clicks come in through sources, which stand below; so do posts that are forgotten."""
        from dakika_server.links.imports import take_clicks_batch
        from dakika_server.sources.files.exporting import TABLES
        from dakika_server.sources.files.rows_in import INTAKES
        from dakika_server.sources.files.undoing import ALSO_UNDONE
        from dakika_server.sources.forget import FORGET_POSTS

        def forget_posts(post_ids: list[int]) -> None:
            from dakika_server.links.models import TrackedLink

            TrackedLink.objects.filter(post_id__in=post_ids).update(post=None)

        def take_out_clicks(cursor: Any, import_id: int) -> int:
            cursor.execute("DELETE FROM links_click WHERE import_id = %s", [import_id])
            return int(cursor.rowcount)

        from dakika_server.links.exports import CLICKS, LINKS

        INTAKES["clicks"] = take_clicks_batch
        ALSO_UNDONE.append(take_out_clicks)
        FORGET_POSTS.append(forget_posts)
        TABLES.update({"links": LINKS, "clicks": CLICKS})
