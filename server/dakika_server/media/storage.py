"""Where the bytes are: one of Django's storages, named "media" in the settings. Nobody else opens it."""

from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import IO, Any
from uuid import uuid4

from django.core.files.base import ContentFile, File
from django.core.files.storage import Storage, storages

# A file whose transaction was cut off belongs to nobody; one that is just being written may yet get its row.
LEFT_ALONE = timedelta(hours=24)


def storage() -> Storage:
    """The storage of this installation."""
    return storages["media"]


def keep(brand_id: int, content: IO[bytes] | bytes) -> str:
    """Put bytes away under a name of chance, and return it. They are there before any row tells of them."""
    file = ContentFile(content) if isinstance(content, bytes) else File(content)
    file.seek(0)
    name = uuid4().hex
    return storage().save(f"{brand_id}/{name[:2]}/{name}", file)


def opened(name: str) -> Any:
    """The bytes under a name. Raises FileNotFoundError where they are gone."""
    found: Any = storage().open(name, "rb")
    return found


def away(names: list[str]) -> None:
    """Take bytes away; those that are gone already are no error."""
    for name in names:
        storage().delete(name)


def older_than(before: datetime, folder: str = "") -> Iterator[str]:
    """The names of all files that were written before an instant."""
    try:
        folders, files = storage().listdir(folder)
    except FileNotFoundError:
        return
    for file in files:
        name = f"{folder}/{file}" if folder else file
        if storage().get_modified_time(name) < before:
            yield name
    for inner in folders:
        yield from older_than(before, f"{folder}/{inner}" if folder else inner)
