"""Files from the web: fetched with all guards, then looked into as any other."""

import io
from typing import Any
from urllib.parse import unquote, urlsplit

from django.conf import settings

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.media.actions import add_asset
from dakika_server.media.models import Asset
from dakika_server.networks.fetcher import FetchError, fetch, place_for_people
from dakika_server.shared.errors import field_errors

LARGEST = 64_000_000


def add_from_address(actor: Any, brand: Brand, address: str) -> tuple[Asset, bool]:
    """Bring the file at an address; whether it is new. Raises a field error where it could not be had."""
    require(actor, brand, "media.change")
    most = min(LARGEST, settings.MEDIA_LARGEST_BYTES)
    try:
        with place_for_people():
            got = fetch(address, accept="image/*, video/*, application/pdf", most_bytes=most)
    except FetchError as error:
        raise field_errors({"address": str(error)}) from None
    name = unquote(urlsplit(got.address).path).rpartition("/")[2] or urlsplit(got.address).hostname or "file"
    return add_asset(actor, brand, name=name, size=len(got.content), file=io.BytesIO(got.content))
