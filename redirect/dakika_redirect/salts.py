"""The day's key of visitors' hashes: from the database where it answers, else made here; thrown away the day after."""

import contextlib
import os
import secrets
from datetime import date
from pathlib import Path


class Salts:
    """Keys by day (UTC), in files that the processes of one machine share."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._known: dict[date, bytes] = {}

    def of(self, day: date) -> bytes:
        """The key of a day, the same for every process of this machine."""
        if day not in self._known:
            self.keep(day, secrets.token_bytes(32))
        return self._known[day]

    def keep(self, day: date, salt: bytes) -> None:
        """Take a key for a day unless there is one already."""
        path = self._path(day)
        made = path.with_suffix(f".{os.getpid()}")
        made.write_bytes(salt)
        made.chmod(0o600)
        with contextlib.suppress(FileExistsError):
            os.link(made, path)
        made.unlink()
        self._known[day] = path.read_bytes()

    def forget_before(self, day: date) -> None:
        """Throw away the keys of days before: from then on nobody can tell whose a hash was."""
        for known in [d for d in self._known if d < day]:
            del self._known[known]
        for path in self._folder.glob("salt-*.key"):
            if path.name < self._path(day).name:
                path.unlink(missing_ok=True)

    def _path(self, day: date) -> Path:
        return self._folder / f"salt-{day.isoformat()}.key"
