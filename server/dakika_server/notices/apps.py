"""The area notices."""

from django.db.models.signals import post_migrate

from dakika_server.shared import areas


class NoticesConfig(areas.AreaConfig):
    """Django's handle: once the tables stand, the watched ones tell of their changes."""

    name = "dakika_server.notices"

    def ready(self) -> None:
        """Connect, and watch after every migration."""
        super().ready()
        from dakika_server.notices.changes import watch_tables

        post_migrate.connect(watch_tables, sender=self)
