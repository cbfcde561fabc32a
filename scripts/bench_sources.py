"""Speed of sources: bringing in a million rows, collecting ten thousand posts.

Run inside Django by `scripts.bench`; prints one JSON object a line: what, measured, limit, ratio.
"""

import io
import json
import os
import sys
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import django

POSTS, READINGS_EACH, COLLECTED = 10_000, 100, 10_000


def say(what: str, measured: str, limit: str, ratio: float) -> None:
    """One line of the table."""
    print(json.dumps({"what": what, "measured": measured, "limit": limit, "ratio": ratio}), flush=True)


def _nothing(_item: Any) -> None:
    """Measures are worked out afterwards, and measured apart."""


def brand_of(name: str) -> Any:
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand, Membership

    person = User.objects.create_user(f"{name}@bench.example", "a good long password", name=name)
    brand = Brand.objects.create(name=name, slug=name, time_zone="Europe/Lisbon")
    Membership.objects.create(user=person, brand=brand, role="admin")
    return person, brand


def measure_import() -> None:
    """A file of a million post readings beside a bare COPY of the same rows into the same table, in this order and back."""
    from dakika_server.sources.files.confirming import confirm_file
    from dakika_server.sources.files.reading import read_into
    from dakika_server.sources.files.upload import upload_file
    from dakika_server.sources.models import Import, PostReading, Profile
    from django.db import connection

    person, brand = brand_of("bench-import")
    now = datetime(2026, 11, 1, tzinfo=UTC)
    profile = Profile.objects.create(
        brand=brand, network="commons", external_id="file:bench", handle="bench", name="Bench", kind="own", added_at=now
    )
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, format, text, url, hashtags, "
            "language, picture) SELECT %s, %s, 'p' || i, %s::timestamptz - make_interval(mins => i), 'text', '', '', '{}', '', '' "
            "FROM generate_series(1, %s) i",
            [brand.pk, profile.pk, now - timedelta(days=30), POSTS],
        )
        cursor.execute("SELECT external_id, id FROM sources_post WHERE profile_id = %s", [profile.pk])
        keys = dict(cursor.fetchall())
    out = io.StringIO()
    out.write("external_id,taken_at,impressions,reactions,comments,shares\n")
    for j in range(READINGS_EACH):
        at = (now - timedelta(hours=4 * (READINGS_EACH - j))).isoformat()
        for i in range(1, POSTS + 1):
            out.write(f"p{i},{at},{j * 97 + i},{j + i % 7},{j % 5},{i % 3}\n")
    data = out.getvalue().encode()
    lines = data.decode().splitlines()[1:]

    def bare() -> float:
        rows = []
        for line in lines:
            post, at, *counts = line.split(",")
            rows.append("\t".join([str(brand.pk), str(keys[post]), at, *counts]))
        text = "\n".join(rows) + "\n"
        begun = time.perf_counter()
        with (
            connection.cursor() as cursor,
            cursor.copy(
                "COPY sources_postreading (brand_id, post_id, taken_at, impressions, reactions, comments, shares) FROM STDIN"
            ) as copy,
        ):
            for start in range(0, len(text), 1 << 20):
                copy.write(text[start : start + (1 << 20)])
        return time.perf_counter() - begun

    def clear() -> None:
        with connection.cursor() as cursor:
            cursor.execute("DELETE FROM sources_postreading WHERE brand_id = %s", [brand.pk])
            cursor.execute("VACUUM sources_postreading")

    copied = bare()
    clear()
    lines.clear()
    item = upload_file(person, brand, name="bench.csv", size=len(data), file=io.BytesIO(data))
    confirm_file(person, item, profile_id=profile.pk)
    begun = time.perf_counter()
    pid = os.fork()
    if pid == 0:
        # A process of its own, as the worker is: its memory is what the import costs.
        connection.close()
        from dakika_server.sources.files import reading

        reading.after_rows_changed = _nothing
        read_into(item.pk)
        os._exit(0)
    os.waitpid(pid, 0)
    took = time.perf_counter() - begun
    connection.close()
    done = Import.objects.get(pk=item.pk)
    assert (done.state, done.added) == ("done", POSTS * READINGS_EACH), (done.state, done.added, done.message)
    assert PostReading.objects.filter(brand=brand).count() == POSTS * READINGS_EACH
    rate = done.added / took
    say(
        "import, 1,000,000 readings",
        f"{took:.1f} s, {rate:,.0f}/s",
        f"{copied * 3:.1f} s (3 x COPY)",
        took / (copied * 3),
    )


