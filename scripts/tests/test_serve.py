"""Promise: an installation is what its settings say; a file of them is read whole, or refused by its line."""

import os
from pathlib import Path
from typing import Any

import pytest

from scripts import environment, processes, serve
from scripts.serve import Installation, settings_in, told
from scripts.steps import StepError

TLS = {"DAKIKA_PUBLIC_ADDRESS": "https://dakika.example.org", "DAKIKA_LINKS_ADDRESS": "https://go.example.org"}


def test_a_file_is_names_and_values_with_remarks_and_quotes() -> None:
    text = "# ours\n\nexport A=1\nB = 'two words' \nC=\"x=y\"\nD=\nE=it's\n"
    assert settings_in(text) == {"A": "1", "B": "two words", "C": "x=y", "D": "", "E": "it's"}
    with pytest.raises(StepError, match="Line 2 of the settings"):
        settings_in("A=1\nnonsense\n")


def test_the_environment_goes_before_the_file(tmp_path: Path) -> None:
    file = tmp_path / "settings"
    file.write_text("A=file\nB=file\n")
    file.chmod(0o640)
    assert told({"DAKIKA_SETTINGS_FILE": str(file), "A": "here"})["A"] == "here"
    assert told({"DAKIKA_SETTINGS_FILE": str(file)})["B"] == "file"


def test_a_file_for_everybodys_eyes_and_one_that_is_not_there_are_refused(tmp_path: Path) -> None:
    file = tmp_path / "settings"
    file.write_text("DAKIKA_SMTP_PASSWORD=x\n")
    file.chmod(0o644)
    with pytest.raises(StepError, match="chmod 640"):
        told({"DAKIKA_SETTINGS_FILE": str(file)})
    with pytest.raises(StepError, match="There is no file"):
        told({"DAKIKA_SETTINGS_FILE": str(tmp_path / "none")})


