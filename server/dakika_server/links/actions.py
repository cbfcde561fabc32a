"""Changes to links."""

import secrets
from typing import Any

from dakika_core.links.addresses import with_parameters
from dakika_core.links.utm import Utm, utm_for
from dakika_core.values.addresses import LONGEST_ADDRESS, AddressError, clean_destination
from django.conf import settings
from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require_editor
from dakika_server.links.models import TrackedLink
from dakika_server.networks.definitions import all_networks
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors

# Letters that are not taken for one another when read from paper.
ALPHABET = "23456789abcdefghjkmnpqrstuvwxyz"
CODE_LENGTH = 7


def short_address(link: TrackedLink) -> str:
    """The address to be passed on."""
    return f"{settings.PUBLIC_ADDRESS}/l/{link.code}"


def proposed_utm(network_key: str, campaign: Campaign | None, name: str = "") -> Utm:
    """UTM parameters filled from network and campaign."""
    return utm_for(all_networks().get(network_key), campaign.name if campaign else None, name)


def make_link(
    actor: Any, brand: Brand, *, name: str, destination: str, network: str = "", campaign_id: int | None = None,
    utm: dict[str, str] | None = None,
) -> TrackedLink:  # fmt: skip
    """Make a tracked link. UTM parameters that are not given are filled from network and campaign.

    Raises ValidationError for a destination that may not be followed, or a campaign of somebody else's.
    """
    require_editor(actor, brand)
    campaign = Campaign.objects.filter(brand=brand, pk=campaign_id).first() if campaign_id else None
    if campaign_id and campaign is None:
        raise field_errors({"campaign_id": "There is no such campaign."})
    if network and network not in all_networks():
        raise field_errors({"network": "There is no such network."})
    try:
        cleaned = clean_destination(destination)
    except AddressError as error:
        raise field_errors({"destination": str(error)}) from None
    if cleaned.startswith(f"{settings.PUBLIC_ADDRESS}/l/"):
        raise field_errors({"destination": "This is a short link of ours already. Give the page it leads to."})
    parameters = proposed_utm(network, campaign).as_parameters()
    parameters.update({f"utm_{key}": value.strip() for key, value in (utm or {}).items()})
    target = with_parameters(cleaned, parameters)
    if len(target) > LONGEST_ADDRESS + 900:
        raise field_errors({"destination": "The address with its parameters is too long."})
    for _ in range(5):
        try:
            with transaction.atomic():
                link = TrackedLink.objects.create(
                    brand=brand, code=_new_code(), name=name.strip() or cleaned[:200], destination=cleaned,
                    target=target, utm={k: v for k, v in parameters.items() if v}, network=network,
                    campaign=campaign, created_by=actor, created_at=clock.now(),
                )  # fmt: skip
                audit.record(actor, "make_link", link, brand_id=brand.pk)
        except IntegrityError:
            continue
        return link
    raise RuntimeError("no free code was found five times over")


def _new_code() -> str:
    return "".join(secrets.choice(ALPHABET) for _ in range(CODE_LENGTH))
