"""The one HTTP client of the connectors: time-outs, retries that honour Retry-After, errors in our words."""

import json
import random
import time
from collections.abc import Callable
from datetime import UTC, datetime
from email.utils import parsedate_to_datetime
from typing import Any

import httpx
from dakika_core.networks.definition import NetworkDefinition

from dakika_server.networks.connectors.base import NotAuthorised, NotFound, Refused, Unavailable

TIMEOUT_SECONDS = 10.0
TRIES = 4
LONGEST_WAIT_SECONDS = 20.0
LARGEST_ANSWER = 8 * 1024 * 1024


def retry_after_seconds(value: str | None, *, now: datetime) -> float | None:
    """Seconds that Retry-After asks for, in either of its forms (RFC 9110, 10.2.3); None if it says nothing."""
    if not value:
        return None
    if value.strip().isdigit():
        return float(value)
    try:
        return max(0.0, (parsedate_to_datetime(value) - now).total_seconds())
    except ValueError:
        return None


class NetworkClient:
    """Calls to one network. `sleep` is given in tests."""

    def __init__(
        self,
        name: str,
        base: str,
        *,
        headers: dict[str, str] | None = None,
        sleep: Callable[[float], None] = time.sleep,
    ) -> None:
        self.name = name
        self.requests = 0
        self.calls_left: int | None = None
        self._sleep = sleep
        self._client = httpx.Client(base_url=base, headers=headers, timeout=TIMEOUT_SECONDS, follow_redirects=False)

    def __enter__(self) -> "NetworkClient":
        return self

    def __exit__(self, *_: object) -> None:
        self._client.close()

    def call(self, method: str, path: str, **arguments: Any) -> dict[str, Any]:
        """The JSON answer of a call that is safe to repeat; tries again with growing, jittered waits.

        Raises NotAuthorised, NotFound, Refused, or Unavailable once the tries are used up or the
        network asks for a longer wait than is reasonable inside a job.
        """
        for attempt in range(1, TRIES + 1):
            try:
                return self._once(method, path, **arguments)
            except Unavailable as error:
                wait = error.wait_seconds
                if attempt == TRIES or (wait is not None and wait > LONGEST_WAIT_SECONDS):
                    raise
                self._sleep(wait if wait is not None else random.uniform(0.5, 1.0) * 0.5 * 2**attempt)
        raise AssertionError

    def _once(self, method: str, path: str, **arguments: Any) -> dict[str, Any]:
        self.requests += 1
        try:
            response = self._client.request(method, path, **arguments)
            body = response.json() if len(response.content) <= LARGEST_ANSWER else None
        except httpx.TimeoutException:
            raise Unavailable(f"{self.name} did not answer within {TIMEOUT_SECONDS:.0f} s.") from None
        except (httpx.HTTPError, json.JSONDecodeError, UnicodeDecodeError) as error:
            if isinstance(error, httpx.HTTPError):
                raise Unavailable(f"The connection to {self.name} broke off.") from None
            body = None
        left = response.headers.get("X-Calls-Left") or (isinstance(body, dict) and body.get("limits", {}).get("left"))
        self.calls_left = int(left) if left not in (None, False, "") else self.calls_left
        self._raise_for(response, body)
        if not isinstance(body, dict):
            raise Unavailable(f"{self.name} answered with something that is not JSON.")
        return body

    def _raise_for(self, response: httpx.Response, body: Any) -> None:
        status = response.status_code
        if status < 400:
            return
        said = ""
        if isinstance(body, dict):
            said = str(body.get("detail") or body.get("title") or body.get("error") or "")[:200]
        if status == 401:
            raise NotAuthorised(f"{self.name} no longer accepts the authorisation. Renew it.")
        if status == 404:
            raise NotFound(f"{self.name} knows nothing by that name.")
        if status == 429:
            wait = retry_after_seconds(response.headers.get("Retry-After"), now=datetime.now(tz=UTC))
            raise Unavailable(f"{self.name} asks for fewer requests.", wait_seconds=wait)
        if status >= 500:
            raise Unavailable(f"{self.name} is out of order ({status}).")
        raise Refused(f"{self.name} refused: {said or status}.")


class ClientConnector:
    """What connectors over HTTP share: the client, the two ways of asking, and what the client counts."""

    def __init__(self, client: NetworkClient, definition: NetworkDefinition, token: str, app_id: str) -> None:
        self._client = client
        self._definition = definition
        self._own = {"Authorization": f"Bearer {token}"} if token else {}
        self._app_id = app_id

    @property
    def requests(self) -> int:
        """Calls made so far."""
        return self._client.requests

    @property
    def calls_left(self) -> int | None:
        """What the network says is left of its limit."""
        return self._client.calls_left
