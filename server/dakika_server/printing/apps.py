"""The area printing."""

from django.apps import AppConfig


class PrintingConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.printing"

    def ready(self) -> None:
        """What waits for a job of ours is told to the queue's keeper."""
        from dakika_server.printing import jobs

        jobs.register()
