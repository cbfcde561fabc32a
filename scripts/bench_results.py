"""Speed of results on a large brand: 200 profiles, 200,000 posts, 4,000,000 readings.

Run inside Django by `scripts.bench`. The rows are made in the database; measures are filled there too,
since what is timed is asking, not measuring. Prints one JSON object a line: what, measured, limit, ratio.
"""

import json
import os
import statistics
import sys
import time
from datetime import UTC, date, datetime, timedelta
from typing import Any

import django

PROFILES, POSTS_EACH, READINGS_EACH, DAYS = 200, 1_000, 20, 180
ROUNDS = 25
MEASURED_POSTS, MEASURED_LIMIT_MS = 20_000, 200.0
SLUG = "bench-results"
NETWORKS = ("commons", "brevi", "pictor", "guildhall", "vignette", "corkboard", "longplay", "doorstep")
NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)
QUERY = "first=2026-08-28&last=2026-11-25"
PATHS: dict[str, tuple[str, float]] = {
    "minute line": ("line", 60.0),
    "under way": ("foresight/under-way", 150.0),
    "summary, 90 days and comparison": (f"results/summary?{QUERY}", 400.0),
    "posts by interactions": (f"results/posts?{QUERY}&sort=-interactions&columns=interactions,reach,er_reach", 300.0),
    "posts by a rate": (f"results/posts?{QUERY}&sort=-er_impressions&columns=interactions,reach,er_impressions", 300.0),
    "posts by index, worst first": (f"results/posts?{QUERY}&sort=index&columns=interactions,reach", 300.0),
    "groups by format": (f"results/groups?{QUERY}&by=format", 600.0),
    "groups by tag": (f"results/groups?{QUERY}&by=tag", 600.0),
    "groups by weekday": (f"results/groups?{QUERY}&by=weekday", 600.0),
}

_POSTS = """
INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, format, text, url, hashtags, language,
    picture)
SELECT %(brand)s, p.id, 'b' || i, %(now)s::timestamptz - make_interval(secs => i * %(step)s + p.id %% 3000),
    (ARRAY['text', 'link', 'image', 'album', 'short_video'])[1 + (i + p.id) %% 5], 'Number ' || i || ' of many', '',
    CASE WHEN i %% 3 = 0 THEN ARRAY['skytonight'] ELSE ARRAY[]::varchar[] END, 'en', ''
FROM sources_profile p CROSS JOIN generate_series(1, %(posts)s) i WHERE p.brand_id = %(brand)s
"""
_READINGS = """
INSERT INTO sources_postreading (brand_id, post_id, taken_at, impressions, reach, reactions, comments, shares)
SELECT p.brand_id, p.id, p.published_at + make_interval(hours => n * n), 100 * n, 80 * n, 4 * n, n / 4, n / 6
FROM sources_post p CROSS JOIN generate_series(1, %(readings)s) n WHERE p.brand_id = %(brand)s
"""
_MEASURES = """
INSERT INTO measures_postmeasure (brand_id, profile_id, post_id, age_hours, published_at, format, taken_at, followers,
    impressions, reach, reactions, comments, shares, link_clicks, interactions, typical, index, profile_index)
SELECT brand_id, profile_id, id, age, published_at, format, published_at, 10000, v * 30, v * 24, v, v / 20, v / 9, v / 15,
    v * 1.16, 60, v / 60, v / 60
FROM (SELECT p.*, age, 5 + 400 * ((p.id * 7919 + age) %% 1009) / 1009.0 AS v
      FROM sources_post p CROSS JOIN unnest(ARRAY[24, 72, 168, 672, 0]) age WHERE p.brand_id = %(brand)s) x
"""
_GAINS = """
INSERT INTO measures_postday (brand_id, profile_id, post_id, day, impressions, reach, interactions, link_clicks)
SELECT brand_id, profile_id, id, (published_at AT TIME ZONE 'Europe/Lisbon')::date + n, v * 30, v * 24, v, v / 15
FROM (SELECT p.*, n, (20 + p.id %% 50) / (1.0 + n) AS v
      FROM sources_post p CROSS JOIN generate_series(0, 14) n WHERE p.brand_id = %(brand)s) x
"""
_FOLLOWERS = """
INSERT INTO sources_profilereading (brand_id, profile_id, day, taken_at, followers, gained, lost)
SELECT brand_id, id, d::date, d, 10000 + 3 * extract(doy FROM d)::int, 12, 9
FROM sources_profile, generate_series(%(first)s::date, %(last)s::date, interval '1 day') d WHERE brand_id = %(brand)s
"""
_TAGS = """
INSERT INTO results_posttag (post_id, tag_id, is_off)
SELECT p.id, t.id, FALSE FROM sources_post p JOIN results_tag t ON t.brand_id = p.brand_id AND p.id %% 12 = t.colour
WHERE p.brand_id = %(brand)s
"""


def say(what: str, measured: str, limit: str, ratio: float) -> None:
    """One line of the table."""
    print(json.dumps({"what": what, "measured": measured, "limit": limit, "ratio": ratio}), flush=True)


