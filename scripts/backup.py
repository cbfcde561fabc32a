"""A backup of an installation in one file, and an installation from it: database, files of people, journals, keys.

Consistent while people work: the database is one snapshot, whose rows are counted by table within it; journals of the
redirect are copied before it and again after it, so that no click between both is lost (what it has of them already
is known by its mark, and comes in once); files of people are copied after it, and are never changed in place.

Run inside the environment of an installation by `./dakika backup` and `./dakika restore`.
"""

import hashlib
import json
import os
import shutil
import subprocess
import sys
import tarfile
import tempfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, BinaryIO, cast

from scripts.paths import PYTHON, ROOT
from scripts.sealing import Sealed, SealError, Unsealed, is_sealed
from scripts.steps import StepError, guarded, run, step
from scripts.system import postgres_bin

FORM = 1
MANIFEST, DUMP, KEYS = "manifest.json", "database.dump", "secrets.json"
# Folders of an installation by their name in the file.
FOLDERS = {"links": "DAKIKA_LINKS_FOLDER", "media": "DAKIKA_MEDIA_FOLDER"}
PASSPHRASE = "DAKIKA_BACKUP_PASSPHRASE"
_TABLES = (
    "SELECT quote_ident(relname) FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace ORDER BY 1"
)


@dataclass
class Written:
    """What stands in the file: its members with their digests, and the rows of each table."""

    members: dict[str, str] = field(default_factory=dict)
    rows: dict[str, int] = field(default_factory=dict)


def _program(name: str) -> str:
    folder = postgres_bin()
    return str(folder / name) if folder else name


def _counted(connection: Any) -> dict[str, int]:
    tables = [row[0] for row in connection.execute(_TABLES).fetchall()]
    return {table: connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0] for table in tables}


def _dump(target: Path) -> dict[str, int]:
    """The database as one snapshot into a file; how many rows each table has in it."""
    import psycopg

    with psycopg.connect("", autocommit=False) as connection:
        connection.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ")
        (snapshot,) = cast(tuple[str], connection.execute("SELECT pg_export_snapshot()").fetchone())
        done = subprocess.run(
            [_program("pg_dump"), "--format=custom", "--no-owner", "--no-privileges", f"--snapshot={snapshot}",
             f"--file={target}"],
            capture_output=True, text=True,
        )  # fmt: skip
        if done.returncode != 0:
            raise StepError(f"The database could not be copied.\n{done.stderr.strip()[-600:]}")
        return _counted(connection)


