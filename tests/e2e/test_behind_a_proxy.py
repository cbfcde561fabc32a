"""Promise: behind the proxy that the documentation shows, people sign in, short links lead on, and pages are told of changes.

nginx of Debian with a certificate made here, and its configuration word for word from docs/operations.md but for ports.
Left out where nginx is not installed; whoever runs it in front of Dakika has it.
"""

import datetime
import json
import re
import shutil
import socket
import ssl
import subprocess
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest
from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec

from e2e.test_serving import first_address
from scripts import postgres
from scripts.paths import ROOT
from scripts.ports import take_port
from scripts.serve import Installation
from scripts.stack import TABLES

HOME, SHORT = "dakika.example.org", "go.example.org"
PASSWORD = "half past nine o'clock"
pytestmark = pytest.mark.skipif(shutil.which("nginx") is None, reason="Debian's nginx-light is not here")


def certificate(folder: Path) -> tuple[Path, Path]:
    """A certificate for both names, signed by itself, and its key."""
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(x509.NameOID.COMMON_NAME, HOME)])
    now = datetime.datetime.now(tz=datetime.UTC)
    made = (
        x509.CertificateBuilder().subject_name(name).issuer_name(name).public_key(key.public_key())
        .serial_number(x509.random_serial_number()).not_valid_before(now - datetime.timedelta(hours=1))
        .not_valid_after(now + datetime.timedelta(days=1))
        .add_extension(x509.SubjectAlternativeName([x509.DNSName(HOME), x509.DNSName(SHORT)]), critical=False)
        .sign(key, hashes.SHA256())
    )  # fmt: skip
    (folder / "cert.pem").write_bytes(made.public_bytes(serialization.Encoding.PEM))
    (folder / "key.pem").write_bytes(
        key.private_bytes(serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())
    )
    return folder / "cert.pem", folder / "key.pem"


def documented() -> str:
    """The servers that docs/operations.md shows."""
    found = re.search(r"With nginx:\n\n```\n(.*?)```", (ROOT / "docs" / "operations.md").read_text(), re.DOTALL)
    assert found is not None
    return found[1]


@pytest.fixture
def behind(tmp_path: Path) -> Iterator[tuple[Installation, int]]:
    """An installation with nginx before it; the port that nginx speaks TLS on."""
    web, links, events, tls = (take_port(8_400 + 20 * i, f"proxied:{i}") for i in range(4))
    made = Installation(
        name="dakika_proxied",
        settings={
            "DAKIKA_PUBLIC_ADDRESS": f"https://{HOME}", "DAKIKA_LINKS_ADDRESS": f"https://{SHORT}",
            "DAKIKA_WEB_BIND": f"127.0.0.1:{web}", "DAKIKA_LINKS_BIND": f"127.0.0.1:{links}",
            "DAKIKA_EVENTS_BIND": f"127.0.0.1:{events}", "DAKIKA_MEDIA_FOLDER": str(tmp_path / "media"),
            "DAKIKA_LINKS_FOLDER": str(tmp_path / "links"), "DAKIKA_TLS_REDIRECT": "1",
        },
    )  # fmt: skip
    servers = documented().replace("listen 443 ssl", f"listen 127.0.0.1:{tls} ssl")
    for usual, ours in (("8000", web), ("8200", links), ("8060", events)):
        servers = servers.replace(f"127.0.0.1:{usual}", f"127.0.0.1:{ours}")
    cert, key = certificate(tmp_path)
    temporary = "".join(
        f"{name}_temp_path {tmp_path / name};\n" for name in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    )
    conf = tmp_path / "nginx.conf"
    conf.write_text(
        f"pid {tmp_path / 'nginx.pid'};\nerror_log {tmp_path / 'error.log'};\ndaemon off;\nworker_processes 1;\n"
        f"{'user root;' if Path('/proc/self').owner() == 'root' else ''}\nevents {{}}\nhttp {{\naccess_log off;\n{temporary}"
        f"ssl_certificate {cert};\nssl_certificate_key {key};\n{servers}}}\n"
    )
    said = subprocess.run(["nginx", "-t", "-c", conf, "-p", tmp_path], capture_output=True, text=True)
    assert said.returncode == 0, said.stderr
    postgres.ensure_database(made.name, copied_from=TABLES)
    proxy = subprocess.Popen(["nginx", "-c", conf, "-p", tmp_path], stderr=subprocess.DEVNULL)
    try:
        made.start_all()
        until = time.monotonic() + 20
        while not answers(tls):
            assert time.monotonic() < until
            time.sleep(0.1)
        yield made, tls
    finally:
        made.stop()
        proxy.terminate()
        proxy.wait()


