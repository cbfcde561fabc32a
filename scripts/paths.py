"""Where things lie: everything that is made at run time stands in one folder, `.dakika/`."""

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
STATE = ROOT / ".dakika"
VENV = STATE / "venv"
PYTHON = VENV / "bin" / "python"
LOGS = STATE / "logs"
WEB = ROOT / "web"
DIST = WEB / "dist"


def python_path() -> str:
    """The import path of the rooms, for PYTHONPATH."""
    return os.pathsep.join(str(ROOT / room) for room in ("core", "server", "redirect", "standins", ""))
