"""Changing a link: what it led to before is kept, and who changed it."""

from datetime import datetime
from typing import Any

from django.core.exceptions import PermissionDenied
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import members_who, require
from dakika_server.links.actions.making import Draft, proposal_of
from dakika_server.links.models import FormerTarget, TrackedLink
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors


def may_change(user: Any, link: TrackedLink) -> bool:
    """A link's owner alone may change it; once the owner makes no links of the brand any more, all who do may."""
    makers = set(members_who(link.brand, "links.make").values_list("user_id", flat=True))
    return user.pk in makers and (link.created_by_id == user.pk or link.created_by_id not in makers)


def change_link(actor: Any, brand: Brand, pk: int, **changes: Any) -> TrackedLink:
    """Change what is given: destination, name, utm, campaign_id, ends_at, is_paused, keeps_query, owner_id.

    Raises TrackedLink.DoesNotExist, PermissionDenied, and ValidationError by field.
    """
    with transaction.atomic():
        link = TrackedLink.objects.select_for_update().get(brand=brand, pk=pk)
        if not may_change(actor, link):
            require(actor, brand, "links.make")
            owner = link.created_by.name if link.created_by else "somebody else"
            raise PermissionDenied(f"The owner of this link is {owner}, who alone may change it.")
        if {"destination", "utm", "campaign_id"} & changes.keys():
            _lead_elsewhere(actor, brand, link, changes)
        for name in ("name", "is_paused", "keeps_query"):
            if name in changes and (name != "name" or changes[name].strip()):
                setattr(link, name, changes[name])
        if "ends_at" in changes:
            link.ends_at = _end(changes["ends_at"], link)
        if "owner_id" in changes:
            link.created_by_id = _maker(brand, changes["owner_id"])
        link.save()
        audit.record(actor, "change_link", link, brand_id=brand.pk, changed=sorted(changes))
    return link


def _lead_elsewhere(actor: Any, brand: Brand, link: TrackedLink, changes: dict[str, Any]) -> None:
    typed = changes["utm"] if "utm" in changes else {k.removeprefix("utm_"): v for k, v in link.utm.items()}
    campaign_id = changes.get("campaign_id", link.campaign_id)
    if "campaign_id" in changes and campaign_id != link.campaign_id and "utm" not in changes:
        typed.pop("campaign", None)  # by the rules, from the new campaign
    draft = Draft(
        destination=changes.get("destination", link.destination), name=link.name, network=link.network,
        campaign_id=campaign_id, utm=typed,
    )  # fmt: skip
    proposal = proposal_of(brand, draft)
    if proposal.target != link.target:
        FormerTarget.objects.create(
            link=link, destination=link.destination, target=link.target, until=clock.now(), changed_by=actor
        )
    link.destination, link.target, link.utm = proposal.destination, proposal.target, proposal.utm
    link.campaign = proposal.campaign


def _end(ends_at: datetime | None, link: TrackedLink) -> datetime | None:
    if ends_at is not None and ends_at <= link.created_at:
        raise field_errors({"ends_at": "The end lies before the link was made."})
    return ends_at


def _maker(brand: Brand, user_id: int) -> int:
    if not members_who(brand, "links.make").filter(user_id=user_id).exists():
        raise field_errors({"owner_id": "Only somebody who may make links of the brand can own them."})
    return user_id
