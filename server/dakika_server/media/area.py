"""Media, as they hand themselves in: files wait for a look, and who looks through them is told when it is done."""

from urllib.parse import urlsplit

from django.conf import settings

from dakika_server.accounts.permissions import permit
from dakika_server.brands.everything import brand_files
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.media.everything import files_of
from dakika_server.media.jobs import WAITING
from dakika_server.media.permissions import ROWS
from dakika_server.notices.changes import watch
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.shared.security import picture_sources


def _of_the_collection() -> list[str]:
    """Where previews of the outside collection come from."""
    parts = urlsplit(settings.COLLECTION_ADDRESS)
    return [f"{parts.scheme}://{parts.netloc}"] if parts.netloc else []


def _connect() -> None:
    note_changes({
        "media_asset": Noted(columns=("name", "words", "tags", "edits", "focus_x", "focus_y")),
    })  # fmt: skip
    permit(ROWS)
    brand_files.add("media", files_of)
    add_waiting(WAITING)
    watch({"media_asset": "media"})
    picture_sources.add("media", _of_the_collection)


AREA = Area(name="media", urls="dakika_server.media.urls", connect=_connect)
