"""What has to come from Debian, and how to say so when we may not install it."""

import importlib.util
import os
import shlex
import shutil
import subprocess
from pathlib import Path

from scripts.steps import StepError, run, step

POSTGRES_BIN_FOLDERS = "/usr/lib/postgresql"
DEBIAN_CLUSTERS = Path("/etc/postgresql")


def postgres_bin() -> Path | None:
    """The newest PostgreSQL server's folder of programs, or None."""
    found = sorted(Path(POSTGRES_BIN_FOLDERS).glob("*/bin/initdb"), key=lambda p: int(p.parts[-3]))
    return found[-1].parent if found else None


def missing_packages(*, for_tests: bool) -> list[str]:
    """Debian packages that are not there yet, without which nothing goes."""
    missing = []
    if postgres_bin() is None:
        missing.append("postgresql")
    if importlib.util.find_spec("ensurepip") is None:
        missing.append("python3-venv")
    if for_tests and shutil.which("chromium") is None:
        missing.append("chromium")  # else only PDFs want it: see missing_helpers
    if for_tests and not Path("/usr/share/unicode/auxiliary/GraphemeBreakTest.txt").exists():
        missing.append("unicode-data")
    if for_tests and not list(Path("/usr/share/cargo/registry").glob("url-*/tests/urltestdata.json")):
        missing.append("librust-url-dev")  # the URL standard's test data
    if for_tests and shutil.which("ffprobe") is None:
        missing.append("ffmpeg")  # what a film is, told by somebody else
    return missing


def missing_helpers() -> list[str]:
    """Debian packages that are not there and without which everything goes but one thing."""
    return ["chromium"] if shutil.which("chromium") is None else []


def ensure_packages(*, for_tests: bool = False) -> None:
    """Install what is missing as root or through sudo, else name the one line that does.

    Helpers come along where we may install them; who may not is told, and goes on without.
    """
    needed, helpers = missing_packages(for_tests=for_tests), missing_helpers()
    may_install = os.geteuid() == 0 or sudo_without_password()
    if not needed and helpers and not may_install:
        print(f"  PDFs need Chromium:  {by_hand('apt-get install -y ' + ' '.join(helpers))}")
        return
    missing = sorted({*needed, *helpers})
    if not missing:
        return
    line = f"apt-get install -y --no-install-recommends {' '.join(missing)}"
    prefix: list[str] = []
    if os.geteuid() != 0:
        if not may_install:
            raise StepError(
                f"Some Debian packages are missing. Install them once as root, then start again:\n\n    {by_hand(line)}\n"
            )
        prefix = ["sudo", "-n"]
    advice = f"Debian's packages could not be installed. Try it by hand:\n\n    {by_hand(line)}\n"
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    before = set(debian_clusters())
    with step(f"Installing from Debian: {', '.join(missing)}"):
        run([*prefix, "apt-get", "update"], log="apt", advice=advice, env=environment)
        run([*prefix, *line.split()], log="apt", advice=advice, env=environment)
        for cluster in sorted(set(debian_clusters()) - before):
            _leave_alone(cluster, prefix)


def by_hand(line: str) -> str:
    """The line that somebody types to have Debian do something: as root, or through sudo where there is one."""
    if os.geteuid() == 0 or shutil.which("sudo") is None:
        return f"apt-get update && {line}"
    return f"sudo apt-get update && sudo {line}"


def debian_clusters() -> list[Path]:
    """The database clusters that Debian keeps: none of them is ours, which lives in the project's folder."""
    return list(DEBIAN_CLUSTERS.glob("*/*/start.conf"))


def _leave_alone(cluster: Path, prefix: list[str]) -> None:
    """What Debian makes along with the server is not wanted: it is stopped, and not started with the machine."""
    version, name = cluster.parts[-3:-1]
    note = f"echo manual > {shlex.quote(str(cluster))}"
    advice = f"PostgreSQL's own cluster {version} {name} could not be told to stay down; it does no harm."
    run([*prefix, "sh", "-c", note], log="apt", advice=advice)
    subprocess.run([*prefix, "pg_ctlcluster", version, name, "stop"], capture_output=True)  # it may not run


def sudo_without_password() -> bool:
    """Whether sudo is there and asks nothing."""
    return shutil.which("sudo") is not None and os.system("sudo -n true >/dev/null 2>&1") == 0


def chromium() -> str:
    """Path of Debian's Chromium.

    Raises StepError when it is not installed.
    """
    path = shutil.which("chromium")
    if path is None:
        raise StepError("Chromium is missing:  apt-get install chromium")
    return path
