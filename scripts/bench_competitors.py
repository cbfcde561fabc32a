"""Speed of competitors: 40 profiles over a year, then 200 profiles with 200,000 posts.

Run inside Django by `scripts.bench`, on rows made in the database as those of `bench_results`. Prints one JSON object a
line: what, measured, limit, ratio.
"""

import os
import sys
from datetime import date
from typing import Any

import django

from scripts.bench_results import NETWORKS, NOW, measure

YEAR = "first=2025-11-26&last=2026-11-25&age=72"
VIEWS = {
    "table": f"competitors?{YEAR}", "band": f"competitors/benchmark?{YEAR}", "axes": f"competitors/axes?{YEAR}",
    "presence": f"competitors/presence?{YEAR}", "gap": f"competitors/gap?{YEAR}",
    "field by hashtag": f"competitors/works?{YEAR}&of=hashtag", "field by topic": f"competitors/works?{YEAR}&of=topic",
    "best posts": f"competitors/posts?{YEAR}",
}  # fmt: skip
# Profiles, posts of each, and what each view may take in milliseconds.
ROUNDS = 11
SIZES = ((40, 200, {"field by hashtag": 1000.0, "field by topic": 1000.0}, 300.0),
         (200, 1000, {}, 600.0))  # fmt: skip

_POSTS = """
INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, format, text, url, hashtags, language,
    picture)
SELECT %(brand)s, p.id, 'b' || i, %(now)s::timestamptz - make_interval(secs => i * %(step)s + p.id %% 3000),
    (ARRAY['text', 'link', 'image', 'album', 'short_video'])[1 + (i + p.id) %% 5],
    'Number ' || (ARRAY['comets', 'clocks', 'tides', 'ships', 'stars'])[1 + i %% 5] || ' of many that '
        || (ARRAY['travel', 'strike', 'turn', 'sail', 'shine'])[1 + i %% 5] || ' tonight ' || i, '',
    CASE WHEN i %% 3 = 0 THEN ARRAY['skytonight'] ELSE ARRAY[]::varchar[] END, 'en', ''
FROM sources_profile p CROSS JOIN generate_series(1, %(posts)s) i WHERE p.brand_id = %(brand)s
"""
_MEASURES = """
INSERT INTO measures_postmeasure (brand_id, profile_id, post_id, age_hours, published_at, format, taken_at, followers,
    reactions, comments, shares, interactions, typical, index, profile_index)
SELECT brand_id, profile_id, id, age, published_at, format, published_at, 1000 + profile_id %% 97 * 200, v, v / 20, v / 9,
    v * 1.16, 60, v / 60, v / 60
FROM (SELECT p.*, age, 5 + 400 * ((p.id * 7919 + age) %% 1009) / 1009.0 AS v
      FROM sources_post p CROSS JOIN unnest(ARRAY[24, 72, 168, 672, 0]) age WHERE p.brand_id = %(brand)s) x
"""
_FOLLOWERS = """
INSERT INTO sources_profilereading (brand_id, profile_id, day, taken_at, followers)
SELECT brand_id, id, d::date, d, 1000 + id %% 97 * 200 + 3 * extract(doy FROM d)::int
FROM sources_profile, generate_series(%(first)s::date, %(last)s::date, interval '1 day') d WHERE brand_id = %(brand)s
"""


def make(profiles: int, posts: int) -> Any:
    """A brand with one profile of its own on each network, and the rest those of competitors with four each."""
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand, Membership
    from dakika_server.measures.days import sum_up_days
    from dakika_server.sources.models import Competitor, Profile
    from django.db import connection

    slug = f"bench-competitors-{profiles}"
    brand = Brand.objects.create(name=slug, slug=slug, time_zone="Europe/Lisbon")
    for person in User.objects.all():
        Membership.objects.create(user=person, brand=brand, role="admin")
    rivals = [Competitor.objects.create(brand=brand, name=f"Rival {i}") for i in range(max(1, (profiles - 8) // 4))]
    Profile.objects.bulk_create(
        Profile(brand=brand, network=NETWORKS[i % 8], external_id=f"b{i}", handle=f"b{i}", name=f"Bench {i}",
                kind="own" if i < 8 else "competitor", competitor=None if i < 8 else rivals[(i - 8) % len(rivals)],
                added_at=NOW, history_done_at=NOW)
        for i in range(profiles)
    )  # fmt: skip
    keys = {"brand": brand.pk, "now": NOW, "posts": posts, "step": 365 * 86_400 / posts,
            "first": date(2024, 11, 20), "last": date(2026, 11, 25)}  # fmt: skip
    with connection.cursor() as cursor:
        cursor.execute("SET session_replication_role = replica")
        for statement in (_POSTS, _MEASURES, _FOLLOWERS):
            cursor.execute(statement, keys)
        cursor.execute("SET session_replication_role = DEFAULT")
        for profile in Profile.objects.filter(brand=brand).select_related("brand"):
            sum_up_days(cursor, profile)
        cursor.execute("VACUUM ANALYZE")
    return brand


def main() -> int:
    """Both sizes."""
    sys.path[:0] = [p for p in os.environ.get("PYTHONPATH", "").split(os.pathsep) if p not in sys.path]
    django.setup()
    from django.conf import settings

    settings.ALLOWED_HOSTS = ["*"]
    for profiles, posts, own_limits, limit in SIZES:
        brand = make(profiles, posts)
        measure(
            brand, {f"{profiles} profiles: {name}": (path, own_limits.get(name, limit)) for name, path in VIEWS.items()}
        )
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
