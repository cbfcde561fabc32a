"""Links at size, inside Django: credits of many paths, a large access log, five million clicks. Prints lines of JSON."""

import json
import os
import random
import resource
import statistics
import subprocess
import sys
import tempfile
import time
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dakika_server.config.settings")

PATHS, ATTRIBUTION_LIMIT_S = 100_000, 5.0
LINES, LOG_LIMIT_S, LOG_LIMIT_MB = 1_000_000, 60.0, 300.0
CLICKS, PAGE_LIMIT_MS, LINKS, DAYS = 5_000_000, 400.0, 200, 730
BURST_ROUNDS, BATCH, BURST_LIMIT_MS = 25, 300, 50.0
SLUG = "bench-links"
FILL = """
INSERT INTO links_click (brand_id, link_id, key, at, referrer, device, browser, language, country, visitor, bot_reason)
SELECT %(brand)s, %(first)s + (power(random(), 3) * %(links)s)::int, gen_random_uuid(),
    now() - (random() * %(days)s) * interval '1 day',
    (ARRAY['brevi.example', 'commons.example', '', 'search.example'])[1 + floor(random() * 4)::int],
    (ARRAY['phone', 'computer', 'tablet'])[1 + floor(random() * 3)::int],
    (ARRAY['One', 'Two', 'Three', 'Four', 'Five'])[1 + floor(random() * 5)::int],
    (ARRAY['pt', 'en', 'es'])[1 + floor(random() * 3)::int], (ARRAY['PT', 'BR', 'GB', 'ES'])[1 + floor(random() * 4)::int],
    decode(md5((random() * 3000000)::int::text), 'hex'), CASE WHEN random() < 0.08 THEN 'agent' ELSE '' END
FROM generate_series(1, %(count)s)
"""


def say(what: str, measured: str, limit: str, ratio: float) -> None:
    print(json.dumps({"what": what, "measured": measured, "limit": limit, "ratio": ratio}), flush=True)


def measure_attribution() -> None:
    """Eight models over many paths of up to twelve touches in twenty channels."""
    from dakika_core.site.attribution import Path as Walk
    from dakika_core.site.attribution import all_credits

    chance = random.Random(1)
    names = [f"channel {i}" for i in range(20)]
    walks = []
    for _ in range(PATHS):
        count = min(12, 1 + int(chance.expovariate(0.5)))
        ages = sorted((chance.uniform(0, 30) for _ in range(count)), reverse=True)
        touches = tuple(chance.choice(names) for _ in range(count))
        walks.append(
            Walk(
                touches=touches,
                ages_days=tuple(ages),
                cents=chance.randrange(10_000),
                is_converted=chance.random() < 0.5,
            )
        )
    begun = time.perf_counter()
    all_credits(walks)
    took = time.perf_counter() - begun
    say(
        f"eight models over {PATHS:,} paths",
        f"{took:.2f} s",
        f"{ATTRIBUTION_LIMIT_S:.0f} s",
        took / ATTRIBUTION_LIMIT_S,
    )


def measure_log() -> None:
    """A combined log of a million lines, read by the command in a process of its own."""
    from dakika_server.brands.models import Brand
    from dakika_server.shared import clock
    from dakika_server.site.models import Site

    brand = Brand.objects.get(slug=SLUG)
    site = Site.objects.create(
        brand=brand, name="Log", hosts=["log.example"], key=f"bench-{os.getpid()}", created_at=clock.now()
    )
    chance, start = random.Random(2), datetime(2026, 9, 1, tzinfo=UTC)
    agents = [f"Mozilla/5.0 (X11; Linux x86_64; rv:{i}.0) Gecko/20100101" for i in range(60, 128)]
    pages = ("/", "/tickets", "/style.css", "/sky.png", "/app.js", "/?utm_source=letter")
    # Some thirty people look around at any time; each asks for ten things or so, and is followed by another.
    people = [(chance.randrange(1 << 24), chance.randrange(len(agents))) for _ in range(30)]
    with tempfile.NamedTemporaryFile("w", suffix=".log", delete=False) as file:
        for i in range(LINES):
            at = start + timedelta(seconds=i * 2.5)
            who = chance.randrange(len(people))
            number, agent = people[who]
            address = f"10.{number >> 16}.{number >> 8 & 255}.{number & 255}"
            target = chance.choice((*pages, f"/news/{chance.randrange(500)}"))
            file.write(
                f'{address} - - [{at:%d/%b/%Y:%H:%M:%S} +0000] "GET {target} HTTP/1.1" 200 5120 "https://brevi.example/" '
                f'"{agents[agent]}"\n'
            )
            if chance.random() < 0.1:
                people[who] = (chance.randrange(1 << 24), chance.randrange(len(agents)))
    try:
        begun = time.perf_counter()
        command = [sys.executable, "server/manage.py", "read_access_log", site.key, file.name]
        subprocess.run(command, check=True, capture_output=True)
        took = time.perf_counter() - begun
    finally:
        Path(file.name).unlink()
    memory = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1000
    say(f"access log of {LINES:,} lines", f"{took:.1f} s", f"{LOG_LIMIT_S:.0f} s", took / LOG_LIMIT_S)
    say("its memory", f"{memory:.0f} MB", f"{LOG_LIMIT_MB:.0f} MB", memory / LOG_LIMIT_MB)


