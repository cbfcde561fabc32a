"""An upgrade that is killed again and again, and then let go on to its end."""

import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

from scripts.paths import ROOT

# DAKIKA_UPGRADE_KILLS=50 for as many as one has the patience for; few of them run among all tests.
KILLS = int(os.environ.get("DAKIKA_UPGRADE_KILLS", "3"))
# A process begins to migrate after about two seconds.
SOONEST, LATEST = 1.0, 7.0


def killed_upgrades(environment: dict[str, str], log: Path) -> int:
    """Bring a database up, killed at chance moments, then to its end; how often it was killed. Fails where that fails."""
    rng, killed = random.Random(KILLS), 0
    for _ in range(KILLS):
        if _migrate(environment, rng.uniform(SOONEST, LATEST), log) is None:
            killed += 1
            # What the dead one had open ends when PostgreSQL notices; the next waits for its locks.
            time.sleep(rng.uniform(0, 0.3))
    assert _migrate(environment, None, log) == 0, log.read_text()[-2000:]
    return killed


def _migrate(environment: dict[str, str], seconds: float | None, log: Path) -> int | None:
    """One try; None where it was killed after so many seconds."""
    with log.open("w") as out:
        process = subprocess.Popen(
            [sys.executable, str(ROOT / "server" / "manage.py"), "migrate", "--no-input"], env=environment, stdout=out,
            stderr=subprocess.STDOUT, start_new_session=True,
        )  # fmt: skip
        try:
            return process.wait(seconds)
        except subprocess.TimeoutExpired:
            os.killpg(process.pid, signal.SIGKILL)
            process.wait()
            return None
