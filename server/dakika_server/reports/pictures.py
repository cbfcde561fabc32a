"""Pictures of a report for people outside, who have no session to ask for them with."""

import base64
from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.media import storage
from dakika_server.media.models import Asset

MOST_PICTURES, LARGEST_BYTES = 24, 600_000


def pictures_of(brand: Brand, look: dict[str, Any], pages: list[dict[str, Any]]) -> dict[str, str]:
    """The brand's own pictures that a report shows, in their smaller form, as data: addresses (RFC 2397) by number."""
    asked = [item["asset"] for page in pages for item in page["items"] if item["asset"]]
    asked += [look["logo"]] if look.get("logo") else []
    found = Asset.objects.filter(brand=brand, pk__in=asked[:MOST_PICTURES], state=Asset.State.READY)
    told: dict[str, str] = {}
    for asset in found.prefetch_related("renditions"):
        rendition = next((one for one in asset.renditions.all() if one.purpose == "preview"), None)
        if rendition is None:
            continue
        try:
            content = storage.opened(rendition.file).read(LARGEST_BYTES + 1)
        except FileNotFoundError:
            continue
        if len(content) <= LARGEST_BYTES:
            told[str(asset.pk)] = f"data:{rendition.media_type};base64,{base64.b64encode(content).decode()}"
    return told
