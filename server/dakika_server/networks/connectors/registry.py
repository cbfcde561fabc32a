"""From a network's key to its connector, and the authorisation they share (RFC 6749, RFC 7636, RFC 7009)."""

import base64
import hashlib
import importlib
import importlib.util
import secrets
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from typing import Any, cast
from urllib.parse import urlencode

from dakika_core.networks.definition import NetworkDefinition
from django.conf import settings

from dakika_server.networks.connectors.base import Connector, NetworkError, NotAuthorised, Refused, Tokens, Unavailable
from dakika_server.networks.connectors.client import NetworkClient
from dakika_server.networks.definitions import NetworkApi, network, network_api

Maker = Callable[[NetworkClient, NetworkDefinition, str, str], Connector]
APP_ID = "dakika"
APP_SECRET = "stand-in-secret"  # noqa: S105 (the stand-ins' only client; a real network's comes from the environment)


@lru_cache(maxsize=64)
def _maker(api: NetworkApi) -> Maker:
    """The connector's class: a module beside the definition file, else one of ours."""
    module_name, _, class_name = api.connector.rpartition(".")
    file = api.folder / f"{module_name}.py"
    if file.exists():
        spec = importlib.util.spec_from_file_location(f"dakika_network_{module_name}", file)
        assert spec is not None
        assert spec.loader is not None
        module = importlib.util.module_from_spec(spec)
        spec.loader.exec_module(module)
    else:
        module = importlib.import_module(f"dakika_server.networks.connectors.{module_name}")
    return cast(Maker, getattr(module, class_name))


def address_of(key: str) -> str:
    """Base address of a network's API. Raises Unavailable for a stand-in's where no stand-ins run."""
    path = network_api(key).path
    # An open protocol has no address of its own: each server has.
    if path.startswith("http") or not path:
        return path
    if not settings.STANDINS_ADDRESS:
        raise Unavailable("This network is a stand-in, and no stand-ins run here.")
    return f"{settings.STANDINS_ADDRESS}{path}"


@contextmanager
def connected(key: str, token: str = "") -> Iterator[Connector]:
    """A connector, open for as long as the block runs; without a token it sees what is public."""
    definition = network(key)
    with NetworkClient(definition.name, address_of(key)) as client:
        yield _maker(network_api(key))(client, definition, token, APP_ID)


def new_verifier() -> str:
    """A PKCE code verifier (RFC 7636, 4.1)."""
    return secrets.token_urlsafe(48)


def challenge_of(verifier: str) -> str:
    """S256 challenge of a verifier (RFC 7636, 4.2)."""
    return base64.urlsafe_b64encode(hashlib.sha256(verifier.encode()).digest()).rstrip(b"=").decode()


def authorise_address(key: str, *, state: str, verifier: str, redirect: str) -> str:
    """Address of the network's consent page."""
    question = {
        "response_type": "code", "client_id": APP_ID, "redirect_uri": redirect, "scope": network_api(key).scope,
        "state": state, "code_challenge": challenge_of(verifier), "code_challenge_method": "S256",
    }  # fmt: skip
    return f"{address_of(key)}/oauth/authorize?{urlencode(question)}"


def tokens_for_code(key: str, *, code: str, verifier: str, redirect: str) -> Tokens:
    """Exchange the code of a consent. Raises Refused when the network does not take it."""
    return _tokens(
        key, {"grant_type": "authorization_code", "code": code, "code_verifier": verifier, "redirect_uri": redirect}
    )


def renewed_tokens(key: str, refresh: str) -> Tokens:
    """New tokens. Raises NotAuthorised when the person must consent anew."""
    try:
        return _tokens(key, {"grant_type": "refresh_token", "refresh_token": refresh})
    except Refused:
        raise NotAuthorised(f"The authorisation at {network(key).name} has lapsed. Renew it.") from None


def revoke_tokens(key: str, refresh: str) -> bool:
    """Give an authorisation back (RFC 7009); whether the network took note. Ours is forgotten in any case."""
    form = {"token": refresh, "token_type_hint": "refresh_token", "client_id": APP_ID, "client_secret": APP_SECRET}
    try:
        with NetworkClient(network(key).name, address_of(key)) as client:
            client.ask("POST", "/oauth/revoke", data=form)
    except NetworkError:
        return False
    return True


def _tokens(key: str, form: dict[str, Any]) -> Tokens:
    asked = network_api(key).scope
    with NetworkClient(network(key).name, address_of(key)) as client:
        said = client.call("POST", "/oauth/token", data={**form, "client_id": APP_ID, "client_secret": APP_SECRET})
    expires = datetime.now(tz=UTC) + timedelta(seconds=int(said["expires_in"]))
    # A server that leaves scope out has granted what was asked (RFC 6749, 5.1).
    scopes = frozenset(str(said.get("scope", asked)).split())
    return Tokens(access=said["access_token"], refresh=said["refresh_token"], expires_at=expires, scopes=scopes)
