"""Every check and test. What looks at the sources runs beside the tests, so that two processors are never idle."""

import subprocess
import sys
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


# In the order of what they take: what is wrong at a glance is told at once.
CHECKS = (
    Check("ruff", ("ruff", "check", ".")),
    Check("ruff format", ("ruff", "format", "--check", ".")),
    Check("import-linter", ("lint-imports",)),
    Check("front end: types and style", ("npm", "run", "--silent", "check"), ROOT / "web"),
    Check("mypy", ("mypy", "core/dakika_core", "server/dakika_server", "redirect/dakika_redirect")),
    Check("front end: tests", ("npm", "run", "--silent", "test"), ROOT / "web"),
)
# Two processes share the whole, and a third fills the time in which they wait for a browser or a killed worker.
TOGETHER = ("-n", "3")


def picked(arguments: list[str], environment: dict[str, str]) -> int:
    """What somebody picked out, in one process, where it is easier to follow. Returns pytest's exit code."""
    return subprocess.run([str(PYTHON), "-m", "pytest", *arguments], cwd=ROOT, env=environment).returncode


def everything(environment: dict[str, str], checks: tuple[Check, ...] = CHECKS) -> int:
    """All checks beside all tests; the first check that finds something ends both. Returns pytest's exit code.

    Raises StepError naming the check that found something, after printing what it said.
    """
    tests = subprocess.Popen([str(PYTHON), "-m", "pytest", *TOGETHER], cwd=ROOT, env=environment)
    beside = Beside(checks, environment)
    beside.start()
    try:
        while tests.poll() is None and beside.found is None:
            time.sleep(0.2)
        if beside.found is None:
            beside.join()
    finally:
        beside.stop()
        if tests.poll() is None:
            tests.terminate()
        code = tests.wait()
    if beside.found is not None:
        raise StepError(f"{beside.found} found something; see above.")
    return code


@dataclass
class Beside:
    """Checks one after the other in a thread; each is told in one piece when it is done, between the tests' dots."""

    checks: tuple[Check, ...]
    environment: dict[str, str]
    found: str | None = None
    _running: subprocess.Popen[bytes] | None = None
    _is_stopped: bool = False
    _thread: threading.Thread = field(init=False)

    def start(self) -> None:
        """Begin with the first."""
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def join(self) -> None:
        """Until the last is done, or one found something."""
        self._thread.join()

    def stop(self) -> None:
        """End what runs, and begin nothing more."""
        self._is_stopped = True
        if self._running and self._running.poll() is None:
            self._running.terminate()
        self._thread.join()

    def _run(self) -> None:
        for check in self.checks:
            if self._is_stopped:
                return
            begun = time.monotonic()
            self._running = subprocess.Popen(
                check.command, cwd=check.folder, env=self.environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
            )
            said, _ = self._running.communicate()
            if self._is_stopped:
                return
            is_well = self._running.returncode == 0
            lines = said.decode(errors="replace").strip()
            shown = "" if is_well else f"\n{lines}"
            print(f"\n== {check.title}: {time.monotonic() - begun:.1f} s{shown}", flush=True)
            if not is_well:
                self.found = check.title
                return


__all__ = ["CHECKS", "Beside", "Check", "everything", "picked"]

if __name__ == "__main__":
    sys.exit("Run ./dakika test")