def answers(port: int) -> bool:
    with socket.socket() as probe:
        return probe.connect_ex(("127.0.0.1", port)) == 0


class Outside:
    """A browser's part over TLS, its certificate checked by the name that is asked for."""

    def __init__(self, tls: int, folder: Path) -> None:
        self._tls = tls
        self._client = httpx.Client(verify=ssl.create_default_context(cafile=str(folder / "cert.pem")), timeout=30)
        self.cookies: dict[str, str] = {}

    def ask(self, method: str, host: str, path: str, body: Any = None, **headers: str) -> httpx.Response:
        told = {"Host": host, "Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items()), **headers}
        if method != "GET":
            told |= {"X-CSRFToken": self.cookies.get("csrftoken", "")}
        answer = self._client.request(
            method, f"https://127.0.0.1:{self._tls}{path}", json=body, headers=told,
            extensions={"sni_hostname": host},
        )  # fmt: skip
        for cookie in answer.headers.get_list("set-cookie"):
            name, _, rest = cookie.partition("=")
            assert "secure" in rest.lower(), cookie
            self.cookies[name] = rest.split(";")[0]
        return answer

    def close(self) -> None:
        self._client.close()

    def listen(self, path: str, wanted: str, seconds: float) -> float:
        """Seconds until a line of a stream holds something. Raises AssertionError where none does in time."""
        begun = time.monotonic()
        url = f"https://127.0.0.1:{self._tls}{path}"
        with self._client.stream("GET", url, headers={"Host": HOME}, extensions={"sni_hostname": HOME}) as stream:
            for line in stream.iter_lines():
                if wanted in line:
                    return time.monotonic() - begun
                assert time.monotonic() - begun < seconds, line
        raise AssertionError("the stream ended")


def test_people_links_and_streams_come_through(
    behind: tuple[Installation, int], tmp_path: Path, request: pytest.FixtureRequest
) -> None:
    installation, tls = behind
    outside = Outside(tls, tmp_path)
    request.addfinalizer(outside.close)
    key = first_address(installation).partition("#")[2]
    page = outside.ask("GET", HOME, "/begin")
    assert page.status_code == 200
    assert page.headers["strict-transport-security"] == "max-age=31536000"
    assert "'unsafe-eval'" not in page.headers["content-security-policy"]
    outside.ask("GET", HOME, "/api/session")
    told = {"name": "Mira", "email": "mira@ninthbell.example", "password": PASSWORD, "brand": "Orrery House",
            "time_zone": "Europe/Lisbon", "key": key}  # fmt: skip
    # From another site's page it is refused; from our own it is not.
    assert outside.ask("POST", HOME, "/api/begin", told, Referer="https://elsewhere.example/").status_code == 403
    assert outside.ask("POST", HOME, "/api/begin", told, Referer=f"https://{HOME}/begin").status_code == 201
    session = outside.ask("GET", HOME, "/api/session").json()
    assert session["email"] == "mira@ninthbell.example"
    # A short link leads on from its own host.
    home = "/api/brands/orrery-house"
    made = outside.ask("POST", HOME, f"{home}/links", {"destination": "https://museum.example/night", "name": "Night"},
                       Referer=f"https://{HOME}/")  # fmt: skip
    assert made.status_code == 201, made.text
    address = made.json()["short"]
    assert address.startswith(f"https://{SHORT}/")
    until = time.monotonic() + 20
    while (followed := outside.ask("GET", SHORT, address.removeprefix(f"https://{SHORT}"))).status_code == 404:
        # The redirect follows the database by itself.
        assert time.monotonic() < until
        time.sleep(0.2)
    assert followed.status_code in (302, 307), followed.text
    assert followed.headers["location"].startswith("https://museum.example/night")
    # What changes is told within the stream, which nothing on the way holds back.
    ticket = outside.ask("GET", HOME, "/api/events").json()
    assert ticket["address"] == f"https://{HOME}"
    assert outside.listen(f"/events?ticket={ticket['ticket']}", "hello", 5) < 5
    # Without TLS nothing but its own health is told.
    plain = httpx.get(f"http://{installation.settings['DAKIKA_WEB_BIND']}/api/session", follow_redirects=False)
    assert (plain.status_code, plain.headers["location"][:8]) == (301, "https://")
    assert json.loads(httpx.get(f"http://{installation.settings['DAKIKA_WEB_BIND']}/health").text) == {"ok": True}
