"""Measures, as they hand themselves in: they follow every collection."""

from dakika_server.brands.actions import zone_changed
from dakika_server.brands.models import Brand
from dakika_server.measures.changes import ask_brand_anew
from dakika_server.measures.jobs import measure
from dakika_server.measures.measured import measured
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.models import PostDay, PostMeasure
from dakika_server.notices.changes import watch
from dakika_server.shared.areas import Area
from dakika_server.sources.forget import posts_forgotten
from dakika_server.sources.models import Profile
from dakika_server.sources.rebuilding import collected


def _measure_now(profile: Profile) -> None:
    measure_profile(profile)
    measured(profile)


def _measure_brand_anew(brand: Brand) -> None:
    ask_brand_anew(brand)
    for pk in Profile.objects.filter(brand=brand).values_list("pk", flat=True):
        measure.defer(profile_id=pk)


def _forget_posts(post_ids: list[int]) -> None:
    for table in (PostMeasure, PostDay):
        table.objects.filter(post_id__in=post_ids)._raw_delete("default")


def _connect() -> None:
    watch({"measures_profilemeasured": "posts"})
    collected.add("measures", _measure_now)
    zone_changed.add("measures", _measure_brand_anew)
    posts_forgotten.add("measures", _forget_posts)


AREA = Area(name="measures", connect=_connect)
