"""From a network's key to its connector, and the authorisation they share (RFC 6749, RFC 7636, RFC 7009).

In the trade's words: OAuth 2.0, PKCE, refresh token, token revocation.
"""

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
# The stand-ins' only client.
STANDIN_CLIENT = ("dakika", "stand-in-secret")


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
    api = network_api(key)
    path = api.path
    if not api.is_standin:
        return path
    if not settings.STANDINS_ADDRESS:
        raise Unavailable("This network is a stand-in, and no stand-ins run here.")
    return f"{settings.STANDINS_ADDRESS}{path}"


def client_of(key: str) -> tuple[str, str]:
    """Identifier and secret by which a network knows this installation (RFC 6749, 2.3), from the settings.

    Raises Refused where the installation has none.
    """
    known: tuple[str, str] | None = settings.NETWORK_CLIENTS.get(key)
    if known is None and not network_api(key).is_standin:
        name = key.upper().replace("-", "_")
        raise Refused(
            f"This installation is not registered at {network(key).name}. Whoever runs it sets "
            f"DAKIKA_NETWORK_{name}_ID and DAKIKA_NETWORK_{name}_SECRET."
        )
    return known or STANDIN_CLIENT


@contextmanager
def connected(key: str, token: str = "") -> Iterator[Connector]:
    """A connector, open for as long as the block runs; without a token it sees what is public."""
    definition = network(key)
    with NetworkClient(definition.name, address_of(key)) as client:
        yield _maker(network_api(key))(client, definition, token, _client_id(key))


def _client_id(key: str) -> str:
    """What is public needs no registration: then nothing is told."""
    known = settings.NETWORK_CLIENTS.get(key)
    return known[0] if known else STANDIN_CLIENT[0] if network_api(key).is_standin else ""


def new_verifier() -> str:
    """A PKCE code verifier (RFC 7636, 4.1)."""
    return secrets.token_urlsafe(48)


def challenge_of(verifier: str) -> str:
    """S256 challenge of a verifier (RFC 7636, 4.2)."""
    return base64.urlsafe_b64encode(hashlib.sha256(verifier.encode()).digest()).rstrip(b"=").decode()


def authorise_address(key: str, *, state: str, verifier: str, redirect: str) -> str:
    """Address of the network's consent page."""
    api, (identifier, _) = network_api(key), client_of(key)
    question = {
        "response_type": "code", "client_id": identifier, "redirect_uri": redirect, "scope": api.scope, "state": state,
        "code_challenge": challenge_of(verifier), "code_challenge_method": "S256",
    }  # fmt: skip
    place = api.authorize
    return f"{place if place.startswith('http') else address_of(key) + place}?{urlencode(question)}"


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
    try:
        identifier, secret = client_of(key)
        form = {"token": refresh, "token_type_hint": "refresh_token", "client_id": identifier, "client_secret": secret}
        with NetworkClient(network(key).name, address_of(key)) as client:
            client.ask("POST", network_api(key).revoke, data=form)
    except NetworkError:
        return False
    return True


def _tokens(key: str, form: dict[str, Any]) -> Tokens:
    api, (identifier, secret) = network_api(key), client_of(key)
    with NetworkClient(network(key).name, address_of(key)) as client:
        said = client.call("POST", api.token, data={**form, "client_id": identifier, "client_secret": secret})
    expires = datetime.now(tz=UTC) + timedelta(seconds=int(said["expires_in"]))
    # A server that leaves scope out has granted what was asked (RFC 6749, 5.1).
    scopes = frozenset(str(said.get("scope", api.scope)).split())
    return Tokens(access=said["access_token"], refresh=said["refresh_token"], expires_at=expires, scopes=scopes)
