"""Speed of the plan and its files: a full month, a library, pictures and videos, and a thousand posts in one minute.

Run inside Django by `scripts.bench`, on rows and files made here; the networks are the stand-ins, started by it. Prints
one JSON object a line: what, measured, limit, ratio.
"""

import io
import os
import resource
import sys
import time
from datetime import timedelta
from typing import Any

import django

from scripts.bench_results import NOW, measure, say

POSTS, PROFILES = 600, 8
IN_CAMPAIGN, TASKS, IDEAS, TABLE_ROWS = 2_000, 5_000, 5_000, 1_000
LIMIT_CAMPAIGN_MS, LIMIT_TASKS_MS, LIMIT_TABLE_MS = 300.0, 150.0, 3_000.0
LIMIT_IDEAS_MS = 150.0
FILES = 20_000
DUE = 1_000
LIMIT_CALENDAR_MS = LIMIT_LIBRARY_MS = 200.0
LIMIT_PICTURE_S, LIMIT_DUE_S, LIMIT_MEMORY_MB = 3.0, 60.0, 500.0
FILM_SECONDS = 90

_PLANNED = """
INSERT INTO plan_plannedpost (brand_id, title, text, state, scheduled_at, edition, created_at, note)
SELECT %(brand)s, 'Number ' || i, 'Number ' || i || ' of a month that is full', 'scheduled',
    date_trunc('month', %(now)s::timestamptz) + make_interval(mins => i * 71), 1, %(now)s, ''
FROM generate_series(1, %(posts)s) i
"""
_VERSIONS = """
INSERT INTO plan_version (planned_post_id, profile_id, text, state, idempotency_key, attempts, external_id, error, due_at)
SELECT p.id, f.id, p.text, 'scheduled', gen_random_uuid(), 0, '', '', p.scheduled_at
FROM plan_plannedpost p CROSS JOIN LATERAL (
    SELECT id FROM sources_profile WHERE brand_id = p.brand_id ORDER BY (id * 31 + p.id * 17) %% 97 LIMIT 3) f
WHERE p.brand_id = %(brand)s
"""
# Half of a campaign is out, half to come; it lies far from the month that is measured.
_CAMPAIGN = """
WITH made AS (
    INSERT INTO brands_campaign (brand_id, name, first_day, last_day, colour)
    VALUES (%(brand)s, 'A year of comets', %(now)s::date - 400, %(now)s::date + 400, 3) RETURNING id),
planned AS (
    INSERT INTO plan_plannedpost (brand_id, title, text, state, scheduled_at, edition, created_at, note, campaign_id)
    SELECT %(brand)s, 'Comet ' || i, 'Comet ' || i, 'scheduled', %(now)s::timestamptz + make_interval(days => 60, hours => i * 3),
        1, %(now)s, '', made.id FROM made, generate_series(1, %(in_campaign)s / 2) i RETURNING id, text, scheduled_at),
versions AS (
    INSERT INTO plan_version (planned_post_id, profile_id, text, state, idempotency_key, attempts, external_id, error, due_at)
    SELECT p.id, f.id, p.text, 'scheduled', gen_random_uuid(), 0, '', '', p.scheduled_at FROM planned p
    CROSS JOIN LATERAL (SELECT id FROM sources_profile WHERE brand_id = %(brand)s ORDER BY id LIMIT 1) f)
INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, format, text, url, hashtags, language, picture,
    campaign_id)
SELECT %(brand)s, f.id, 'comet-' || i, %(now)s::timestamptz - make_interval(hours => i * 7), (ARRAY['image', 'text'])[1 + i %% 2],
    'Comet ' || i, '', '{}', '', '', made.id
FROM made, generate_series(1, %(in_campaign)s / 2) i
CROSS JOIN LATERAL (SELECT id FROM sources_profile WHERE brand_id = %(brand)s ORDER BY id LIMIT 1) f
"""
_TASKS = """
INSERT INTO plan_task (brand_id, text, person_id, due_on, made_at)
SELECT %(brand)s, 'Task ' || i, (SELECT min(user_id) FROM brands_membership WHERE brand_id = %(brand)s),
    %(now)s::date + i %% 90, %(now)s FROM generate_series(1, %(tasks)s) i
"""
# Every third is voted on by all, every tenth is written out.
_IDEAS = """
WITH planned AS (
    INSERT INTO plan_plannedpost (brand_id, title, text, state, edition, created_at, note)
    SELECT %(brand)s, 'Idea ' || i, '', 'idea', 1, %(now)s, 'What one could say of comet number ' || i
    FROM generate_series(1, %(ideas)s) i RETURNING id),
ideas AS (
    INSERT INTO plan_idea (planned_post_id, brand_id, page, wishes, origin, view, figures, kept_at)
    SELECT id, %(brand)s, '', '{}', 'own', '', '[]', %(now)s::timestamptz - make_interval(mins => id::int %% 9000)
    FROM planned RETURNING planned_post_id),
votes AS (
    INSERT INTO plan_vote (planned_post_id, person_id, value)
    SELECT i.planned_post_id, m.user_id, CASE WHEN i.planned_post_id %% 2 = 0 THEN 1 ELSE -1 END
    FROM ideas i CROSS JOIN brands_membership m WHERE m.brand_id = %(brand)s AND i.planned_post_id %% 3 = 0)
INSERT INTO plan_plannedpost (brand_id, title, text, state, edition, created_at, note, from_idea_id)
SELECT %(brand)s, 'Written', '', 'draft', 1, %(now)s, '', planned_post_id FROM ideas WHERE planned_post_id %% 10 = 0
"""
_TABLE = """
WITH made AS (
    INSERT INTO plan_batch (brand_id, name, state, header, columns, choices, left_out, made_at,
        pictures)
    VALUES (%(brand)s, 'bench.csv', 'checked', ARRAY['Date', 'Network', 'Text'], '{"at": 0, "profiles": 1, "text": 2}',
        '{"order": "ymd", "times": "given", "first": null, "minutes": 60, "profiles": [], "links": true, "becomes": "draft"}',
        0, %(now)s, '{}') RETURNING id)
INSERT INTO plan_batchrow (batch_id, number, cells, mended, problem)
SELECT made.id, i + 1, jsonb_build_array(to_char(%(now)s::timestamptz + make_interval(hours => i), 'YYYY-MM-DD HH24:MI'),
    '@p0; @p1; @p2', 'Row ' || i || ' of a table: the house stays open until midnight. #night'), '{}', ''
FROM made, generate_series(1, %(rows)s) i
"""
_FILES = """
INSERT INTO media_asset (brand_id, created_at, name, words, file, digest, size, state, message, kind, media_type, width, height)
SELECT %(brand)s, %(now)s::timestamptz - make_interval(mins => i), 'clock-' || i || '.jpg',
    'The ' || (ARRAY['tower', 'water', 'pocket', 'tide'])[1 + i %% 4] || ' clock, number ' || i, 'bench/' || i,
    sha256(('bench' || i)::bytea), 250000, 'ready', '', 'picture', 'image/jpeg', 1600, 1200
FROM generate_series(1, %(files)s) i
"""


