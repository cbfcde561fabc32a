"""An installation of one's own for tests in the browser: all parts over an empty database."""

import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from scripts import postgres
from scripts.paths import ROOT
from scripts.ports import take_port
from scripts.serve import Installation
from scripts.stack import TABLES


@contextmanager
def installed(folder: Path, name: str, first_port: int, host: str = "127.0.0.1") -> Iterator[Installation]:
    """Its parts run as long as the block. host: as browsers know it; it is reached on loopback alone."""
    web, links, events = (take_port(first_port + i, f"{name}:{i}") for i in (0, 20, 40))
    made = Installation(
        name=name,
        settings={
            "DAKIKA_PUBLIC_ADDRESS": f"http://{host}:{web}", "DAKIKA_LINKS_ADDRESS": f"http://{host}:{links}",
            "DAKIKA_WEB_BIND": f"127.0.0.1:{web}", "DAKIKA_LINKS_BIND": f"127.0.0.1:{links}",
            "DAKIKA_EVENTS_BIND": f"127.0.0.1:{events}", "DAKIKA_MEDIA_FOLDER": str(folder / "media"),
            "DAKIKA_LINKS_FOLDER": str(folder / "links"),
        },
    )  # fmt: skip
    postgres.ensure_database(made.name, copied_from=TABLES)
    try:
        made.start_all()
        yield made
    finally:
        made.stop()


def first_address(installation: Installation) -> str:
    """Where its first person begins; empty where somebody has."""
    done = subprocess.run(
        [sys.executable, str(ROOT / "server" / "manage.py"), "first_key"], env=installation.environment(),
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    return done.stdout.split()[-1] if done.stdout else ""