def make_brand() -> None:
    """A brand of its own, open to every editor of the demo."""
    from dakika_server.brands.models import Brand, Membership

    brand = Brand.objects.create(name="Bench links", slug=SLUG, time_zone="Europe/Lisbon")
    for person in Membership.objects.filter(role="admin").values_list("user_id", flat=True).distinct():
        Membership.objects.create(user_id=person, brand=brand, role="admin")


def fill_clicks() -> None:
    """Two years of clicks on two hundred links, summed as the triggers would have, and people by day."""
    from dakika_server.brands.models import Brand
    from dakika_server.links.jobs import count_people
    from dakika_server.links.models import TrackedLink
    from dakika_server.shared import clock
    from django.db import connection

    brand = Brand.objects.get(slug=SLUG)
    made = TrackedLink.objects.bulk_create(
        TrackedLink(
            brand=brand, code=f"bench{i}", name=f"Link {i}", destination=f"https://a.example/{i % 40}", target="https://a.example/",
            network=("brevi", "commons")[i % 2], created_at=clock.now() - timedelta(days=DAYS),
        )
        for i in range(LINKS)
    )  # fmt: skip
    with connection.cursor() as cursor:
        cursor.execute("SET session_replication_role = replica")  # the sums are made at once afterwards
        for _ in range(10):
            cursor.execute(
                FILL, {"brand": brand.pk, "first": made[0].pk, "links": LINKS - 1, "days": DAYS, "count": CLICKS // 10}
            )
        cursor.execute("SET session_replication_role = DEFAULT")
        cursor.execute("SELECT links_sum_anew(%s)", [brand.pk])
        cursor.execute("ANALYZE")
    count_people(brand.pk)
    with connection.cursor() as cursor:
        cursor.execute("VACUUM ANALYZE")


def measure_bursts() -> None:
    """A round of bursts after a batch of clicks, beside all those that are there already."""
    from dakika_server.brands.models import Brand
    from dakika_server.links.bursts import mark_bursts
    from dakika_server.links.models import Click, TrackedLink
    from dakika_server.shared import clock

    brand = Brand.objects.get(slug=SLUG)
    links = list(TrackedLink.objects.filter(brand=brand)[:40])
    chance, times = random.Random(4), []
    for _ in range(BURST_ROUNDS):
        now = clock.now()
        Click.objects.bulk_create(
            Click(
                brand=brand, link=chance.choice(links), key=uuid.UUID(int=chance.getrandbits(128)), device="phone",
                at=now - timedelta(seconds=chance.uniform(0, 60)), visitor=chance.randbytes(16), referrer="",
            )
            for _ in range(BATCH)
        )  # fmt: skip
        begun = time.perf_counter()
        mark_bursts()
        times.append((time.perf_counter() - begun) * 1000)
    slow = statistics.quantiles(times, n=20)[-1]
    what = f"bursts among {BATCH} clicks beside {CLICKS:,}"
    say(what, f"{slow:.0f} ms p95", f"{BURST_LIMIT_MS:.0f} ms", slow / BURST_LIMIT_MS)


def main() -> None:
    """Everything in turn."""
    import django

    django.setup()
    measure_attribution()
    make_brand()
    measure_log()
    fill_clicks()
    measure_bursts()


if __name__ == "__main__":
    main()