def make() -> Any:
    """The brand with everything in it."""
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand, Membership
    from dakika_server.foresight.looking import look_ahead
    from dakika_server.measures.days import months_of, sum_up_days
    from dakika_server.measures.models import ProfileMeasured
    from dakika_server.results.models import Tag
    from dakika_server.sources.models import Profile
    from django.db import connection

    brand = Brand.objects.create(name=SLUG, slug=SLUG, time_zone="Europe/Lisbon")
    for person in User.objects.all():
        Membership.objects.create(user=person, brand=brand, role="admin")
    profiles = [
        Profile(brand=brand, network=NETWORKS[i % 8], external_id=f"b{i}", handle=f"b{i}", name=f"Bench {i}", kind="own",
                added_at=NOW)
        for i in range(PROFILES)
    ]  # fmt: skip
    Profile.objects.bulk_create(profiles)
    Tag.objects.bulk_create([Tag(brand=brand, name=f"tag {i}", colour=i) for i in range(1, 9)])
    keys = {
        "brand": brand.pk, "now": NOW, "posts": POSTS_EACH, "readings": READINGS_EACH,
        "step": DAYS * 86_400 / POSTS_EACH, "first": date(2026, 5, 20), "last": date(2026, 11, 25),
    }  # fmt: skip
    with connection.cursor() as cursor:
        # The rows are right by their making: looking each key up again would take most of the time.
        cursor.execute("SET session_replication_role = replica")
        for statement in (_POSTS, _READINGS, _MEASURES, _GAINS, _FOLLOWERS, _TAGS):
            cursor.execute(statement, keys)
        cursor.execute("SET session_replication_role = DEFAULT")
        for profile in Profile.objects.filter(brand=brand).select_related("brand"):
            sum_up_days(cursor, profile)
            ProfileMeasured.objects.create(
                profile=profile, brand=brand, posts=POSTS_EACH, changed=0, count_as=[], languages=["en"],
                months=months_of(profile),
            )  # fmt: skip
        cursor.execute("VACUUM ANALYZE")
    for profile in Profile.objects.filter(brand=brand).select_related("brand"):
        look_ahead(profile)
    return brand


def measure(brand: Any, paths: dict[str, tuple[str, float]] = PATHS, rounds: int = ROUNDS) -> None:
    """Each question as the application answers it, beside its bare statements one after the other."""
    # As a web process stands.
    import dakika_server.config.wsgi  # noqa: F401
    from dakika_server.accounts.models import User
    from django.db import connection, reset_queries
    from django.test import Client

    client = Client()
    client.force_login(User.objects.first(), backend="django.contrib.auth.backends.ModelBackend")
    for what, (path, limit) in paths.items():
        address = f"/api/brands/{brand.slug}/{path}"
        connection.force_debug_cursor = True
        reset_queries()
        answer = client.get(address)
        assert answer.status_code == 200, answer.content[:500]
        statements = [q["sql"] for q in connection.queries if q["sql"].lstrip().upper().startswith(("SELECT", "WITH"))]
        connection.force_debug_cursor = False
        times, bare = [], []
        for turn in range(rounds + 2):
            begun = time.perf_counter()
            client.get(address)
            middle = time.perf_counter()
            with connection.cursor() as cursor:
                for statement in statements:
                    cursor.execute(statement)
                    cursor.fetchall()
            if turn >= 2:
                times.append((middle - begun) * 1000)
                bare.append((time.perf_counter() - middle) * 1000)
        slow = statistics.quantiles(times, n=20)[-1]
        share = statistics.median(times) / statistics.median(bare)
        say(f"{what}, {share:.2f} x its bare SQL", f"{slow:.0f} ms p95", f"{limit:.0f} ms", slow / limit)


def measure_one_reading() -> None:
    """A profile with many posts, brought up to date after one of them was read again."""
    from dakika_server.brands.models import Brand
    from dakika_server.measures.measuring import measure_profile
    from dakika_server.sources.models import Post, PostReading, Profile
    from django.db import connection

    brand = Brand.objects.create(name="Bench measures", slug="bench-measures", time_zone="Europe/Lisbon")
    profile = Profile.objects.create(
        brand=brand, network="commons", external_id="m", handle="m", name="m", kind="own", added_at=NOW
    )
    keys = {"brand": brand.pk, "now": NOW, "posts": MEASURED_POSTS, "step": 3600, "readings": 10}
    with connection.cursor() as cursor:
        for statement in (_POSTS, _READINGS):
            cursor.execute(statement, keys)
        cursor.execute("ANALYZE")
    measure_profile(profile)
    with connection.cursor() as cursor:
        cursor.execute("VACUUM ANALYZE")
    times = []
    for turn in range(ROUNDS):
        post = Post.objects.filter(profile=profile).order_by("-published_at")[20 * turn + 5]
        at = post.published_at + timedelta(hours=130)
        PostReading.objects.create(brand=brand, post=post, taken_at=at, reactions=90, comments=3, reach=900)
        begun = time.perf_counter()
        assert measure_profile(profile) == 1
        times.append((time.perf_counter() - begun) * 1000)
    slow = statistics.quantiles(times, n=20)[-1]
    what = f"measures after a reading, {MEASURED_POSTS:,} posts"
    say(what, f"{slow:.0f} ms p95", f"{MEASURED_LIMIT_MS:.0f} ms", slow / MEASURED_LIMIT_MS)


def main() -> int:
    """All of it."""
    sys.path[:0] = [p for p in os.environ.get("PYTHONPATH", "").split(os.pathsep) if p not in sys.path]
    # What is young is so by the clock of what was made.
    os.environ["DAKIKA_FIXED_NOW"] = NOW.isoformat()
    django.setup()
    from django.conf import settings

    settings.ALLOWED_HOSTS = ["*"]
    begun = time.perf_counter()
    brand = make()
    print(f"made in {time.perf_counter() - begun:.0f} s", file=sys.stderr, flush=True)
    measure(brand)
    measure_one_reading()
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
