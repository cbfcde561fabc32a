"""A small client for Dakika's API, on the standard library alone: copy it into your program.

    client = Client("https://dakika.example.org", token="dakika_...")
    client.send_rows("orrery-house", kind="posts", channel="Night letter", network="newsletter", rows=[...])
    for post in client.posts("orrery-house", first="2026-11-01", last="2026-11-28"):
        print(post["text"], post["reach"])

Tokens are made in Dakika under "Programs and tokens". The same rows sent again add nothing; a request that breaks off
is asked once more under the same key, and is done once.
"""

import base64
import hashlib
import hmac
import json
import re
import time
import urllib.error
import urllib.parse
import urllib.request
import uuid
from collections.abc import Iterator, Mapping
from typing import Any

AGAIN = (429, 502, 503, 504)


class Refused(Exception):
    """What was asked for was refused: status, kind, and what is wrong by field (RFC 9457)."""

    def __init__(self, status: int, problem: dict[str, Any]) -> None:
        self.status, self.kind = status, str(problem.get("type", "")).rpartition(":")[2]
        self.fields: dict[str, list[str]] = problem.get("errors", {})
        super().__init__(f"{status}: {problem.get('detail', 'refused')} {self.fields or ''}".strip())


class Client:
    """Asks one installation with one token."""

    def __init__(self, address: str, token: str, *, tries: int = 4, timeout: float = 30) -> None:
        self.address, self.token, self.tries, self.timeout = address.rstrip("/"), token, tries, timeout

    def ask(self, method: str, path: str, body: Any = None, **query: Any) -> Any:
        """One request below /api. Waits where it is told to, asks again what broke off. Raises Refused."""
        address = f"{self.address}/api/{path}"
        asked = {name: value for name, value in query.items() if value is not None}
        if asked:
            address += "?" + urllib.parse.urlencode(asked)
        headers = {"Authorization": f"Bearer {self.token}", "Accept": "application/json"}
        if body is not None:
            headers["Content-Type"] = "application/json"
        if method == "POST":
            headers["Idempotency-Key"] = str(uuid.uuid4())
        data = None if body is None else json.dumps(body).encode()
        for left in reversed(range(self.tries)):
            request = urllib.request.Request(address, data, headers, method=method)  # noqa: S310 (the user's own)
            try:
                with urllib.request.urlopen(request, timeout=self.timeout) as answer:  # noqa: S310
                    text = answer.read()
                    return json.loads(text) if text else None
            except urllib.error.HTTPError as error:
                text = error.read()
                if error.code in AGAIN and left:
                    time.sleep(float(error.headers.get("Retry-After") or 2))
                    continue
                raise Refused(error.code, _problem(text)) from None
            except (urllib.error.URLError, TimeoutError):
                if not left:
                    raise
                time.sleep(2)
        raise AssertionError("the last try returns or raises")

    def send_rows(self, brand: str, *, kind: str, rows: list[dict[str, Any]], wait: bool = True, **of: Any) -> Any:
        """Send rows (channel and network, or profile_id, say whose) and wait until they are in; returns the import."""
        item = self.ask("POST", f"brands/{brand}/sources/rows", {"kind": kind, "rows": rows, **of})
        while wait and item["state"] in ("looking", "waiting", "running"):
            time.sleep(1)
            item = self.ask("GET", f"brands/{brand}/sources/imports/{item['id']}")["item"]
        return item

    def posts(self, brand: str, **study: Any) -> Iterator[dict[str, Any]]:
        """Posts with their figures, page by page. study: first, last, network, format, sort and so on."""
        found = self.ask("GET", f"brands/{brand}/results/posts", **study)
        yield from found["posts"]
        while found["next"]:
            found = self.ask("GET", f"brands/{brand}/results/posts", cursor=found["next"], **study)
            yield from found["posts"]

    def figure(self, brand: str, kind: str, **asked: Any) -> Any:
        """A figure of any kind, as reports show it: "results.course", metrics="reach,interactions"."""
        return self.ask("GET", f"brands/{brand}/figures/{kind}", **asked)


def event_of(secret: str, address: str, headers: Mapping[str, str], body: bytes, *, oldest: float = 300) -> Any:
    """The event that a webhook brought to an address of yours; raises ValueError where Dakika did not send it just now.

    headers by lower-case name. Signed after RFC 9421 and RFC 9530. The same event may come twice, under the same id.
    """
    digest = base64.b64encode(hashlib.sha256(body).digest()).decode()
    key = hashlib.sha256(secret.encode()).hexdigest()[:12]
    values = {**headers, "@method": "POST", "@target-uri": address}
    one = rf'(\w+)=(\(([^)]*)\);created=(\d+);keyid="{key}";alg="hmac-sha256")'
    for label, params, covered, created in re.findall(one, headers.get("signature-input", "")):
        names = re.findall(r'"([^"]+)"', covered)
        lines = [f'"{name}": {values.get(name, "")}' for name in names] + [f'"@signature-params": {params}']
        made = base64.b64encode(hmac.new(secret.encode(), "\n".join(lines).encode(), "sha256").digest()).decode()
        signatures = dict(one.strip().partition("=")[::2] for one in headers.get("signature", "").split(","))
        if not hmac.compare_digest(f":{made}:", signatures.get(label, "")):
            raise ValueError("signed by somebody else")
        if not {"@method", "@target-uri", "content-digest"} <= {*names} or abs(time.time() - int(created)) > oldest:
            raise ValueError("signed for something else, or too long ago")
        if headers.get("content-digest") != f"sha-256=:{digest}:":
            raise ValueError("not what was signed")
        return json.loads(body)
    raise ValueError("not signed with this secret")


def _problem(text: bytes) -> dict[str, Any]:
    try:
        found = json.loads(text)
    except ValueError:
        return {}
    return found if isinstance(found, dict) else {}