def _digest(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _files(folder: Path) -> Iterator[Path]:
    """Files below a folder in order. Links lead elsewhere and are left out; what goes meanwhile is no loss."""
    if folder.exists():
        yield from sorted(path for path in folder.rglob("*") if path.is_file() and not path.is_symlink())


def write_backup(target: Path, environment: Mapping[str, str], keys: Path) -> Written:
    """Write everything into one file, which is there whole or not at all. Raises StepError."""
    written = Written()
    part = target.with_name(f".{target.name}.part")
    passphrase = environment.get(PASSPHRASE, "")
    with tempfile.TemporaryDirectory(prefix="dakika-backup-") as kept:
        space = Path(kept)
        journals = Path(environment[FOLDERS["links"]])
        with step("Copying the journals"):
            _copied(journals, space / "links")
        with step("Copying the database"):
            written.rows = _dump(space / DUMP)
        _copied(journals, space / "links")
        with step("Writing the backup"):
            try:
                fresh = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
                with os.fdopen(fresh, "wb") as out:
                    sealed = Sealed(out, passphrase) if passphrase else None
                    with tarfile.open(
                        fileobj=cast(BinaryIO, sealed or out), mode="w|", format=tarfile.PAX_FORMAT
                    ) as tar:
                        _members(tar, written, space, Path(environment[FOLDERS["media"]]), keys)
                    if sealed:
                        sealed.close()
                    out.flush()
                    os.fsync(out.fileno())
                part.replace(target)
            except OSError as error:
                raise StepError(f"{target} could not be written: {error.strerror or error}") from None
            finally:
                part.unlink(missing_ok=True)
    return written


def _copied(source: Path, target: Path) -> None:
    """What is in a folder now, over what was copied before; what is gone from it stays copied."""
    for path in _files(source):
        to = target / path.relative_to(source)
        to.parent.mkdir(parents=True, exist_ok=True)
        try:
            shutil.copy2(path, to)
        except FileNotFoundError:
            continue


def _members(tar: tarfile.TarFile, written: Written, space: Path, media: Path, keys: Path) -> None:
    every = [(DUMP, space / DUMP), *((f"links/{p.relative_to(space / 'links')}", p) for p in _files(space / "links"))]
    every += [(f"media/{path.relative_to(media)}", path) for path in _files(media)]
    if keys.exists():
        every.append((KEYS, keys))
    for name, path in every:
        try:
            written.members[name] = _digest(path)
            tar.add(path, arcname=name, recursive=False)
        except FileNotFoundError:
            written.members.pop(name, None)
    manifest = space / MANIFEST
    manifest.write_text(json.dumps({
        "form": FORM, "made_at": datetime.now(tz=UTC).isoformat(), "rows": written.rows, "members": written.members,
    }))  # fmt: skip
    # It stands at the end: a file without it was cut off.
    tar.add(manifest, arcname=MANIFEST, recursive=False)


@contextmanager
def unpacked(source: Path, passphrase: str, space: Path | None = None) -> Iterator[tuple[Path, dict[str, Any]]]:
    """What is in a backup, every member held against its digest: a folder that goes with the block, and the manifest.

    space: where there is room for it; without one where the system keeps what is short-lived.

    Raises StepError, in words, for a file that is none, was changed or cut off, and for another passphrase.
    """
    with tempfile.TemporaryDirectory(prefix="dakika-restore-", dir=space) as kept:
        folder = Path(kept)
        try:
            with source.open("rb") as file:
                sealed = is_sealed(file)
                if sealed and not passphrase:
                    raise StepError(f"{source} is sealed. Say its passphrase in {PASSPHRASE}.")
                stream = cast(BinaryIO, Unsealed(file, passphrase) if sealed else file)
                with tarfile.open(fileobj=stream, mode="r|") as tar:
                    # Nothing lands outside of the folder, nor as anything but a file (PEP 706).
                    tar.extractall(folder, filter="data")
            manifest = json.loads((folder / MANIFEST).read_text())
        except SealError as error:
            raise StepError(f"{source}: {error}") from None
        except (tarfile.TarError, EOFError, FileNotFoundError, ValueError) as error:
            raise StepError(
                f"{source} is no whole backup of ours ({str(error)[:120] or type(error).__name__})."
            ) from None
        if manifest.get("form") != FORM:
            raise StepError(f"{source} was made by another version, which writes form {manifest.get('form')}.")
        for name, digest in manifest["members"].items():
            if not (folder / name).is_file() or _digest(folder / name) != digest:
                raise StepError(f"{source} is damaged: {name} is not what was written.")
        yield folder, manifest


def read_backup(source: Path, environment: Mapping[str, str], keys: Path) -> dict[str, int]:
    """Put everything of a backup in place where nobody is yet; the rows of each table, as they were counted.

    Nothing is done before the file is known to be whole. The database comes last and at once: killed in between, the
    same is done again. Raises StepError where somebody is there, and where a table does not hold as many rows as when
    it was written.
    """
    import psycopg

    space = Path(environment[FOLDERS["media"]])
    space.mkdir(parents=True, exist_ok=True)
    with unpacked(source, environment.get(PASSPHRASE, ""), space.parent) as (folder, manifest):
        if not make_room():
            raise StepError("Somebody is in this database already. Restore into an empty one: nothing is written over.")
        with step("Putting files in place"):
            for name, setting in FOLDERS.items():
                target = Path(environment[setting])
                target.mkdir(parents=True, exist_ok=True)
                _copied(folder / name, target)
            if (folder / KEYS).exists():
                keys.parent.mkdir(parents=True, exist_ok=True)
                shutil.copy2(folder / KEYS, keys)
                keys.chmod(0o600)
        with step("Restoring the database"):
            done = subprocess.run(
                [_program("pg_restore"), "--no-owner", "--no-privileges", "--exit-on-error", "--single-transaction",
                 f"--dbname={environment['PGDATABASE']}", str(folder / DUMP)],
                capture_output=True, text=True,
            )  # fmt: skip
            if done.returncode != 0:
                raise StepError(f"The database could not be restored.\n{done.stderr.strip()[-600:]}")
            with psycopg.connect("") as connection:
                found = _counted(connection)
        if found != manifest["rows"]:
            other = sorted({*found.items()} ^ {*manifest["rows"].items()})
            raise StepError(f"Not all rows are there: {other[0][0]}.")
    return found


def make_room() -> bool:
    """Empty a database in which nobody is yet; False where somebody is, whose work would be lost."""
    import psycopg

    with psycopg.connect("") as connection:
        tables = {row[0] for row in connection.execute(_TABLES).fetchall()}
        if tables and "accounts_user" not in tables:
            return False  # somebody else's
        if tables and connection.execute("SELECT 1 FROM accounts_user LIMIT 1").fetchone():
            return False
        if tables:
            connection.execute("DROP SCHEMA public CASCADE")
            connection.execute("CREATE SCHEMA public")
        return True


def main() -> int:
    """backup FILE or restore FILE, in the environment of an installation."""
    what, file = sys.argv[1], Path(sys.argv[2]).resolve()
    keys = Path(os.environ["DAKIKA_KEYS_FILE"])
    if what == "backup":
        written = write_backup(file, os.environ, keys)
        rows = sum(written.rows.values())
        print(f"  {file}: {rows:,} rows of {len(written.rows)} tables, {len(written.members) - 1:,} files.")
        if not os.environ.get(PASSPHRASE):
            print(
                f"  It holds keys and is not sealed: keep it where nobody else reads, or say a passphrase in {PASSPHRASE}."
            )
        return 0
    found = read_backup(file, os.environ, keys)
    with step("Bringing the database up to date"):
        run(
            [PYTHON, ROOT / "server" / "manage.py", "migrate", "--no-input"], log="manage",
            advice="What was restored could not be brought up to date; see the lines above.",
        )  # fmt: skip
    print(f"  Restored: {sum(found.values()):,} rows of {len(found)} tables, as many as when it was written.")
    return 0


if __name__ == "__main__":
    raise SystemExit(guarded(main))
