"""The area results."""

from django.apps import AppConfig


class ResultsConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.results"

    def ready(self) -> None:
        """Measures follow every collection; sources stand below and cannot ask for them."""
        from dakika_server.brands.actions import AFTER_ZONE_CHANGED
        from dakika_server.brands.models import Brand
        from dakika_server.sources.collect import AFTER_COLLECTING
        from dakika_server.sources.forget import FORGET_POSTS
        from dakika_server.sources.models import Profile

        def measure_now(profile: Profile) -> None:
            from dakika_server.results.measure import measure_profile
            from dakika_server.results.tagging import apply_rules
            from dakika_server.sources.models import Post

            measure_profile(profile)
            apply_rules(profile.brand_id, Post.objects.filter(profile=profile))

        def measure_brand_anew(brand: Brand) -> None:
            from dakika_server.results.jobs import measure
            from dakika_server.results.models import PostMeasure

            PostMeasure.objects.filter(brand=brand).update(readings=None)
            for pk in Profile.objects.filter(brand=brand).values_list("pk", flat=True):
                measure.defer(profile_id=pk)

        def forget_measures(post_ids: list[int]) -> None:
            from dakika_server.results.models import PostDay, PostMeasure, PostTag

            for table in (PostMeasure, PostDay, PostTag):
                table.objects.filter(post_id__in=post_ids)._raw_delete("default")

        AFTER_COLLECTING.append(measure_now)
        AFTER_ZONE_CHANGED.append(measure_brand_anew)
        FORGET_POSTS.append(forget_measures)
