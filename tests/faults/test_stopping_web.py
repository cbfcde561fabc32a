"""Promise: a web server that is told to end answers what it has begun, takes nothing new, and ends."""

import os
import signal
import subprocess
import sys
import urllib.request
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from waiting import until

from scripts.paths import ROOT, VENV
from scripts.ports import take_port

APP = """
import os, time
def application(environ, start_response):
    if environ["PATH_INFO"] == "/slow":
        open("begun", "w").close()
        while not os.path.exists("go"):
            time.sleep(0.01)
    start_response("200 OK", [("Content-Type", "text/plain"), ("Content-Length", "4")])
    return [b"done"]
"""


def ask(port: int, path: str) -> str:
    with urllib.request.urlopen(f"http://127.0.0.1:{port}{path}", timeout=60) as answer:
        return str(answer.read().decode())


def test_what_is_being_answered_is_answered(tmp_path: Path) -> None:
    (tmp_path / "slow_app.py").write_text(APP)
    port = take_port(8970, "stopping")
    server = subprocess.Popen(
        [sys.executable, str(VENV / "bin" / "gunicorn"), "slow_app:application", "--bind", f"127.0.0.1:{port}",
         "--workers", "2", "--threads", "3", "--worker-class", "dakika_server.config.worker.Worker",
         "--log-level", "warning", "--graceful-timeout", "20", "--no-control-socket"],
        cwd=tmp_path, env=os.environ | {"PYTHONPATH": os.pathsep.join([str(tmp_path), str(ROOT / "server"), str(ROOT / "core")])},
    )  # fmt: skip
    try:
        until(lambda: _answers(port))
        with ThreadPoolExecutor(1) as pool:
            slow = pool.submit(ask, port, "/slow")
            until((tmp_path / "begun").exists)
            server.send_signal(signal.SIGTERM)
            until(lambda: not _answers(port))
            assert not slow.done()
            (tmp_path / "go").touch()
            assert slow.result(timeout=60) == "done"
        assert server.wait(timeout=60) == 0
    finally:
        if server.poll() is None:
            server.kill()
            server.wait()


def _answers(port: int) -> bool:
    try:
        return ask(port, "/") == "done"
    except OSError:
        return False
