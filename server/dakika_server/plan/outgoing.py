"""A version as a connector takes it: words, files in the shape and weight that the network wants, options."""

import io
from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import IO, Any

from dakika_core.networks.definition import MediaRule
from dakika_core.networks.post_rules import MEGABYTE, nearest_shape

from dakika_server.media import storage
from dakika_server.media.lending import address_of
from dakika_server.media.models import Asset
from dakika_server.media.pictures import fitted
from dakika_server.networks.connectors.base import LinkCard, MediaOut, PostOut
from dakika_server.networks.definitions import network
from dakika_server.plan.content import rules_of
from dakika_server.plan.models import Version

# Options of a version that say what stands on the card of its link.
CARD = {"card_title": "title", "card_text": "text", "card_picture": "picture"}


class MediaGone(Exception):
    """A file of the version is not there any more, in words for people."""


def post_out(version: Version) -> PostOut:
    """The version as it is to be published. Raises MediaGone."""
    return PostOut(
        text=version.text, title=version.headline, media=media_out(version), first_comment=version.first_comment,
        link=version.link.destination if version.link else "", card=_card(version),
        options={key: value for key, value in version.options.items() if key not in CARD},
    )  # fmt: skip


def _card(version: Version) -> LinkCard | None:
    """What is to stand on the card of its link, where the network lets one say so. Raises MediaGone."""
    said = {name: version.options.get(key, "") for key, name in CARD.items()}
    if not any(said.values()) or not network(version.profile.network).offer.has_own_preview:
        return None
    picture = None
    if said["picture"]:
        number = int(said["picture"])
        picture = _out(_assets([number])[number], network(version.profile.network).media, is_still=True)
    return LinkCard(title=said["title"], text=said["text"], picture=picture)


def media_out(version: Version) -> tuple[MediaOut, ...]:
    """Its files in their order. The same asset gives the same bytes each time. Raises MediaGone."""
    return tuple(_each_out(version, version.media))


def file_out(version: Version, place: int) -> MediaOut:
    """One of its files, as its network or channel takes it: cut to a shape, made lighter. Raises MediaGone."""
    if place >= len(version.media):
        raise MediaGone("This post has no such file any more.")
    # The others are not worked on for it.
    (found,) = _each_out(version, [version.media[place]])
    return found


def _each_out(version: Version, wanted: Sequence[int]) -> Iterator[MediaOut]:
    found = _assets(version.media)
    rule = rules_of(version.profile).media
    has_video = any(asset.kind == Asset.Kind.VIDEO for asset in found.values())
    for number in wanted:
        yield _out(found[number], rule, is_still=has_video)


def _assets(numbers: Sequence[int]) -> dict[int, Asset]:
    found = Asset.objects.filter(pk__in=numbers, state=Asset.State.READY).prefetch_related("renditions").in_bulk()
    if len(found) != len(set(numbers)):
        raise MediaGone("One of its files is not there any more. Take it out or bring another.")
    return found


def _out(asset: Asset, rule: MediaRule, *, is_still: bool) -> MediaOut:
    renditions: Mapping[str, Any] = {one.purpose: one for one in asset.renditions.all()}
    full = renditions.get("full")
    if asset.kind != Asset.Kind.PICTURE or full is None:
        return MediaOut(
            name=asset.name, media_type=asset.media_type, content=_opener(asset.file), words=asset.words,
            width=asset.width, height=asset.height, seconds=asset.seconds, size=asset.size, address=address_of(asset),
        )  # fmt: skip
    wanted = None if is_still else nearest_shape(full.width / full.height, rule)
    most = int(rule.largest_picture_mb * MEGABYTE)
    if wanted is None and full.size <= most:
        return MediaOut(
            name=asset.name, media_type=full.media_type, content=_opener(full.file), words=asset.words,
            width=full.width, height=full.height, size=full.size,
        )  # fmt: skip
    with _open(full.file) as file:
        made = fitted(file, shape=wanted, focus=(asset.focus_x, asset.focus_y), most_bytes=most)
    return MediaOut(
        name=asset.name, media_type=made.media_type, content=lambda: io.BytesIO(made.content), words=asset.words,
        width=made.width, height=made.height, size=len(made.content),
    )  # fmt: skip


def _opener(name: str) -> Callable[[], IO[bytes]]:
    return lambda: _open(name)


def _open(name: str) -> IO[bytes]:
    try:
        found: IO[bytes] = storage.opened(name)
    except FileNotFoundError:
        raise MediaGone("One of its files is gone from the storage. Bring it again.") from None
    return found
