"""Every check and test. What looks at the sources runs beside the tests, so that two processors are never idle."""

import subprocess
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path

from scripts.paths import PYTHON, ROOT
from scripts.steps import StepError


@dataclass(frozen=True)
class Check:
    """A command that says by its exit code whether all is well."""

    title: str
    command: tuple[str, ...]
    folder: Path = ROOT


# What is told within two seconds is told before anything else is begun.
AT_A_GLANCE = (
    Check("ruff", ("ruff", "check", ".")),
    Check("ruff format", ("ruff", "format", "--check", ".")),
    Check("import-linter", ("lint-imports",)),
)
BESIDE = (
    Check("front end: types and style", ("npm", "run", "--silent", "check"), ROOT / "web"),
    Check("mypy", ("mypy", "core/dakika_core", "server/dakika_server", "redirect/dakika_redirect")),
    Check("front end: tests", ("npm", "run", "--silent", "test"), ROOT / "web"),
)
# Two processes share the whole, and a third fills the time in which they wait for a browser or a killed worker.
TOGETHER = ("-n", "3")
CLEARING_UP_SECONDS = 60.0


def picked(arguments: list[str], environment: dict[str, str]) -> int:
    """What somebody picked out, in one process, where it is easier to follow. Returns pytest's exit code."""
    return subprocess.run([str(PYTHON), "-m", "pytest", *arguments], cwd=ROOT, env=environment).returncode


def everything(
    environment: dict[str, str], first: tuple[Check, ...] = AT_A_GLANCE, beside: tuple[Check, ...] = BESIDE
) -> int:
    """All checks and all tests. Returns pytest's exit code.

    What stands first is over before anything else begins, and ends all when it finds something. What runs beside
    the tests is told at once when it does; the tests go on to their end, since whoever cuts them off leaves their
    browsers and servers running. Raises StepError naming the checks that found something.
    """
    found = _found_by(first, environment)
    if not found:
        tests = subprocess.Popen([str(PYTHON), "-m", "pytest", *TOGETHER], cwd=ROOT, env=environment)
        others = Beside(beside, environment)
        others.start()
        try:
            code = tests.wait()
        except KeyboardInterrupt:
            # Ctrl-C reached them too: they put away what they started.
            others.stop()
            _let_clear_up(tests)
            raise
        found = others.join()
    if found:
        raise StepError(f"{' and '.join(found)} found something; see above.")
    return code


def _let_clear_up(tests: "subprocess.Popen[bytes]") -> None:
    try:
        tests.wait(timeout=CLEARING_UP_SECONDS)
    except subprocess.TimeoutExpired:
        tests.kill()
        tests.wait()


def _found_by(checks: tuple[Check, ...], environment: dict[str, str]) -> list[str]:
    """Run checks to the first that finds something; its title, or nothing."""
    one_by_one = Beside(checks, environment)
    one_by_one.start()
    return one_by_one.join()


@dataclass
class Beside:
    """Checks one after the other in a thread, to the first that finds something; each is told in one piece."""

    checks: tuple[Check, ...]
    environment: dict[str, str]
    _found: list[str] = field(default_factory=list)
    _running: "subprocess.Popen[bytes] | None" = None
    _is_stopped: bool = False
    # Nothing is begun between somebody's word to stop and the look at what runs.
    _turn: threading.Lock = field(default_factory=threading.Lock)
    _thread: threading.Thread = field(init=False)

    def start(self) -> None:
        """Begin with the first."""
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def join(self) -> list[str]:
        """Until all are done or one found something; its title, or nothing."""
        self._thread.join()
        return self._found

    def stop(self) -> None:
        """End what runs, and begin nothing more."""
        with self._turn:
            self._is_stopped = True
            if self._running and self._running.poll() is None:
                self._running.terminate()
        self._thread.join()

    def _begin(self, check: Check) -> "subprocess.Popen[bytes] | None":
        with self._turn:
            if self._is_stopped:
                return None
            self._running = subprocess.Popen(
                check.command, cwd=check.folder, env=self.environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
            )
            return self._running

    def _run(self) -> None:
        for check in self.checks:
            begun = time.monotonic()
            running = self._begin(check)
            if running is None:
                return
            said, _ = running.communicate()
            if self._is_stopped:
                return
            is_well = running.returncode == 0
            shown = "" if is_well else f"\n{said.decode(errors='replace').strip()}"
            print(f"\n== {check.title}: {time.monotonic() - begun:.1f} s{shown}", flush=True)
            if not is_well:
                self._found.append(check.title)
                return
