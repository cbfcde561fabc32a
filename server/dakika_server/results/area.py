"""Results, as they hand themselves in: measures follow every collection."""

from dakika_server.brands.actions import zone_changed
from dakika_server.brands.models import Brand
from dakika_server.brands.overview import overview_parts
from dakika_server.results.jobs import measure
from dakika_server.results.measure import measure_profile
from dakika_server.results.models import PostDay, PostMeasure, PostTag
from dakika_server.results.overview import part_of
from dakika_server.results.tagging import apply_rules
from dakika_server.shared.areas import Area
from dakika_server.sources.collect import collected
from dakika_server.sources.forget import posts_forgotten
from dakika_server.sources.models import Post, Profile


def _measure_now(profile: Profile) -> None:
    measure_profile(profile)
    apply_rules(profile.brand_id, Post.objects.filter(profile=profile))


def _measure_brand_anew(brand: Brand) -> None:
    PostMeasure.objects.filter(brand=brand).update(readings=None)
    for pk in Profile.objects.filter(brand=brand).values_list("pk", flat=True):
        measure.defer(profile_id=pk)


def _forget_posts(post_ids: list[int]) -> None:
    for table in (PostMeasure, PostDay, PostTag):
        table.objects.filter(post_id__in=post_ids)._raw_delete("default")


def _connect() -> None:
    collected.add("results", _measure_now)
    zone_changed.add("results", _measure_brand_anew)
    posts_forgotten.add("results", _forget_posts)
    overview_parts.add("results", part_of)


AREA = Area(name="results", urls="dakika_server.results.urls", connect=_connect)
