"""The area plan."""

from django.apps import AppConfig


class PlanConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.plan"

    def ready(self) -> None:
        """Timing leaves out the hours that are taken; it stands below and is told."""
        from dakika_server.plan import jobs
        from dakika_server.plan.queries import times_of
        from dakika_server.sources.forget import FORGET_POSTS
        from dakika_server.timing.planned import register_planned

        def forget_posts(post_ids: list[int]) -> None:
            from dakika_server.plan.models import Version

            Version.objects.filter(post_id__in=post_ids).update(post=None)

        jobs.register()
        register_planned(times_of)
        FORGET_POSTS.append(forget_posts)
