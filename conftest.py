"""How the tests share two processors: those that need one thing together stay together."""

from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import settings
from xdist.scheduler import LoadFileScheduling

# A busy machine is no defect: nothing here is judged by its time.
settings.register_profile("without deadlines", deadline=None)
settings.load_profile("without deadlines")

_BROWSER = "tests/e2e"
_FAULTS = "tests/clicks"
# One installation for all tests in the browser; redirects and databases of several tests would take one another's port.
_TOGETHER = {_BROWSER: _BROWSER, _FAULTS: _FAULTS, "tests/faults": _FAULTS}


# What a test writes is never committed, so that statistics of it say that the tables are empty: an ANALYZE halfway
# makes the plans of the rest ten times as slow. Without counts nothing asks for one. Nothing here outlives a crash.
_OPTIONS = "-c track_counts=off -c jit=off -c synchronous_commit=off"


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_modify_db_settings_parallel_suffix: None) -> None:
    """How the tests' databases are spoken to."""
    from django.db import connection

    connection.settings_dict["OPTIONS"] = {**connection.settings_dict.get("OPTIONS", {}), "options": _OPTIONS}


@pytest.fixture(scope="session", autouse=True)
def _front_end_looked_through_once() -> Iterator[None]:
    """A client makes the middleware anew, which looks through all files of the front end: most of a short test."""
    from whitenoise.base import WhiteNoise

    known: dict[tuple[str, str], dict[str, Any]] = {}
    look_through = WhiteNoise.update_files_dictionary

    def once(self: Any, root: str, prefix: str) -> None:
        if (root, prefix) not in known:
            look_through(self, root, prefix)
            known[root, prefix] = dict(self.files)
        self.files.update(known[root, prefix])

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(WhiteNoise, "update_files_dictionary", once)
        yield


@pytest.fixture(autouse=True)
def _queue_left_empty(request: pytest.FixtureRequest) -> Iterator[None]:
    """What commits leaves no jobs to the next: Django's flush empties the tables of models alone, not the queue's."""
    mark = request.node.get_closest_marker("django_db")
    commits = "transactional_db" in request.fixturenames or (mark is not None and mark.kwargs.get("transaction"))
    if "transactional_db" in request.fixturenames:
        # Begun before this, so that it is there still when this ends.
        request.getfixturevalue("transactional_db")
    yield
    if commits:
        from django.db import connection

        with connection.cursor() as cursor:
            cursor.execute("TRUNCATE procrastinate_jobs, procrastinate_workers CASCADE")


class _Together(LoadFileScheduling):  # type: ignore[misc]
    """Tests of a file share what it sets up; some rooms keep together whatever their file."""

    def _split_scope(self, nodeid: str) -> str:
        room = next((room for folder, room in _TOGETHER.items() if nodeid.startswith(folder)), None)
        return room or str(super()._split_scope(nodeid))


def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> LoadFileScheduling:
    return _Together(config, log)


@pytest.hookimpl(trylast=True)
def pytest_collection_modifyitems(items: list[Any]) -> None:
    """The longest chain starts first, whatever order others wish for."""
    items.sort(key=lambda item: _BROWSER not in str(item.path))
