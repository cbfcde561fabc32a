"""The parts that know no area."""

from django.apps import AppConfig
from django.db.models.signals import post_migrate


class SharedConfig(AppConfig):
    """Django's handle: once the tables stand, those that people change note what they were before."""

    name = "dakika_server.shared"

    def ready(self) -> None:
        """Note after every migration."""
        from dakika_server.shared.row_changes import note_tables

        post_migrate.connect(note_tables, sender=self)
