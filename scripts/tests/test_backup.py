"""Promise: a backup taken while people work is one moment of all of it, comes back whole, and never halfway."""

import io
import json
import tarfile
import threading
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any

import psycopg
import pytest

from scripts import backup, postgres
from scripts.backup import PASSPHRASE, make_room, read_backup, unpacked, write_backup
from scripts.steps import StepError

FROM, INTO = "dakika_backed", "dakika_restored"


def connected(database: str) -> Any:
    told = postgres.connection(database)
    names = {"PGHOST": "host", "PGPORT": "port", "PGUSER": "user", "PGPASSWORD": "password", "PGDATABASE": "dbname"}
    return psycopg.connect(**{names[name]: value for name, value in told.items()}, autocommit=True)


@pytest.fixture
def place(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[dict[str, str]]:
    """A database with two tables that belong together, folders with files, keys."""
    for name in (FROM, INTO):
        postgres.sql(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')
        postgres.ensure_database(name)
    with connected(FROM) as one:
        one.execute("CREATE TABLE accounts_user (id int PRIMARY KEY, name text)")
        one.execute('CREATE TABLE "Post" (id serial PRIMARY KEY, author int REFERENCES accounts_user, words text)')
        one.execute("INSERT INTO accounts_user VALUES (1, 'Mira')")
        one.execute(
            """INSERT INTO "Post" (author, words) SELECT 1, 'Moon ' || i || E'\\n\\\\' FROM generate_series(1, 500) i"""
        )
    for folder, name in (("links", "journal-1.log"), ("media", "ab/cd.jpg")):
        (tmp_path / folder / name).parent.mkdir(parents=True)
        (tmp_path / folder / name).write_bytes(name.encode() * 50)
    (tmp_path / "media" / "away").symlink_to("/etc/passwd")
    (tmp_path / "keys.json").write_text('{"DAKIKA_SECRET_KEY": "x"}')
    environment = {
        "DAKIKA_LINKS_FOLDER": str(tmp_path / "links"), "DAKIKA_MEDIA_FOLDER": str(tmp_path / "media"),
        **postgres.connection(FROM),
    }  # fmt: skip
    for name, value in environment.items():
        monkeypatch.setenv(name, value)
    yield environment
    for name in (FROM, INTO):
        postgres.sql(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')


def elsewhere(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, **more: str) -> dict[str, str]:
    """Where it is restored to."""
    environment = {
        "DAKIKA_LINKS_FOLDER": str(tmp_path / "there" / "links"), "DAKIKA_MEDIA_FOLDER": str(tmp_path / "there" / "media"),
        **postgres.connection(INTO), **more,
    }  # fmt: skip
    for name, value in environment.items():
        monkeypatch.setenv(name, value)
    return environment


@pytest.mark.parametrize("passphrase", ["", "half past nine"])
def test_it_comes_back_as_it_was(
    place: dict[str, str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch, passphrase: str
) -> None:
    file = tmp_path / "backup"
    written = write_backup(file, {**place, PASSPHRASE: passphrase}, tmp_path / "keys.json")
    assert written.rows == {'"Post"': 500, "accounts_user": 1}
    assert file.stat().st_mode & 0o077 == 0
    assert (b"Mira" in file.read_bytes() or b"DAKIKA_SECRET_KEY" in file.read_bytes()) is (passphrase == "")
    there = elsewhere(tmp_path, monkeypatch, **{PASSPHRASE: passphrase})
    keys = tmp_path / "there" / "keys.json"
    assert read_backup(file, there, keys) == written.rows
    with connected(FROM) as before, connected(INTO) as after:
        for table in written.rows:
            asked = f"SELECT md5(string_agg(t::text, '|' ORDER BY t::text)) FROM {table} t"
            assert before.execute(asked).fetchone() == after.execute(asked).fetchone()
        # What counts up goes on where it was.
        assert after.execute("""INSERT INTO "Post" (author) VALUES (1) RETURNING id""").fetchone() == (501,)
    assert (tmp_path / "there" / "media" / "ab" / "cd.jpg").read_bytes() == b"ab/cd.jpg" * 50
    assert (tmp_path / "there" / "links" / "journal-1.log").exists()
    assert not (tmp_path / "there" / "media" / "away").exists()
    assert keys.stat().st_mode & 0o077 == 0
    # Now somebody is there: nothing is written over.
    assert not make_room()
    (tmp_path / "there" / "media" / "ab" / "cd.jpg").write_bytes(b"theirs")
    with pytest.raises(StepError, match="Somebody is in this database"):
        read_backup(file, there, keys)
    assert (tmp_path / "there" / "media" / "ab" / "cd.jpg").read_bytes() == b"theirs"


def test_killed_in_the_middle_the_same_is_done_again(
    place: dict[str, str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    file, keys = tmp_path / "backup", tmp_path / "there.json"
    written = write_backup(file, place, tmp_path / "keys.json")
    there = elsewhere(tmp_path, monkeypatch)
    for part in ("_copied", "_program"):

        def killed(*_: Any) -> None:
            raise KeyboardInterrupt

        with monkeypatch.context() as dying:
            dying.setattr(backup, part, killed)
            with pytest.raises(KeyboardInterrupt):
                read_backup(file, there, keys)
    # One that was started there and never begun in is no obstacle, either.
    with connected(INTO) as one:
        one.execute("CREATE TABLE accounts_user (id int PRIMARY KEY)")
    assert read_backup(file, there, keys) == written.rows


def test_tables_of_somebody_else_are_left_alone(
    place: dict[str, str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    write_backup(tmp_path / "backup", place, tmp_path / "keys.json")
    there = elsewhere(tmp_path, monkeypatch)
    with connected(INTO) as one:
        one.execute("CREATE TABLE invoices (id int)")
    with pytest.raises(StepError, match="Somebody is in this database"):
        read_backup(tmp_path / "backup", there, tmp_path / "there.json")


def test_under_load_it_is_one_moment(place: dict[str, str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Posts come with an author of their own, in one transaction: never is one there without the other."""
    ends = threading.Event()

    def work() -> None:
        with connected(FROM) as one:
            number = 2
            while not ends.is_set():
                with one.transaction():
                    one.execute("INSERT INTO accounts_user VALUES (%s, 'x')", [number])
                    one.execute("""INSERT INTO "Post" (author, words) VALUES (%s, 'x')""", [number])
                number += 1

    worker = threading.Thread(target=work)
    worker.start()
    try:
        file = tmp_path / "backup"
        written = write_backup(file, place, tmp_path / "keys.json")
    finally:
        ends.set()
        worker.join()
    assert written.rows['"Post"'] == 499 + written.rows["accounts_user"]
    assert read_backup(file, elsewhere(tmp_path, monkeypatch), tmp_path / "there.json") == written.rows


def test_what_comes_into_the_journals_meanwhile_is_in_it(
    place: dict[str, str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    dump = backup._dump
    journals = Path(place["DAKIKA_LINKS_FOLDER"])

    def meanwhile(target: Path) -> dict[str, int]:
        found = dump(target)
        (journals / "journal-1.log").unlink()
        (journals / "journal-2.log").write_text("clicks")
        return found

    monkeypatch.setattr(backup, "_dump", meanwhile)
    write_backup(tmp_path / "backup", place, tmp_path / "keys.json")
    with unpacked(tmp_path / "backup", "") as (folder, _):
        assert sorted(path.name for path in (folder / "links").iterdir()) == ["journal-1.log", "journal-2.log"]


def test_a_write_that_fails_leaves_the_last_backup_and_nothing_half(
    place: dict[str, str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = tmp_path / "backup"
    file.write_bytes(b"the last one")

    def full(*_: Any) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(backup, "_members", full)
    with pytest.raises(StepError, match="No space left"):
        write_backup(file, place, tmp_path / "keys.json")
    assert file.read_bytes() == b"the last one"
    assert [path for path in tmp_path.iterdir() if path.name.endswith(".part")] == []


def test_what_is_no_whole_backup_is_refused_before_anything_is_done(
    place: dict[str, str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    file = tmp_path / "backup"
    write_backup(file, place, tmp_path / "keys.json")
    whole = file.read_bytes()
    there = elsewhere(tmp_path, monkeypatch)
    changed = whole.replace(b"journal-1.logjournal", b"journal-1.logjournaL", 1)
    for wrong in (b"", b"nothing of ours", whole[: len(whole) // 2], changed):
        file.write_bytes(wrong)
        with pytest.raises(StepError):
            read_backup(file, there, tmp_path / "there.json")
    sealed = tmp_path / "sealed"
    write_backup(sealed, {**place, **postgres.connection(FROM), PASSPHRASE: "one"}, tmp_path / "keys.json")
    for passphrase in ("", "two"):
        with pytest.raises(StepError, match="passphrase"):
            read_backup(sealed, {**there, PASSPHRASE: passphrase}, tmp_path / "there.json")
    with connected(INTO) as one:
        assert one.execute(backup._TABLES).fetchall() == []


@pytest.mark.parametrize("name", ["../outside", "/tmp/outside", "links/../../outside"])
def test_nothing_of_a_strangers_file_lands_outside(tmp_path: Path, name: str) -> None:
    file = tmp_path / "in" / "backup"
    file.parent.mkdir()
    with tarfile.open(file, "w") as tar:
        for member, content in ((name, b"x"), ("manifest.json", json.dumps({"form": 1, "members": {}, "rows": {}}).encode())):  # fmt: skip
            info = tarfile.TarInfo(member)
            info.size = len(content)
            tar.addfile(info, io.BytesIO(content))
    # Refused, or kept within: what begins at the root begins at the folder (PEP 706).
    with suppress(StepError), unpacked(file, ""):
        pass
    assert not (tmp_path / "outside").exists()
    assert not Path("/tmp/outside").exists()