def test_what_is_wanted_and_what_cannot_be_is_said_at_once(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(serve, "FILE", tmp_path / "none")
    bare = {name: value for name, value in os.environ.items() if not name.startswith("DAKIKA_")}
    with pytest.raises(StepError) as refused:
        serve.checked({**bare, "DAKIKA_HOST": "x", "DAKIKA_TRUSTED_HOPS": "two"})
    for part in ("DAKIKA_PUBLIC_ADDRESS is not set", "DAKIKA_LINKS_ADDRESS is not set", "DAKIKA_HOSTS may be meant",
                 "DAKIKA_TRUSTED_HOPS (two) cannot be"):  # fmt: skip
        assert part in str(refused.value)
    assert serve.checked({**bare, **TLS})["DAKIKA_PUBLIC_ADDRESS"] == TLS["DAKIKA_PUBLIC_ADDRESS"]


@pytest.fixture
def state(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    for module in (serve, processes):
        monkeypatch.setattr(module, "STATE", tmp_path)
    return tmp_path


def test_no_stand_in_is_told_of_and_keys_are_made_unless_they_are_given(state: Path) -> None:
    made = Installation(settings={**TLS, "PGHOST": "db.example.org"})
    environment = made.environment()
    assert environment["PGHOST"] == "db.example.org"
    assert not any("STANDINS" in name for name in environment)
    assert len(environment["DAKIKA_SECRET_KEY"]) > 40
    given = Installation(settings={**TLS, "PGHOST": "x", "DAKIKA_SECRET_KEY": "k" * 40}).environment()
    assert given["DAKIKA_SECRET_KEY"] == "k" * 40
    assert given["DAKIKA_TOKEN_KEY"] == environment["DAKIKA_TOKEN_KEY"]


def test_parts_run_apart_and_listen_where_they_are_told(state: Path) -> None:
    settings = {**TLS, "DAKIKA_WEB_BIND": "[::1]:9000", "DAKIKA_LINKS_BIND": "[::1]:9001", "DAKIKA_WEB_PROCESSES": "4"}
    assert [*Installation(settings=settings, parts=["worker"]).commands()] == ["worker"]
    every = Installation(settings=settings).commands()
    assert {*every} == {*serve.PARTS}
    assert every["web"][2:6] == ["--bind", "[::1]:9000", "--workers", "4"]
    assert every["links"][-4:] == ["--host", "::1", "--port", "9001"]
    with pytest.raises(StepError, match="There is no part all"):
        serve.serve(["all"])


@pytest.mark.parametrize(
    ("settings", "wanted"),
    [({}, "https://dakika.example.org"), ({"DAKIKA_EVENTS_ADDRESS": "https://e.example.org"}, "https://e.example.org"),
     ({"DAKIKA_PUBLIC_ADDRESS": "http://127.0.0.1:8000"}, "http://127.0.0.1:8060"),
     ({"DAKIKA_PUBLIC_ADDRESS": "http://10.0.0.1:8000", "DAKIKA_WEB_BIND": "0.0.0.0:8000", "DAKIKA_EVENTS_BIND": "0.0.0.0:9"},
      "http://10.0.0.1:9")],
)  # fmt: skip
def test_browsers_listen_through_the_proxy_where_there_is_one(settings: dict[str, str], wanted: str) -> None:
    assert Installation(settings={**TLS, **settings}).events_address() == wanted


def test_a_database_made_anew_under_its_name_is_not_taken_for_the_one_before(
    state: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(environment, "STATE", state)
    monkeypatch.setattr(serve.postgres, "ensure_database", lambda name: None)
    monkeypatch.setattr(serve.postgres, "connection", lambda name: {})
    made, migrated, now = Installation(settings=TLS), [], ["one 16384 | 90 120"]
    monkeypatch.setattr(Installation, "database_state", lambda _: now[0])
    monkeypatch.setattr(Installation, "manage", lambda *_, **__: migrated.append(now[0]))
    made.prepare()
    made.prepare()
    assert len(migrated) == 1
    for other in ("one 16999 | 90 120", "one 16999 | 12 14", ""):
        now[0] = other
        made.prepare()
    # One that cannot be asked is always brought up to date.
    made.prepare()
    assert len(migrated) == 5


def test_what_listens_everywhere_is_asked_on_loopback() -> None:
    assert serve.from_within("0.0.0.0:8000") == "http://127.0.0.1:8000"
    assert serve.from_within("[::]:8000") == "http://[::1]:8000"
    assert serve.from_within("10.0.0.5:80") == "http://10.0.0.5:80"
    printed = Installation(settings={**TLS, "DAKIKA_WEB_BIND": "0.0.0.0:9000"}).environment()["DAKIKA_PRINT_ADDRESS"]
    assert printed == "http://127.0.0.1:9000"


def test_what_dies_again_and_again_is_started_later_each_time(
    state: Path, monkeypatch: pytest.MonkeyPatch, capsys: Any
) -> None:
    now, started = [0.0], []

    class Gone:
        returncode = 1

        def poll(self) -> int:
            return 1

    made = Installation(settings=TLS)
    made.processes = {"web": Gone()}  # type: ignore[dict-item]
    monkeypatch.setattr(serve.time, "monotonic", lambda: now[0])

    def sleep(seconds: float) -> None:
        now[0] += seconds
        if now[0] > 200:
            raise KeyboardInterrupt

    monkeypatch.setattr(serve.time, "sleep", sleep)
    monkeypatch.setattr(Installation, "start", lambda self, name: started.append(now[0]))
    with pytest.raises(KeyboardInterrupt):
        made.watch()
    apart = [b - a for a, b in zip(started, started[1:], strict=False)]
    assert apart == sorted(apart)
    assert apart[0] < 10 < apart[-1] <= serve.LONGEST_RESTART_SECONDS + 2
    assert "it is started again in 2 s" in capsys.readouterr().out
