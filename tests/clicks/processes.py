"""Redirect processes that a test starts, asks and kills."""

import http.client
import json
import os
import signal
import subprocess
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from waiting import until

from scripts.paths import PYTHON, ROOT, python_path
from scripts.ports import take_port

PERSON = "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile Safari/537.36"


@dataclass
class Processes:
    """Redirect processes that share a folder and a port."""

    folder: Path
    database: dict[str, str]
    port: int = 0
    running: list[subprocess.Popen[bytes]] = field(default_factory=list)

    def start(self, wait: bool = True, **more: str) -> subprocess.Popen[bytes]:
        self.port = self.port or take_port(8300, f"redirect {id(self)}")
        environment = {
            **os.environ, **self.database, "PYTHONPATH": python_path(), "DAKIKA_LINKS_FOLDER": str(self.folder),
            "DAKIKA_LINKS_ADDRESS": f"http://127.0.0.1:{self.port}", **more,
        }  # fmt: skip
        made = subprocess.Popen(
            [PYTHON, "-m", "dakika_redirect", "--port", str(self.port)],
            env=environment,
            cwd=ROOT,
            start_new_session=True,
        )
        self.running.append(made)
        if wait:
            until(self.health)
        return made

    def health(self) -> Any:
        try:
            return json.loads(self.ask("/health")[2])
        except OSError:
            return None

    def ask(self, path: str, method: str = "GET", **headers: str) -> tuple[int, dict[str, str], bytes]:
        """One request on a connection of its own; OSError when nobody answers."""
        asking = http.client.HTTPConnection("127.0.0.1", self.port, timeout=10)
        try:
            asking.request(
                method, path, headers={"User-Agent": PERSON} | {k.replace("_", "-"): v for k, v in headers.items()}
            )
            answer = asking.getresponse()
            return answer.status, {k.lower(): v for k, v in answer.getheaders()}, answer.read()
        except http.client.HTTPException as error:
            raise OSError(str(error)) from error
        finally:
            asking.close()

    def kill(self, process: subprocess.Popen[bytes], how: int = signal.SIGKILL) -> None:
        process.send_signal(how)
        process.wait(timeout=20)
        self.running.remove(process)

    def stop(self) -> None:
        for process in list(self.running):
            self.kill(process, signal.SIGTERM)
