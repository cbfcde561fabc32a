"""Speed of reports: ten pages with forty figures on screen and as PDF, twenty at once, and deliveries by mail.

Run inside Django by `scripts.bench` on the demo's data, with the worker at work. Prints one JSON object a line: what,
measured, limit, ratio.
"""

import os
import statistics
import time
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from typing import Any

import django

from scripts.bench_results import say

PAGES, FIGURES, AT_ONCE = 10, 40, 20
LIMIT_SHOWN_S, LIMIT_PDF_S, LIMIT_MEMORY_MB = 2.0, 6.0, 1_000.0
# Five hundred are to be out in twenty minutes; so many are sent here unless the environment says otherwise.
DELIVERIES = int(os.environ.get("DAKIKA_BENCH_DELIVERIES", "40"))
ALL_DELIVERIES, LIMIT_DELIVERIES_S = 500, 1_200.0
ROUNDS = 11


def large(brand: Any, editor: Any) -> Any:
    """Ten pages with forty figures: those of the templates, the days of each page its own."""
    from dakika_server.reports.keeping import make_report
    from dakika_server.reports.models import Report
    from dakika_server.reports.templates import TEMPLATES, new_name

    made = make_report(editor, brand, template="monthly", title="Large", language="en", own=None)
    spans = ("last_28", "last_90", "last_14", "last_month", "last_7")
    pages: list[Any] = []
    figures = 0
    every = [page for _, _, _, of in TEMPLATES.values() for page in of() if page["items"]]
    while len(pages) < PAGES:
        page = every[len(pages) % len(every)]
        page = {**page, "id": new_name(), "items": [
            {**item, "id": new_name(), "study": {"span": spans[len(pages) % len(spans)]}} for item in page["items"]
        ]}  # fmt: skip
        figures += len(page["items"])
        pages.append(page)
    # Tiles and courses on what room is left, until there are as many figures as are to be measured.
    for at in range(FIGURES - figures):
        page = pages[at % PAGES]
        page["items"].append({
            **page["items"][0], "id": new_name(), "kind": "results.course", "params": {"metrics": "reach,visits"},
            "drawing": "course", "y": 0, "x": 0, "w": 1, "h": 1,
            "study": {"span": spans[at % len(spans)], "compare": "year_before"},
        })  # fmt: skip
    Report.objects.filter(pk=made.pk).update(pages=pages)
    made.refresh_from_db()
    return made


def measure_shown(report: Any) -> None:
    """All pages as they are sent to a screen."""
    from dakika_server.accounts.models import User
    from django.test import Client

    client = Client(headers={"host": "127.0.0.1"})
    client.force_login(User.objects.earliest("pk"), backend="django.contrib.auth.backends.ModelBackend")
    times = []
    for turn in range(ROUNDS + 1):
        begun = time.perf_counter()
        answer = client.get(f"/api/brands/{report.brand.slug}/reports/{report.pk}/shown")
        assert answer.status_code == 200, answer.content[:300]
        if turn:
            times.append(time.perf_counter() - begun)
    figures = sum(len(page["items"]) for page in report.pages)
    slow = statistics.quantiles(times, n=20)[-1]
    say(f"a report of {len(report.pages)} pages, {figures} figures", f"{slow:.2f} s p95", f"{LIMIT_SHOWN_S:.0f} s", slow / LIMIT_SHOWN_S)  # fmt: skip


def printed(report: Any, editor: Any) -> int:
    """Have its pages printed; the number of the paper."""
    from dakika_server.printing.actions import ask

    return ask(editor, report.brand, f"/{report.brand.slug}/reports/{report.pk}/print", f"{report.pk}.pdf").pk


def until(done: Callable[[], bool], most: float, each: Callable[[], None] = lambda: None) -> float:
    """Seconds until something is so. Raises TimeoutError."""
    begun = time.monotonic()
    while not done():
        each()
        if time.monotonic() - begun > most:
            raise TimeoutError
        time.sleep(0.1)
    return time.monotonic() - begun


def memory_mb(root: int) -> float:
    """What a process and all below it hold, shared pages by their share (proc(5), Pss)."""
    parents: dict[int, int] = {}
    for stat in Path("/proc").glob("[0-9]*/stat"):
        try:
            parents[int(stat.parent.name)] = int(stat.read_text().rpartition(")")[2].split()[1])
        except OSError:
            continue
    total = 0
    for pid in parents:
        above = pid
        while above in parents and above != root:
            above = parents[above]
        if above != root:
            continue
        try:
            rows = Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines()
        except OSError:
            continue
        total += next((int(row.split()[1]) for row in rows if row.startswith("Pss:")), 0)
    return total / 1024


