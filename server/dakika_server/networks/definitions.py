"""The networks' definition files, read once. Every folder of settings.NETWORK_FOLDERS may hold some."""

import re
import tomllib
from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import lru_cache
from pathlib import Path
from typing import Any

from dakika_core.networks.definition import (
    AccountRule,
    BoostRule,
    CountUnit,
    MediaRule,
    Need,
    NetworkDefinition,
    Offer,
    OptionRule,
    Shape,
    TextRule,
)
from django.conf import settings

# Lower-case names with at least one dot (RFC 1123, 2.1), and a port at most.
_HOST = re.compile(r"(?:[a-z0-9](?:[a-z0-9-]*[a-z0-9])?\.)+[a-z0-9-]+(?::\d{1,5})?")
FOLDER = Path(__file__).parent / "definition_files"


class DefinitionError(Exception):
    """A definition file that cannot be used; the text names the file and what is wrong."""


@dataclass(frozen=True, kw_only=True)
class NetworkApi:
    """Where and how a network's API is reached.

    path is appended to the stand-ins' address, unless it is an address itself. connector is
    module.Class, the module standing among our connectors or beside the definition file.
    scopes name what the network calls reading and publishing. authorize, token and revoke are the
    addresses of its authorisation (RFC 6749, RFC 7009), below the path unless they are addresses themselves.
    """

    path: str
    scopes: dict[str, str] = field(hash=False)
    connector: str
    folder: Path
    authorize: str = "/oauth/authorize"
    token: str = "/oauth/token"  # noqa: S105 (an address)
    revoke: str = "/oauth/revoke"

    @property
    def is_standin(self) -> bool:
        """Whether it stands below the stand-ins' address; an open protocol has no address of its own."""
        return bool(self.path) and not self.path.startswith("http")

    @property
    def scope(self) -> str:
        """All scopes that are asked for, as OAuth writes them (RFC 6749, 3.3)."""
        return " ".join(self.scopes.values())


@lru_cache(maxsize=1)
def _read() -> dict[str, tuple[NetworkDefinition, NetworkApi]]:
    found: dict[str, tuple[NetworkDefinition, NetworkApi]] = {}
    for folder in (FOLDER, *map(Path, settings.NETWORK_FOLDERS)):
        for file in sorted(folder.glob("*.toml")):
            try:
                definition, api = _one(tomllib.loads(file.read_text()), folder)
            except (KeyError, TypeError, ValueError) as error:
                raise DefinitionError(f"{file} is not a definition of a network: {error!r}") from error
            found[definition.key] = (definition, api)
    return found


def _one(raw: dict[str, Any], folder: Path) -> tuple[NetworkDefinition, NetworkApi]:
    text, media, offer = dict(raw.pop("text")), dict(raw.pop("media", {})), dict(raw.pop("offer", {}))
    api, public = raw.pop("api"), raw.pop("public")
    definition = NetworkDefinition(
        text=TextRule(**{**text, "unit": CountUnit(text.get("unit", "code_points"))}),
        media=MediaRule(**{**media, "need": Need(media.get("need", ""))}),
        accounts=AccountRule(**raw.pop("accounts", {})),
        offer=Offer(**{**offer, "audience": tuple(offer.get("audience", ()))}),
        options=tuple(OptionRule(**{**one, "choices": tuple(one["choices"])}) for one in raw.pop("options", ())),
        boosts=_boosts(raw.pop("boosts", None)),
        public_metrics=frozenset(public["metrics"]),
        default_hours=tuple(raw.pop("default_hours", ())),
        shape=Shape(raw.pop("shape", Shape.DASHED)),
        referrer_hosts=_hosts(raw.pop("referrer_hosts", ())),
        picture_hosts=_hosts(raw.pop("picture_hosts", ())),
        **raw,
    )
    return definition, NetworkApi(folder=folder, **api)


def _boosts(told: dict[str, Any] | None) -> BoostRule | None:
    if told is None:
        return None
    return BoostRule(**{**told, "countries": tuple(told.get("countries", ())), "ages": tuple(told.get("ages", ()))})


def _hosts(told: Iterable[str]) -> tuple[str, ...]:
    """Names of hosts as a definition tells them. Raises ValueError for what is none: they go into a header."""
    found = tuple(told)
    for host in found:
        if not _HOST.fullmatch(host):
            raise ValueError(f"{host!r} is no name of a host")
    return found


def forget_definitions() -> None:
    """Read the files anew at the next question; for tests that add a network."""
    _read.cache_clear()


def all_networks() -> dict[str, NetworkDefinition]:
    """Every network by its key."""
    return {key: definition for key, (definition, _) in _read().items()}


def network(key: str) -> NetworkDefinition:
    """One network. Raises KeyError when there is none of that key."""
    return _read()[key][0]


def network_name(key: str) -> str:
    """A network's name; an imported profile's network may be one only the file knows: the words of its key."""
    found = _read().get(key)
    return found[0].name if found else key.replace("-", " ").title()


def is_in_reach(key: str) -> bool:
    """Whether a network can be asked from here: a stand-in only where the stand-ins run."""
    return bool(settings.STANDINS_ADDRESS) or not network_api(key).is_standin


def network_api(key: str) -> NetworkApi:
    """How a network is reached. Raises KeyError when there is none of that key."""
    return _read()[key][1]
