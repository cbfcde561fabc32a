"""./dakika bench: how fast, as ratios to the limit beside absolute times. Measures the demo's data on a stack of its own."""

import http.client
import json
import os
import re
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from datetime import UTC, datetime, timedelta
from pathlib import Path

from scripts import postgres
from scripts.bench_statistics import measure_statistics, measure_timing
from scripts.browser import EDITOR, PASSWORD, browser, signed_in
from scripts.cli import set_up
from scripts.environment import ensure_front_end
from scripts.paths import DIST, PYTHON, ROOT
from scripts.stack import Stack
from scripts.system import postgres_bin

API_LIMIT_MS = 150.0
FIRST_VIEW_LIMIT_MS = 1000.0
SCRIPT_LIMIT_KB = 250.0
FRAMES_LIMIT = 50.0
SCROLL = """async () => {
    const list = document.querySelector('[role=rowgroup]');
    let frames = 0;
    const begun = performance.now();
    while (performance.now() - begun < 8000) {
        list.scrollTop += 140;
        await new Promise(requestAnimationFrame);
        frames += 1;
    }
    return 1000 * frames / (performance.now() - begun);
}"""
# Counts frames from now on, into what the page is asked for in the end.
COUNT_FRAMES = """() => {
    window.drawn = { frames: 0, begun: performance.now() };
    const count = () => { window.drawn.frames += 1; requestAnimationFrame(count); };
    requestAnimationFrame(count);
}"""
FRAMES_A_SECOND = "() => 1000 * window.drawn.frames / (performance.now() - window.drawn.begun)"
DRAG_FRAMES_LIMIT, DRAG_SECONDS = 60.0, 6.0
REDIRECT_SHARE = 0.4
START_SECONDS = 15.0
STEADY_RATE = 300
P99_LIMIT_MS = 25.0
MEMORY_CLICKS = 200_000
ROUNDS = 40
SECONDS = 5.0
CLIENTS = 16


def row(what: str, value: str, limit: str, ratio: float) -> None:
    """A line of the table; a ratio up to 1 keeps the limit."""
    print(f"{what:<46}{value:>14}{limit:>14}{ratio:>8.2f}{'' if ratio <= 1 else '  over'}", flush=True)


def percentile95(values: list[float]) -> float:
    """95th percentile."""
    return statistics.quantiles(values, n=20)[-1]