def measure_printing(report: Any, editor: Any, worker: int) -> None:
    """One PDF in a fresh browser and the next in the same; then twenty at once with what memory they take."""
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Membership
    from dakika_server.printing.models import PrintedPage
    from dakika_server.reports.keeping import copy_report

    for what in ("its PDF, the browser begun for it", "its PDF, the next one"):
        number = printed(report, editor)
        seconds = until(lambda number=number: PrintedPage.objects.get(pk=number).state == "done", 60)  # type: ignore[misc]
        say(what, f"{seconds:.1f} s", f"{LIMIT_PDF_S:.0f} s", seconds / LIMIT_PDF_S)
        PrintedPage.objects.all().delete()
    copies = [copy_report(editor, report, report.brand, is_template=False) for _ in range(AT_ONCE)]
    # Nobody may have many pages to come: several people ask.
    people = [User.objects.create(email=f"bench{i}@ninthbell.example", name=f"Bench {i}") for i in range(AT_ONCE // 4)]
    Membership.objects.bulk_create(Membership(user=one, brand=report.brand, role="admin") for one in people)
    numbers = [printed(copy, people[i % len(people)]) for i, copy in enumerate(copies)]
    most = [0.0]

    def look() -> None:
        most[0] = max(most[0], memory_mb(worker))

    def ready() -> bool:
        return PrintedPage.objects.filter(pk__in=numbers, state="done").count() == AT_ONCE

    seconds = until(ready, 300, look)
    say(
        f"{AT_ONCE} PDFs at once, each",
        f"{seconds / AT_ONCE:.1f} s",
        f"{LIMIT_PDF_S:.0f} s",
        seconds / AT_ONCE / LIMIT_PDF_S,
    )
    say(
        "memory of worker and browser meanwhile",
        f"{most[0]:.0f} MB",
        f"{LIMIT_MEMORY_MB:.0f} MB",
        most[0] / LIMIT_MEMORY_MB,
    )


def measure_deliveries(brand: Any, editor: Any) -> None:
    """What is due in one minute, each with its figures, its PDF and its letter."""
    from dakika_server.reports import deliveries
    from dakika_server.reports.keeping import make_report
    from dakika_server.reports.models import Delivery, DeliveryRun
    from dakika_server.shared import clock

    usual: dict[str, Any] = {
        "edition": 0, "every": "day", "weekday": 0, "day": 1, "rule": "", "hour": 8, "minute": 0, "begins": None,
        "message": "", "wait_hours": 0, "is_on": True,
    }  # fmt: skip
    # More than a brand may have: here one stands for several.
    deliveries.MOST_DELIVERIES = max(deliveries.MOST_DELIVERIES, DELIVERIES)
    for i in range(DELIVERIES):
        template = ("monthly", "weekly")[i % 2]
        report = make_report(editor, brand, template=template, title=f"Report {i}", language="en", own=None)
        deliveries.save_delivery(editor, report, delivery=None, to=[f"reader{i}@client.example"], **usual)
    now = clock.now()
    Delivery.objects.filter(brand=brand).update(next_at=now - timedelta(seconds=1))

    def out() -> bool:
        return DeliveryRun.objects.filter(brand=brand, state="sent").count() >= DELIVERIES

    until(out, 90 + 10 * DELIVERIES)
    failed = DeliveryRun.objects.filter(brand=brand, state="failed").count()
    assert failed == 0, "a delivery failed"
    first = DeliveryRun.objects.filter(brand=brand).order_by("ended_at").values_list("ended_at", flat=True)
    ends = [one.timestamp() for one in first if one]
    # From the first that was out: until then the minute's sweep was waited for.
    each = (ends[-1] - ends[0]) / (len(ends) - 1)
    whole = each * ALL_DELIVERIES
    say(
        f"{ALL_DELIVERIES} deliveries, by {DELIVERIES} of {each:.2f} s each", f"{whole / 60:.1f} min",
        f"{LIMIT_DELIVERIES_S / 60:.0f} min", whole / LIMIT_DELIVERIES_S,
    )  # fmt: skip


def main() -> None:
    """All parts, one after the other."""
    django.setup()
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand

    brand = Brand.objects.get(slug="orrery-house")
    editor = User.objects.get(email="mira@ninthbell.example")
    worker = int(os.environ["DAKIKA_BENCH_WORKER"])
    report = large(brand, editor)
    measure_shown(report)
    measure_printing(report, editor, worker)
    measure_deliveries(brand, editor)


if __name__ == "__main__":
    main()
