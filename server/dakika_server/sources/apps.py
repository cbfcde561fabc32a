"""The area sources."""

from django.apps import AppConfig


class SourcesConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.sources"

    def ready(self) -> None:
        """What waits for a job of ours is told to the queue's keeper."""
        from dakika_server.sources import jobs

        jobs.register()