def make() -> Any:
    """A brand with eight profiles, a month of posts, and a library."""
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand, Membership
    from dakika_server.sources.models import Profile
    from django.db import connection

    brand = Brand.objects.create(name="Bench plan", slug="bench-plan", time_zone="Europe/Lisbon")
    for person in User.objects.all():
        Membership.objects.create(user=person, brand=brand, role="admin")
    Profile.objects.bulk_create(
        Profile(brand=brand, network=("commons", "brevi")[i % 2], external_id=f"p{i}", handle=f"p{i}", name=f"Plan {i}",
                kind="own", added_at=NOW)
        for i in range(PROFILES)
    )  # fmt: skip
    keys = {"brand": brand.pk, "now": NOW, "posts": POSTS, "files": FILES, "in_campaign": IN_CAMPAIGN, "tasks": TASKS, "ideas": IDEAS,
            "rows": TABLE_ROWS}  # fmt: skip
    with connection.cursor() as cursor:
        for statement in (_PLANNED, _VERSIONS, _FILES, _CAMPAIGN, _TASKS, _IDEAS, _TABLE):
            cursor.execute(statement, keys)
        cursor.execute("VACUUM ANALYZE")
    return brand


def measure_files() -> None:
    """A picture of twelve megapixels in all shapes, and a film, as the worker looks into them."""
    import numpy as np
    from dakika_server.media import looking
    from dakika_server.media.pictures import fitted
    from dakika_server.media.testing import video
    from PIL import Image

    grain = np.random.default_rng(3).integers(0, 255, (375, 500, 3), dtype=np.uint8)
    out = io.BytesIO()
    Image.fromarray(grain).resize((4000, 3000)).save(out, "JPEG", quality=92)
    begun = time.perf_counter()
    looked = looking.look(io.BytesIO(out.getvalue()))
    full = next(made.content for made in looked.made if made.purpose == "full")
    for shape in (None, 1.0, 0.8, 2 / 3, 0.5625, 1.91):
        fitted(io.BytesIO(full), shape=shape, focus=(0.4, 0.6), most_bytes=5_000_000)
    took = time.perf_counter() - begun
    say("a picture of 12 megapixels in all shapes", f"{took:.2f} s", f"{LIMIT_PICTURE_S:.0f} s", took / LIMIT_PICTURE_S)
    film = video(frames=FILM_SECONDS * 25, width=720, height=1280)
    begun = time.perf_counter()
    looking.look(io.BytesIO(film))
    took = time.perf_counter() - begun
    say(f"a film of {FILM_SECONDS} s", f"{took:.2f} s", f"{FILM_SECONDS} s", took / FILM_SECONDS)


