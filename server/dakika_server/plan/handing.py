"""One post for several brands: handed to others as drafts, on their own profiles and with their own links."""

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.permissions import may
from dakika_server.links.actions import Draft, make_link
from dakika_server.links.serializers.making import short_address
from dakika_server.media.actions import copy_asset
from dakika_server.media.models import Asset
from dakika_server.plan.actions import save_planned_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import PlannedPost
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile


def brands_for(actor: Any, brand: Brand) -> list[Brand]:
    """Other brands for which a person may write."""
    rows = Membership.objects.filter(user=actor).exclude(brand=brand).select_related("brand").order_by("brand__name")
    return [row.brand for row in rows if may(row.role, "plan.write")]


def hand_to(actor: Any, planned: PlannedPost, slugs: Sequence[str]) -> list[PlannedPost]:
    """A draft for each of some other brands: the same words and files, on its own profiles of the same networks.

    Tracked links are made anew, to the same page, so that each brand's clicks are its own. Where a brand is on none of
    the networks, the draft waits without a profile. Raises a field error for a brand one may not write for.
    """
    allowed = {one.slug: one for one in brands_for(actor, planned.brand)}
    if not slugs or any(slug not in allowed for slug in slugs):
        raise field_errors({"brands": "Choose brands that you may write for."})
    versions = list(planned.versions.select_related("profile", "link").order_by("pk"))
    made = []
    with transaction.atomic():
        for slug in dict.fromkeys(slugs):
            other = allowed[slug]
            media = _media(actor, planned, other)
            taken: set[str] = set()
            written: list[VersionInput] = []
            for version in versions:
                profile = _profile(other, version.profile.network)
                if profile is None or profile.network in taken:
                    continue
                taken.add(profile.network)
                link = version.link and make_link(
                    actor,
                    other,
                    Draft(destination=version.link.destination, name=version.link.name, profile_id=profile.pk),
                )
                own = set(version.own)
                written.append(
                    VersionInput(
                        profile_id=profile.pk, link_id=link.pk if link else None,
                        text=_as_page(version.text, version) if "text" in own else None,
                        headline=version.headline if "headline" in own else None,
                        first_comment=_as_page(version.first_comment, version) if "first_comment" in own else None,
                        media=[media[one] for one in version.media if one in media] if "media" in own else None,
                    )
                )  # fmt: skip
            common = Common(
                text=planned.text, headline=planned.headline, first_comment=planned.first_comment,
                media=tuple(media[one] for one in planned.media if one in media),
            )  # fmt: skip
            made.append(save_planned_post(actor, other, title=planned.title, common=common, versions=written))
    return made


def _as_page(text: str, version: Any) -> str:
    """A text with the address of the page where our own short link stands, so that the other brand's goes there."""
    return text.replace(short_address(version.link), version.link.destination) if version.link else text


def _media(actor: Any, planned: PlannedPost, other: Brand) -> dict[int, int]:
    numbers = {*planned.media, *(one for version in planned.versions.all() for one in version.media)}
    assets = Asset.objects.filter(brand=planned.brand, pk__in=numbers, state=Asset.State.READY)
    return {asset.pk: copy_asset(actor, asset, other).pk for asset in assets}


def _profile(brand: Brand, network: str) -> Profile | None:
    """The brand's own profile on a network, the one that is connected first."""
    found = Profile.objects.filter(brand=brand, kind="own", network=network, is_followed=True)
    return found.order_by("credential_id", "pk").first()
