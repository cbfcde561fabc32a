"""Where things lie: everything that is made stands in one folder, `.dakika/`.

DAKIKA_STATE names another one for what is made at run time (data, keys, logs), where what is installed cannot be written.
"""

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
BUILT = ROOT / ".dakika"
STATE = Path(os.environ.get("DAKIKA_STATE") or BUILT)
VENV = BUILT / "venv"
PYTHON = VENV / "bin" / "python"
LOGS = STATE / "logs"
WEB = ROOT / "web"
DIST = WEB / "dist"


def python_path() -> str:
    """The import path of the rooms, for PYTHONPATH."""
    return os.pathsep.join(str(ROOT / room) for room in ("core", "server", "redirect", "standins", ""))