def measure_due(brand: Any) -> None:
    """A thousand posts set for the same instant, sent by the worker of the stack; seconds from that instant on."""
    import httpx
    from dakika_server.accounts.models import User
    from dakika_server.plan.actions import save_planned_post, schedule_post
    from dakika_server.plan.content import VersionInput
    from dakika_server.plan.models import Version
    from dakika_server.shared import clock
    from dakika_server.sources.models import Profile
    from django.conf import settings

    words = ["commons", "brevi", "doorstep"]
    # What the networks themselves allow in a minute is not what is measured here.
    httpx.post(
        f"{settings.STANDINS_ADDRESS}/control/faults", json={f"{key}.no_limit": 1 for key in words}
    ).raise_for_status()
    profiles = list(Profile.objects.filter(brand=brand, kind="own", network__in=words, credential__isnull=False))
    person = User.objects.get(email="mira@ninthbell.example")
    due = clock.now() + timedelta(seconds=DUE / 8)
    for i in range(DUE):
        version = VersionInput(profile_id=profiles[i % len(profiles)].pk, text=f"Due {i}")
        schedule_post(person, save_planned_post(person, brand, title=f"Due {i}", versions=[version]), at=due)
    late = max(0.0, (clock.now() - due).total_seconds())
    found = Version.objects.filter(planned_post__title__startswith="Due ")
    while (left := found.exclude(state="published").count()) and (clock.now() - due).total_seconds() < 6 * LIMIT_DUE_S:
        time.sleep(0.5)
    last = found.order_by("-published_at").values_list("published_at", flat=True).first()
    took = (last - due).total_seconds() - late if last else 6 * LIMIT_DUE_S
    say(
        f"{DUE - left:,} of {DUE:,} posts due in one minute",
        f"{took:.1f} s",
        f"{LIMIT_DUE_S:.0f} s",
        took / LIMIT_DUE_S,
    )


def main() -> int:
    """All of it."""
    sys.path[:0] = [p for p in os.environ.get("PYTHONPATH", "").split(os.pathsep) if p not in sys.path]
    django.setup()
    from django.conf import settings

    settings.ALLOWED_HOSTS = ["*"]
    from dakika_server.brands.models import Campaign
    from dakika_server.plan.models import Batch

    brand = make()
    campaign, batch = Campaign.objects.get(brand=brand).pk, Batch.objects.get(brand=brand).pk
    first = NOW.date().replace(day=1)
    last = first + timedelta(days=34)
    measure(brand, {
        f"a month with {POSTS} posts": (f"plan?first={first}&last={last}", LIMIT_CALENDAR_MS),
        f"a library of {FILES:,} files": ("media", LIMIT_LIBRARY_MS),
        f"a campaign of {IN_CAMPAIGN:,} posts": (f"plan/campaigns/{campaign}", LIMIT_CAMPAIGN_MS),
        f"{TASKS:,} tasks": ("plan/tasks", LIMIT_TASKS_MS),
        f"{IDEAS:,} ideas": ("plan/ideas", LIMIT_IDEAS_MS),
        "the most wanted of them": ("plan/ideas?sort=votes", LIMIT_IDEAS_MS),
        "their groups": ("plan/ideas/groups", LIMIT_IDEAS_MS),
        f"{TABLE_ROWS:,} rows checked by the rules of three networks": (f"plan/batches/{batch}", LIMIT_TABLE_MS),
        "a word in it": ("media?text=tide+1234", LIMIT_LIBRARY_MS),
    })  # fmt: skip
    measure_files()
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    say("memory after pictures and films", f"{memory:.0f} MB", f"{LIMIT_MEMORY_MB:.0f} MB", memory / LIMIT_MEMORY_MB)
    from dakika_server.brands.models import Brand

    measure_due(Brand.objects.get(slug="orrery-house"))
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