def measure_memory() -> None:
    """The import's memory: a fresh process reads the same kind of file, and its peak is what it took."""
    import subprocess

    code = "from scripts.bench_sources import read_one; read_one()"
    environment = {**os.environ, "BENCH_ROLE": "memory"}
    said = subprocess.run([sys.executable, "-c", code], env=environment, capture_output=True, text=True)
    peak = float(said.stdout.strip().splitlines()[-1]) if said.returncode == 0 else float("nan")
    say("import, peak memory of its process", f"{peak:.0f} MB", "300 MB", peak / 300)


def read_one() -> None:
    """Bring the newest file that waits in, and print this process's peak memory in MB."""
    django.setup()
    from dakika_server.sources.files import reading
    from dakika_server.sources.models import Import

    reading.after_rows_changed = _nothing
    item = Import.objects.filter(state="running").order_by("-pk").first()
    assert item is not None
    reading.read_into(item.pk)
    # Linux: ru_maxrss begins with the peak of the process that started this one; VmHWM is this process's own.
    status = Path("/proc/self/status").read_text(encoding="ascii")
    print(int(status.partition("VmHWM:")[2].split()[0]) / 1024)


def prepare_memory() -> None:
    """A second file of a million rows, confirmed and waiting for its reader."""
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand
    from dakika_server.sources.files.confirming import confirm_file
    from dakika_server.sources.files.upload import upload_file
    from dakika_server.sources.models import Profile

    person, brand = User.objects.get(email="bench-import@bench.example"), Brand.objects.get(slug="bench-import")
    out = io.StringIO()
    out.write("external_id,taken_at,impressions,reactions,comments,shares\n")
    now = datetime(2026, 10, 1, tzinfo=UTC)
    for j in range(READINGS_EACH):
        at = (now - timedelta(hours=3 * (READINGS_EACH - j))).isoformat()
        out.writelines(f"p{i},{at},{j * 97 + i},{j + i % 7},{j % 5},{i % 3}\n" for i in range(1, POSTS + 1))
    data = out.getvalue().encode()
    item = upload_file(person, brand, name="again.csv", size=len(data), file=io.BytesIO(data))
    confirm_file(person, item, profile_id=Profile.objects.get(brand=brand).pk)


def measure_collect() -> None:
    """Ten thousand posts with readings from stand-ins without limits, by one worker."""
    import httpx
    from dakika_server.sources.collect import collect, steps
    from dakika_server.sources.models import CollectionRun, Competitor, Post, Profile
    from django.conf import settings

    world = httpx.Client(base_url=settings.STANDINS_ADDRESS, timeout=60)
    world.post("/control/bulk", json={"key": "brevi-halfmoon", "count": COLLECTED}).raise_for_status()
    world.post("/control/faults", json={"brevi.no_limit": 1}).raise_for_status()
    _, brand = brand_of("bench-collect")
    rival = Competitor.objects.create(brand=brand, name="Halfmoon")
    profile = Profile.objects.create(
        brand=brand, network="brevi", external_id="bhalfmoon", handle="halfmoon", name="Halfmoon", kind="competitor",
        competitor=rival, added_at=datetime.now(tz=UTC),
    )  # fmt: skip
    steps.CALLS_PER_TURN = 100_000
    from dakika_server.sources.collect import run as running

    running.AFTER_COLLECTING.clear()
    run = CollectionRun.objects.create(brand=brand, profile=profile, asked_at=datetime.now(tz=UTC))
    begun = time.perf_counter()
    while collect(CollectionRun.objects.select_related("profile__brand").get(pk=run.pk)) is not None:
        pass
    took = time.perf_counter() - begun
    posts = Post.objects.filter(profile=profile).count()
    run.refresh_from_db()
    begun = time.perf_counter()
    for page in range(1, 21):
        world.get("/brevi/api/account.list", params={"name": "halfmoon", "page": page, "per": 100, "app": "dakika"})
    alone = (time.perf_counter() - begun) / 20 * run.requests
    rate = posts / took
    say(f"collecting, {posts:,} posts", f"{rate:,.0f} posts/s", "1,000 posts/s", 1000 / rate)
    say("  of that, waiting for the stand-ins", f"{alone / took:.0%}", "", alone / took)


def main() -> None:
    """All of them."""
    django.setup()
    from procrastinate.contrib.django import app
    from procrastinate.testing import InMemoryConnector

    with app.replace_connector(InMemoryConnector()):
        measure_import()
        prepare_memory()
        measure_memory()
        measure_collect()


if __name__ == "__main__":
    main()
