"""What a planned post consists of on each profile, held against the rules of the profile's network."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Any

from dakika_core.networks.definition import Format, MediaRule, Need, NetworkDefinition, TextRule
from dakika_core.networks.post_rules import Attachment, Content, Kind, PostCheck, check_post
from dakika_core.networks.text_rules import Problem
from dakika_core.plan.content import common_of, effective, own_of
from dakika_core.plan.templates import places_in

from dakika_server.brands.models import Brand
from dakika_server.links.models import TrackedLink
from dakika_server.links.serializers.making import short_address
from dakika_server.media.models import Asset
from dakika_server.networks.definitions import all_networks, network_name
from dakika_server.plan.models import ChannelRules
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile

LONGEST_TEXT = 20_000
MOST_MEDIA, MOST_PLACES_SAID = 20, 3
# A person takes the files along: no weight is too much for that.
HEAVIEST_MB = 1_000_000.0


@dataclass(frozen=True, kw_only=True)
class Common:
    """What the versions of a planned post have in common. media: numbers of assets, in their order."""

    text: str = ""
    headline: str = ""
    first_comment: str = ""
    media: tuple[int, ...] = ()


@dataclass(frozen=True, kw_only=True)
class VersionInput:
    """A version as written: None is as it is in common."""

    profile_id: int
    text: str | None = None
    headline: str | None = None
    first_comment: str | None = None
    media: Sequence[int] | None = None
    options: Mapping[str, str] = field(default_factory=dict)
    link_id: int | None = None
    scheduled_at: datetime | None = None

    def written(self) -> dict[str, Any]:
        """The fields that are written here."""
        told = {"text": self.text, "headline": self.headline, "first_comment": self.first_comment,
                "media": None if self.media is None else list(self.media)}  # fmt: skip
        return {name: _clean(value) for name, value in told.items() if value is not None}


def _clean(value: Any) -> Any:
    return value.replace("\x00", "") if isinstance(value, str) else value


def common_from(versions: Sequence[VersionInput]) -> Common:
    """What versions that were written out whole have in common: the first text."""
    return Common(text=common_of(one.text or "" for one in versions))


@dataclass(frozen=True, kw_only=True)
class Whole:
    """A version as it is to be stored: values of all fields, and the names of those that are its own."""

    values: Mapping[str, Any]
    own: tuple[str, ...]


def whole(common: Common, version: VersionInput, link: TrackedLink | None) -> Whole:
    """A version written out: what is common with its own link in it, and what it has of its own."""
    links = {link.destination: short_address(link)} if link else {}
    shared = {name: _clean(value) for name, value in vars(common).items()} | {"media": list(common.media)}
    own = own_of(shared, version.written(), links)
    return Whole(values=effective(shared, own, links), own=tuple(own))


def format_of(network: str, kinds: Sequence[str], *, has_link: bool) -> Format:
    """What a post of these files will most likely be there, until the network says."""
    if Kind.VIDEO in kinds:
        return Format.LONG_VIDEO if network == "longplay" else Format.SHORT_VIDEO
    if kinds:
        return Format.ALBUM if len(kinds) > 1 else Format.IMAGE
    return Format.LINK if has_link else Format.TEXT


def is_by_hand(profile: Profile) -> bool:
    """Whether nothing is connected that could publish there: a person does it, reminded at the minute."""
    definition = all_networks().get(profile.network)
    return profile.is_from_file or definition is None or not definition.offer.has_publishing


def rules_of(profile: Profile) -> NetworkDefinition:
    """The rules of a profile's network, or of a channel as somebody said them; where nobody did, none but a length."""
    found = all_networks().get(profile.network)
    if found is not None:
        return found
    said = _said_of(profile)
    if said is None:
        text, media = TextRule(limit=LONGEST_TEXT, needs_text=False), MediaRule(most_pictures=MOST_MEDIA)
    else:
        text = TextRule(
            limit=said.text_limit, title_limit=said.title_limit, needs_text=said.needs_text,
            most_hashtags=said.most_hashtags, has_links=said.has_links,
        )  # fmt: skip
        media = MediaRule(
            need=Need.PICTURE if said.needs_picture else Need.NOTHING, most_pictures=said.most_pictures,
            takes_videos=said.takes_videos, longest_seconds=said.longest_seconds, takes_documents=said.takes_documents,
            narrowest=said.narrowest, widest=said.widest, largest_picture_mb=said.largest_picture_mb or HEAVIEST_MB,
            largest_video_mb=said.largest_video_mb or HEAVIEST_MB,
        )  # fmt: skip
    return NetworkDefinition(
        key=profile.network, name=network_name(profile.network), monogram="", half_life_hours=24.0, text=text,
        media=media,
    )  # fmt: skip


def _said_of(profile: Profile) -> ChannelRules | None:
    """What somebody said that a channel takes."""
    try:
        found: ChannelRules = profile.channel_rules
    except ChannelRules.DoesNotExist:
        return None
    return found


def assets_of(brand: Brand, numbers: Iterable[int]) -> dict[int, Asset]:
    """A brand's assets by number. Raises a field error where one is not there or is not ready."""
    wanted = set(numbers)
    found = {one.pk: one for one in Asset.objects.filter(brand=brand, pk__in=wanted).prefetch_related("renditions")}
    if set(found) != wanted:
        raise field_errors({"media": "One of the files is not there any more. Take it out."})
    refused = [asset.name for asset in found.values() if asset.state == Asset.State.REFUSED]
    if refused:
        raise field_errors({"media": f"\u201c{refused[0]}\u201d was refused. Take it out and bring another."})
    return found


def attachment(asset: Asset) -> Attachment:
    """An asset as the rules see it. Pictures are sent written anew, so their weight is that of the rendition."""
    sent = [one.size for one in asset.renditions.all() if one.purpose == "full"]
    return Attachment(
        kind=Kind(asset.kind or Kind.PICTURE), name=asset.name, width=asset.width, height=asset.height,
        seconds=asset.seconds, size=sent[0] if sent else asset.size, has_words=bool(asset.words),
    )  # fmt: skip


def check_content(profile: Profile, values: Mapping[str, Any], assets: Mapping[int, Asset]) -> PostCheck:
    """A version's values held against the rules of its profile's network. Files that are unknown are left out."""
    rules = rules_of(profile)
    known = [assets[number] for number in values.get("media", ()) if number in assets]
    is_checked = profile.network in all_networks() or _said_of(profile) is not None
    content = Content(
        text=values.get("text", ""), headline=values.get("headline", ""),
        first_comment=values.get("first_comment", "") if is_checked else "",
        media=tuple(attachment(asset) for asset in known) if is_checked else (), options=values.get("options", {}),
    )  # fmt: skip
    found = check_post(content, rules)
    left = places_in(content.text, content.headline, content.first_comment)
    # Braces may be meant: it is said, and stops nothing.
    said = tuple(
        Problem(code="place_left", message=f"Still to be filled in, as it looks: {name}.", is_blocking=False)
        for name in left[:MOST_PLACES_SAID]
    )
    return replace(found, problems=(*found.problems, *said))
