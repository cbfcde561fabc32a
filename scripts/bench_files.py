"""Speed of files as people have them: from the upload until their figures stand.

Run inside Django by `scripts.bench`; prints one JSON object a line: what, measured, limit, ratio.
"""

import io
import random
import time
from datetime import UTC, datetime, timedelta
from typing import Any

import django

from scripts.bench_sources import brand_of, say

YEARS, SEED = 10, 7
TABLES = ("sources_post", "sources_postreading", "sources_postsource", "measures_postmeasure", "measures_postday",
          "measures_profileday", "measures_profilepublished")  # fmt: skip


def old_posts(count: int, columns: int = 0) -> bytes:
    """An export of posts over ten years with one total each, and as many columns more that nobody needs."""
    rng = random.Random(SEED)
    begin, out = datetime(2016, 1, 1, tzinfo=UTC), io.StringIO()
    more = "".join(f",Extra {i}" for i in range(columns))
    out.write(f"Post ID,Published,Message,Type,Likes,Comments,Shares,Impressions{more}\n")
    step = timedelta(days=365 * YEARS) / count
    rest = ",7" * columns
    for i in range(count):
        at = begin + step * i
        likes = int(rng.lognormvariate(4, 1))
        out.write(
            f"1849{i:015d},{at:%Y-%m-%d %H:%M},Post {i} about clocks and the night sky,"
            f"{'Image' if i % 3 else 'Video'},{likes},{likes // 9},{likes // 20},{likes * 31}{rest}\n"
        )
    return out.getvalue().encode()


def sizes() -> dict[str, tuple[int, int]]:
    """Rows and bytes of the tables that a post stands in."""
    from django.db import connection

    found = {}
    with connection.cursor() as cursor:
        for table in TABLES:
            cursor.execute(f"SELECT count(*), pg_total_relation_size('{table}') FROM {table}")
            found[table] = cursor.fetchone()
    return found


def until_figures(data: bytes, name: str, rows: int) -> tuple[float, float, Any]:
    """Seconds of the upload's answer, and from the confirmation until Results stands on the file."""
    from dakika_server.figures.study import study_of
    from dakika_server.shared import clock
    from dakika_server.sources.files.confirming import confirm_file
    from dakika_server.sources.files.reading import read_into
    from dakika_server.sources.files.upload import upload_file
    from dakika_server.sources.models import Import
    from dakika_server.sources.rebuilding import rebuild

    person, brand = brand_of(name)
    begun = time.perf_counter()
    item = upload_file(person, brand, name=f"{name} 2026-10-31.csv", size=len(data), file=io.BytesIO(data))
    looked = time.perf_counter() - begun
    item = confirm_file(person, item, new_profile="Bench", network="elsewhere")
    begun = time.perf_counter()
    read_into(item.pk)
    rebuild(item.profile_id)
    took = time.perf_counter() - begun
    done = Import.objects.get(pk=item.pk)
    assert (done.state, done.posts_added, done.refused) == ("done", rows, 0), (done.message, done.posts_added)
    study = study_of(brand, {"first": done.first_day.replace(year=2020), "last": done.first_day.replace(year=2021),
                             "compare": "previous"}, clock.now())  # fmt: skip
    assert study.age_hours == -1, "posts of years ago stand on their final counts"
    return looked, took, done


def measure() -> None:
    """The table's lines."""
    looked, took, _ = until_figures(old_posts(5_000), "bench-files-5", 5_000)
    say("file, 5,000 posts of ten years: looked into", f"{looked:.1f} s", "3 s", looked / 3)
    say("file, 5,000 posts: figures stand", f"{took:.1f} s", "10 s", took / 10)
    before = sizes()
    data = old_posts(100_000)
    looked, took, _ = until_figures(data, "bench-files-100", 100_000)
    say("file, 100,000 posts: looked into", f"{looked:.1f} s", "10 s", looked / 10)
    say("file, 100,000 posts: figures stand", f"{took:.1f} s", "60 s", took / 60)
    after = sizes()
    rows = sum(after[t][0] - before[t][0] for t in TABLES) / 100_000
    size = sum(after[t][1] - before[t][1] for t in TABLES) / 100_000
    say("file, rows a post with one reading", f"{rows:.1f}", "12", rows / 12)
    say("file, bytes a post with one reading", f"{size:,.0f}", "2,500", size / 2500)
    looked, took, _ = until_figures(old_posts(5_000, columns=392), "bench-files-wide", 5_000)
    say("file, 400 columns, 5,000 rows: looked into", f"{looked:.1f} s", "5 s", looked / 5)
    say("file, 400 columns, 5,000 rows: figures stand", f"{took:.1f} s", "15 s", took / 15)
    looked, took, _ = until_figures(old_posts(200_000), "bench-files-200", 200_000)
    say("file, 200,000 rows: figures stand", f"{took:.1f} s", "120 s", took / 120)


if __name__ == "__main__":
    django.setup()
    measure()