class Session:
    """A signed-in client of the API over one connection."""

    def __init__(self, stack: Stack) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", stack.web_port)
        self.cookies: dict[str, str] = {}
        self.ask("GET", "/api/session")
        self.ask("POST", "/api/session", {"email": EDITOR, "password": PASSWORD})

    def ask(self, method: str, path: str, body: dict[str, object] | None = None) -> bytes:
        headers = {"Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items())}
        if body is not None:
            headers |= {"Content-Type": "application/json", "X-CSRFToken": self.cookies.get("csrftoken", "")}
        self.connection.request(method, path, json.dumps(body) if body is not None else None, headers)
        answer = self.connection.getresponse()
        for name, value in answer.getheaders():
            if name == "Set-Cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        return answer.read()


def measure_api(stack: Stack) -> None:
    """Every reading endpoint, one after the other, in rounds."""
    session = Session(stack)
    home = "/api/brands/orrery-house"
    paths = [
        "/api/session", home, f"{home}/line", f"{home}/results/summary", f"{home}/figures/results.course/basis?cell=er_reach",
        f"{home}/results/posts", f"{home}/results/posts?sort=-index", f"{home}/results/posts/1", f"{home}/competitors",
        f"{home}/links", f"{home}/links/1", f"{home}/timing", f"{home}/plan?first=2026-11-01&last=2026-11-30",
        f"{home}/sources",
    ]  # fmt: skip
    times: dict[str, list[float]] = {path: [] for path in paths}
    for turn in range(ROUNDS + 3):
        for path in paths:
            begun = time.perf_counter()
            session.ask("GET", path)
            if turn >= 3:
                times[path].append((time.perf_counter() - begun) * 1000)
    for path, measured in times.items():
        slow = percentile95(measured)
        row(path.replace(home, "…"), f"{slow:.0f} ms p95", f"{API_LIMIT_MS:.0f} ms", slow / API_LIMIT_MS)


def _travels(stack: Stack, path: str) -> int:
    """Bytes of a file's content on the wire, for a browser that takes brotli."""
    connection = http.client.HTTPConnection("127.0.0.1", stack.web_port)
    connection.request("GET", path, headers={"Accept-Encoding": "gzip, deflate, br"})
    return len(connection.getresponse().read())


def measure_first_view(stack: Stack) -> None:
    """From the address to the figures on the screen, in a browser that has been there before signing in only."""
    found = []
    with browser() as opened:
        page = signed_in(opened, stack.address)
        for _ in range(5):
            begun = time.perf_counter()
            page.goto(f"{stack.address}/orrery-house/results")
            page.get_by_role("button", name="Basis of Followers").wait_for()
            found.append((time.perf_counter() - begun) * 1000)
    middle = statistics.median(found)
    row("first view usable", f"{middle:.0f} ms", f"{FIRST_VIEW_LIMIT_MS:.0f} ms", middle / FIRST_VIEW_LIMIT_MS)
    first = re.findall(r'(?:src|href)="/([^"]+\.js)"', (DIST / "index.html").read_text())
    size = sum(_travels(stack, f"/{name}") for name in first) / 1000
    row("initial JavaScript, as it travels", f"{size:.0f} kB", f"{SCRIPT_LIMIT_KB:.0f} kB", size / SCRIPT_LIMIT_KB)


def measure_redirect(stack: Stack) -> None:
    """Redirects per second beside pgbench with the same select and insert, in turn, on the same machine."""
    code = postgres.sql("SELECT code FROM links_trackedlink ORDER BY id LIMIT 1", stack.name)

    # pgbench is one small program of C; a load generator in Python would measure itself, so several processes ask.
    script = f"""WITH found AS (SELECT id, brand_id, target FROM links_trackedlink WHERE code = '{code}'),
    written AS (INSERT INTO links_benchclick (brand_id, link_id, key, at, referrer, device, visitor, bot_reason)
    SELECT brand_id, id, gen_random_uuid(), now(), '', 'phone', '\\x00', '' FROM found) SELECT target FROM found;
    """
    # The same columns and indexes without the sums: what a bare statement would do.
    postgres.sql("DROP TABLE IF EXISTS links_benchclick", stack.name)
    postgres.sql("CREATE TABLE links_benchclick (LIKE links_click INCLUDING ALL)", stack.name)
    ratios, redirects = [], []
    with tempfile.NamedTemporaryFile("w", suffix=".sql") as file:
        file.write(script.replace("\n", " ") + "\n")
        file.flush()
        for _ in range(3):
            command = ["-n", "-c", str(CLIENTS), "-j", "2", "-T", str(int(SECONDS)), "-f", file.name]
            said = subprocess.run(
                [str((postgres_bin() or Path()) / "pgbench"), *command],
                env={**os.environ, **postgres.connection(stack.name)}, capture_output=True, text=True,
            ).stdout  # fmt: skip
            reference = float((re.search(r"tps = ([\d.]+)", said) or ["", "nan"])[1])
            told = asked(stack, code, seconds=SECONDS)
            redirects.append(told["done"] / SECONDS)
            ratios.append(redirects[-1] / reference)
    share = statistics.median(ratios)
    row(
        "redirects, share of pgbench", f"{statistics.median(redirects):.0f}/s, {share:.2f}", f"{REDIRECT_SHARE:.2f}",
        REDIRECT_SHARE / share,
    )  # fmt: skip
    steady = asked(stack, code, seconds=20.0, rate=STEADY_RATE)
    row(
        f"redirect, p99 at {STEADY_RATE}/s",
        f"{steady['p99_ms']:.1f} ms",
        f"{P99_LIMIT_MS:.0f} ms",
        steady["p99_ms"] / P99_LIMIT_MS,
    )
    memory = [memory_mb(stack.processes["links"].pid)]
    while (taken := taken_in(stack)) < MEMORY_CLICKS:
        asked(stack, code, seconds=5.0)
        memory.append(memory_mb(stack.processes["links"].pid))
    growth = memory[-1] / memory[len(memory) // 4]
    row(f"redirect's memory over {taken:,} clicks", f"{memory[-1]:.0f} MB, x{growth:.2f}", "x1.10", growth / 1.1)


def asked(stack: Stack, code: str, *, seconds: float, rate: int = 0) -> dict[str, float]:
    """What a load of visitors was answered: done, p99_ms. As fast as it goes, or `rate` a second."""
    command = [str(PYTHON), "-m", "scripts.load", stack.links_address, code, str(seconds), str(CLIENTS), str(rate)]
    said = subprocess.run(command, cwd=ROOT, capture_output=True, text=True, check=True).stdout
    found: dict[str, float] = json.loads(said)
    return found


def memory_mb(pid: int) -> float:
    """Memory that a process holds now."""
    found = re.search(r"VmRSS:\s+(\d+) kB", Path(f"/proc/{pid}/status").read_text())
    return int(found[1]) / 1000 if found else float("nan")


def taken_in(stack: Stack) -> int:
    """Clicks that the redirect has taken into the database since it began."""
    with urllib.request.urlopen(f"{stack.links_address}/health", timeout=10) as answer:
        return int(json.load(answer)["taken"])


def measure_inside(module: str, stack: Stack, **told: str) -> None:
    """What a script of ours measures in a process inside Django. told: what it is to know, as its environment."""
    environment = {**stack.environment(), **told}
    done = subprocess.run([str(PYTHON), "-m", module], env=environment, cwd=ROOT, capture_output=True, text=True)
    if done.returncode != 0:
        raise RuntimeError(done.stderr[-3000:])
    for line in done.stdout.splitlines():
        if line.startswith("{"):
            said = json.loads(line)
            row(said["what"], said["measured"], said["limit"], said["ratio"])


def measure_page(stack: Stack, what: str, path: str, limit_ms: float) -> None:
    """95th percentile of one request over HTTP."""
    session, times = Session(stack), []
    for turn in range(ROUNDS + 3):
        begun = time.perf_counter()
        session.ask("GET", path)
        if turn >= 3:
            times.append((time.perf_counter() - begun) * 1000)
    slow = percentile95(times)
    row(what, f"{slow:.0f} ms p95", f"{limit_ms:.0f} ms", slow / limit_ms)


def measure_sources(stack: Stack) -> None:
    """Files and collection, in a process inside Django."""
    measure_inside("scripts.bench_sources", stack)


def measure_files(stack: Stack) -> None:
    """Files as people have them: until their figures stand, in a process inside Django."""
    measure_inside("scripts.bench_files", stack)


def measure_health(stack: Stack) -> None:
    """The health page over HTTP, without what bringing in a million rows leaves behind."""
    measure_inside("scripts.bench_health", stack)
    measure_page(stack, "health page, 200 profiles", "/api/brands/bench-health/sources/health", 200)


def measure_links(stack: Stack) -> None:
    """Credits, logs, and the page of links over five million clicks."""
    measure_inside("scripts.bench_links", stack)
    today = datetime.now(tz=UTC).date()
    days = f"first={today - timedelta(days=89)}&last={today}"
    measure_page(stack, "links of 90 days, 5,000,000 clicks", f"/api/brands/bench-links/links?{days}", 400)


def measure_results(stack: Stack) -> None:
    """Results on a large brand: in a process inside Django; then scrolling its posts in a browser."""
    measure_inside("scripts.bench_results", stack)
    frames = measure_scrolling(stack)
    row("frames a second, scrolling 50,000 posts", f"{frames:.0f}/s", f"{FRAMES_LIMIT:.0f}/s", FRAMES_LIMIT / frames)


def measure_competitors(stack: Stack) -> None:
    """Competitors with 40 profiles and with 200, in a process inside Django."""
    measure_inside("scripts.bench_competitors", stack)


def measure_plan(stack: Stack) -> None:
    """A full month, a library, files, and what is due in one minute, in a process inside Django."""
    stack.has_worker = True  # what is due is sent by it; nothing else is measured beside it
    stack.start("worker")
    try:
        measure_inside("scripts.bench_plan", stack)
        frames = measure_dragging(stack)
        limit = DRAG_FRAMES_LIMIT
        row("frames while dragging in a full month", f"{frames:.0f} a second", f"{limit:.0f} a second", limit / frames)
    finally:
        worker = stack.processes.pop("worker")
        worker.terminate()
        worker.wait()
        stack.has_worker = False


def measure_reports(stack: Stack) -> None:
    """A large report on screen and paper, and deliveries, with the worker that makes them."""
    stack.has_worker = True
    stack.start("worker")
    worker = stack.processes["worker"]
    try:
        measure_inside("scripts.bench_reports", stack, DAKIKA_BENCH_WORKER=str(worker.pid))
    finally:
        del stack.processes["worker"]
        worker.terminate()
        worker.wait()
        stack.has_worker = False


def measure_scrolling(stack: Stack) -> float:
    """Frames a second while the table of a large brand is scrolled through for some seconds."""
    with browser() as opened:
        page = signed_in(opened, stack.address)
        page.goto(f"{stack.address}/bench-results/results/posts?first=2026-10-11&last=2026-11-25")
        page.get_by_role("rowgroup").wait_for()
        page.wait_for_timeout(1500)
        return float(page.evaluate(SCROLL))


def measure_dragging(stack: Stack) -> float:
    """Frames a second while a post of a month with 600 is dragged over its days."""
    with browser() as opened:
        page = signed_in(opened, stack.address)
        page.goto(f"{stack.address}/bench-plan/plan?view=month&day=2026-11-15")
        held = page.locator("main a[draggable=true]").nth(30)
        held.wait_for()
        page.wait_for_timeout(1500)
        box = held.bounding_box()
        if box is None:
            raise SystemExit("There is no post in the month that could be dragged.")
        page.mouse.move(box["x"] + 5, box["y"] + 5)
        page.mouse.down()
        page.evaluate(COUNT_FRAMES)
        begun = time.monotonic()
        while time.monotonic() - begun < DRAG_SECONDS:
            for x, y in ((300, 250), (1100, 300), (1100, 700), (300, 650)):
                page.mouse.move(x, y, steps=20)
        frames = float(page.evaluate(FRAMES_A_SECOND))
        # Let go beside the month: nothing is moved.
        page.mouse.move(5, 5)
        page.mouse.up()
        return frames


def measure_start(stack: Stack) -> None:
    """Everything installed and the demo there: until the first page can be asked for, as a start does it."""
    stack.stop()
    begun = time.perf_counter()
    set_up(for_tests=True)
    ensure_front_end()
    with postgres.running():
        stack.prepare()
        stack.start_standins()
        stack.load_demo()
        stack.start_rest()
    seconds = time.perf_counter() - begun
    row("start, everything installed", f"{seconds:.1f} s", f"{START_SECONDS:.0f} s", seconds / START_SECONDS)


PARTS = {
    "start": measure_start, "api": measure_api, "view": measure_first_view, "redirect": measure_redirect, "sources": measure_sources,
    "files": measure_files,
    "health": measure_health, "links": measure_links, "results": measure_results, "competitors": measure_competitors,
    "plan": measure_plan, "reports": measure_reports,
}  # fmt: skip


def main() -> int:
    """Print the table; of some parts alone where they are named. Statistics and timing need no installation, only time."""
    if sys.argv[1:2] == ["timing"]:
        measure_timing(*map(int, sys.argv[2:3]))
        return 0
    if sys.argv[1:] == ["statistics"]:
        measure_statistics()
        return 0
    stack = Stack(name="dakika_bench", first_web_port=8400, first_standins_port=9400, has_worker=False)
    stack.choose_ports()
    try:
        stack.prepare(fresh=True)
        stack.start_standins()
        stack.load_demo()
        stack.start_rest()
        print(f"\n{'what':<46}{'measured':>14}{'limit':>14}{'ratio':>8}")
        for part in sys.argv[1:] or PARTS:
            PARTS[part](stack)
    finally:
        stack.stop()
    return 0


if __name__ == "__main__":
    sys.exit(main())
