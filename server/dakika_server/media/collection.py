"""An outside collection of pictures that may be used: searched there, brought here with author and licence.

The collection speaks JSON over HTTP; its address is a setting. Where none is set, there is none.
"""

import json
from typing import Any
from urllib.parse import quote, urljoin

from django.conf import settings

from dakika_server.brands.models import Brand
from dakika_server.media.bringing import add_from_address
from dakika_server.media.models import Asset
from dakika_server.networks.fetcher import FetchError, fetch, place_for_people
from dakika_server.shared.errors import Problem, field_errors

MOST = 40
LARGEST = 1_000_000
TEXTS = ("key", "title", "author", "licence", "page", "preview", "file")


def search_collection(text: str) -> list[dict[str, str]]:
    """Pictures by a word. Raises Problem where there is no collection, or where it does not answer."""
    return [one for one in _asked(f"search?text={quote(text)}") if one["key"]][:MOST]


def bring_from_collection(actor: Any, brand: Brand, key: str) -> tuple[Asset, bool]:
    """Bring a picture; whether it is new. Author and licence stand with it from then on.

    Raises a field error for a key that the collection does not know.
    """
    found = _asked(f"pictures/{quote(key)}")
    if not found:
        raise field_errors({"key": "The collection has no such picture any more."})
    one = found[0]
    asset, is_new = add_from_address(actor, brand, one["file"])
    if is_new:
        asset.name = one["title"][:200] or asset.name
        asset.words = one["title"][:1000]
        asset.origin = f"{one['author']}, {one['licence']}, {one['page']}"[:300]
        asset.save(update_fields=["name", "words", "origin"])
    return asset, is_new


def _asked(path: str) -> list[dict[str, str]]:
    """What the collection answers: texts alone, addresses made whole."""
    if not settings.COLLECTION_ADDRESS:
        raise Problem("no_collection", "No outside collection is set up here.")
    home = settings.COLLECTION_ADDRESS.rstrip("/") + "/"
    try:
        with place_for_people():
            got = fetch(urljoin(home, path), accept="application/json", most_bytes=LARGEST)
        told = json.loads(got.content)
        rows = told["pictures"] if isinstance(told, dict) else []
    except (FetchError, ValueError, KeyError, RecursionError) as error:
        words = str(error) if isinstance(error, FetchError) else "It answered with what is not understood."
        raise Problem("collection_away", f"The outside collection could not be asked. {words}") from None
    return [_texts(row, home) for row in rows if isinstance(row, dict)] if isinstance(rows, list) else []


def _texts(row: dict[str, Any], home: str) -> dict[str, str]:
    found = {name: str(row.get(name, "")).replace("\x00", "")[:500] for name in TEXTS}
    for name in ("page", "preview", "file"):
        whole = urljoin(home, found[name]) if found[name] else ""
        found[name] = whole if whole.startswith(("http://", "https://")) else ""
    return found
