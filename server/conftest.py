"""Fixtures of the server's tests: people, brands, and the stand-in networks on a port of their own."""

import threading
import time
from collections.abc import Iterator
from datetime import UTC, datetime
from functools import lru_cache
from pathlib import Path
from typing import Any

import httpx
import pytest
import uvicorn
from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand, Membership
from dakika_server.networks.trusted import trusted
from dakika_server.shared import clock
from dakika_server.shared.vault import seal
from dakika_server.sources.models import Competitor, Credential, Profile
from dakika_standins.app import create_app
from dakika_standins.archive import Names, archive_of
from dakika_standins.audience import tell_of_comments
from dakika_standins.control import APIS
from dakika_standins.state import State
from dakika_standins.world.rules import RULES, Rules
from django.contrib.auth.hashers import make_password
from django.core.files.storage import storages
from django.test import Client


@pytest.fixture
def brand(db: Any) -> Brand:
    return Brand.objects.create(name="Orrery House", slug="orrery-house", time_zone="Europe/Lisbon")


@lru_cache(maxsize=1)
def _hashed() -> str:
    """The password as it is kept: argon2 takes its time on purpose, and once is enough for all people of the tests."""
    return make_password("a good long password")


def _person(who: str, name: str) -> User:
    return User.objects.create(email=f"{who}@ninthbell.example", name=name, password=_hashed())


@pytest.fixture
def editor(brand: Brand) -> User:
    person = _person("editor", "Ed")
    Membership.objects.create(user=person, brand=brand, role="admin")
    return person


@pytest.fixture
def viewer(brand: Brand) -> User:
    person = _person("viewer", "Vi")
    Membership.objects.create(user=person, brand=brand, role="viewer")
    return person


@pytest.fixture
def stranger(db: Any) -> User:
    other = Brand.objects.create(name="Lantern Line", slug="lantern-line", time_zone="Europe/Athens")
    person = _person("stranger", "St")
    Membership.objects.create(user=person, brand=other, role="admin")
    return person


@pytest.fixture
def within_a_minute(monkeypatch: pytest.MonkeyPatch) -> None:
    """What is counted by the minute falls into one, however slow the machine is."""
    still = clock.now().replace(second=30)
    monkeypatch.setattr(clock, "now", lambda: still)


@pytest.fixture
def client_of() -> Any:
    def make(person: User) -> Client:
        client = Client()
        client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
        return client

    return make


@pytest.fixture
def mails(db: Any) -> Any:
    """The letters that were written."""
    from dakika_server.notices.models import Mail

    return Mail.objects


class World:
    """The stand-ins, as tests hold them."""

    def __init__(self, address: str, state: State) -> None:
        self.address, self.state = address, state
        self._control = httpx.Client(base_url=address, verify=trusted())

    def faults(self, **strengths: float) -> None:
        named = {name.replace("__", "."): strength for name, strength in strengths.items()}
        self._control.post("/control/faults", json=named).raise_for_status()

    @property
    def rules(self) -> dict[str, Rules]:
        """How the networks differ: the truth that tests may know."""
        return RULES

    def close(self) -> None:
        self._control.close()

    async def tell_of_comments(self, client: httpx.AsyncClient) -> int:
        """Have the networks call their webhooks through a client."""
        return await tell_of_comments(client, self.state)

    def grant(self, network: str, owner: str = "orrery") -> dict[str, Any]:
        body = {"network": network, "owner": owner}
        granted: dict[str, Any] = self._control.post("/control/grant", json=body).raise_for_status().json()
        return granted


@pytest.fixture(scope="session")
def _world_process(tmp_path_factory: pytest.TempPathFactory) -> Iterator[World]:
    path: Path = tmp_path_factory.mktemp("world") / "state.json"
    state = State(path)
    # Port 0: the system gives a free one, and two processes of tests can never get the same.
    config = uvicorn.Config(create_app(state, has_audience=False), port=0, log_level="error", lifespan="off")
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    port = server.servers[0].sockets[0].getsockname()[1]
    made = World(f"http://127.0.0.1:{port}", state)
    yield made
    made.close()
    server.should_exit = True
    thread.join(timeout=10)


@pytest.fixture
def world(_world_process: World, settings: Any) -> Iterator[World]:
    """The stand-ins with all faults switched off."""
    settings.STANDINS_ADDRESS = _world_process.address
    yield _world_process
    for memory in ("faults", "corrected", "hooks", "called", "boosts", "browsers"):
        _world_process.state.data[memory].clear()
    _world_process.state.data["removed"].clear()
    _world_process.state.calls.clear()
    _world_process.state.forget_order()


@pytest.fixture
def own_profile(world: World, brand: Brand) -> Any:
    """A connected own profile on a network."""

    def make(network: str = "commons") -> Profile:
        granted = world.grant(network)
        credential = Credential.objects.create(
            brand=brand, network=network, access=seal(granted["access_token"]), refresh=seal(granted["refresh_token"]),
            expires_at=datetime(2999, 1, 1, tzinfo=UTC), scopes=granted["scope"].split(),
        )  # fmt: skip
        api = APIS[network]
        account = api.account(world.state, "orreryhouse")
        return Profile.objects.create(
            brand=brand, network=network, external_id=api.account_id(account), handle="orreryhouse",
            name="Orrery House", kind="own", credential=credential, added_at=datetime.now(tz=UTC),
        )  # fmt: skip

    return make


@pytest.fixture
def competitor_profile(world: World, brand: Brand) -> Any:
    """A competitor's profile on a network."""

    def make(network: str, handle: str = "halfmoon") -> Profile:
        if network == "activitypub":
            external, handle = f"{world.address}/fediverse/people/{handle}", f"{handle}@{world.address[7:]}"
        else:
            external = APIS[network].account_id(APIS[network].account(world.state, handle))
        competitor, _ = Competitor.objects.get_or_create(brand=brand, name="Somebody else")
        return Profile.objects.create(
            brand=brand, network=network, external_id=external, handle=handle, name=handle, kind="competitor",
            competitor=competitor, added_at=datetime.now(tz=UTC),
        )  # fmt: skip

    return make


@pytest.fixture
def media_folder(tmp_path: Path, settings: Any) -> Path:
    """Files of people are kept in a folder of the test's own."""
    settings.STORAGES = {
        **settings.STORAGES,
        "media": {"BACKEND": "django.core.files.storage.FileSystemStorage", "OPTIONS": {"location": str(tmp_path)}},
    }
    storages._storages.clear()
    return tmp_path


@pytest.fixture(scope="session")
def half_year(tmp_path_factory: Any) -> dict[str, Any]:
    """The world's half-year with few of each thing: all kinds of it, in a fraction of the time."""
    archive = archive_of(State(Path(tmp_path_factory.mktemp("world")) / "state.json"), Names())
    ours = [profile for profile in archive["profiles"] if profile["owner"] == "orrery"]
    theirs = [one for one in archive["profiles"] if not one["owner"] and one["subject"] == "museum"]
    archive["profiles"] = [*ours, *theirs[:2]]
    for profile in archive["profiles"]:
        profile["posts"], profile["days"] = profile["posts"][-10:], profile["days"][-10:]
    for link in archive["links"]:
        link["clicks"] = link["clicks"][:10]
    archive["visits"] = {owner: rows[:100] for owner, rows in archive["visits"].items()}
    archive["page_visits"] = archive["page_visits"][:10]
    return archive
