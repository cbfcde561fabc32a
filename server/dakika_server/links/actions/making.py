"""Making links: one at a time or many, their parameters filled by the brand's rules."""

import secrets
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from dakika_core.links.addresses import name_of_address, names_in, with_parameters
from dakika_core.links.codes import CodeError, chosen_code, new_code
from dakika_core.links.hosts import ShownHost, shown_host
from dakika_core.links.utm import Existing, RuleError, UtmRules, filled, written
from dakika_core.values.addresses import LONGEST_ADDRESS, AddressError, clean_destination
from django.conf import settings
from django.db import IntegrityError, transaction
from rest_framework.exceptions import ValidationError

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.links.models import LinkDomain, LinkSettings, TrackedLink
from dakika_server.networks.definitions import all_networks
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile

MOST_AT_ONCE = 500
LONGEST_TARGET = 2900


@dataclass(frozen=True, kw_only=True)
class Draft:
    """What somebody wants of a link. `utm` holds what was typed by hand; it wins over the rules."""

    destination: str
    name: str = ""
    network: str = ""
    profile_id: int | None = None
    campaign_id: int | None = None
    code: str = ""
    utm: Mapping[str, str] = field(default_factory=dict)
    ends_at: datetime | None = None
    keeps_query: bool = True


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """How a draft would come out: the address, its parameters, and which of them the destination had already."""

    destination: str
    target: str
    utm: dict[str, str]
    kept: list[str]
    replaced: list[str]
    host: ShownHost
    campaign: Campaign | None
    network: str


def rules_of(brand: Brand) -> UtmRules:
    """The brand's rules, or the ordinary ones."""
    kept = LinkSettings.objects.filter(brand=brand).values_list("rules", flat=True).first() or {}
    try:
        return UtmRules(**{**kept, "existing": Existing(kept.get("existing", Existing.KEEP.value))})
    except (RuleError, TypeError, ValueError):
        return UtmRules()


def proposal_of(brand: Brand, draft: Draft, rules: UtmRules | None = None) -> Proposal:
    """A draft brought into form. Raises ValidationError by field, changes nothing."""
    rules = rules or rules_of(brand)
    campaign, profile, network = _belongings(brand, draft)
    cleaned = _cleaned(brand, draft.destination)
    definition = all_networks().get(network)
    now = clock.now().astimezone(brand.zone)
    year, week, _ = now.isocalendar()
    utm = filled(
        rules,
        {
            "network": (definition.utm_source or definition.key) if definition else "",
            "medium": definition.utm_medium if definition else "",
            "profile": profile.handle if profile else "",
            "campaign": (campaign.utm_campaign or campaign.name) if campaign else "",
            "post": draft.name, "brand": brand.name, "year": str(now.year), "month": now.strftime("%Y-%m"),
            "week": f"{year}-w{week:02d}",
        },
    ).as_parameters()  # fmt: skip
    utm |= {f"utm_{part}": written(value, rules) for part, value in draft.utm.items()}
    is_replacing = rules.existing is Existing.REPLACE
    had = names_in(cleaned.partition("?")[2].partition("#")[0])
    both = [name for name, value in utm.items() if value and name in had]
    target = with_parameters(cleaned, utm, is_replacing=is_replacing)
    if len(target) > LONGEST_TARGET:
        raise field_errors({"destination": "The address with its parameters is too long."})
    return Proposal(
        destination=cleaned, target=target, utm={k: v for k, v in utm.items() if v and (is_replacing or k not in had)},
        kept=[] if is_replacing else both, replaced=both if is_replacing else [], host=shown_host(cleaned),
        campaign=campaign, network=network,
    )  # fmt: skip


def make_link(actor: Any, brand: Brand, draft: Draft) -> TrackedLink:
    """Make a tracked link. Raises ValidationError for what cannot be followed, is taken, or is somebody else's."""
    require(actor, brand, "links.make")
    proposal = proposal_of(brand, draft)
    return _stored(actor, brand, draft, proposal)


def make_links(actor: Any, brand: Brand, drafts: Sequence[Draft]) -> list[TrackedLink]:
    """Make many in one transaction: all, or none with the errors by row ("rows": {row: text}, rows from 1)."""
    require(actor, brand, "links.make")
    if len(drafts) > MOST_AT_ONCE:
        raise field_errors({"rows": f"At most {MOST_AT_ONCE} links are made at once."})
    rules, errors = rules_of(brand), {}
    made: list[TrackedLink] = []
    with transaction.atomic():
        for number, draft in enumerate(drafts, 1):
            try:
                made.append(_stored(actor, brand, draft, proposal_of(brand, draft, rules)))
            except ValidationError as error:
                errors[str(number)] = _first(error)
        if errors:
            raise field_errors({f"row {number}": text for number, text in errors.items()})
    return made


def _first(error: ValidationError) -> str:
    detail: Any = error.detail
    texts = next(iter(detail.values())) if isinstance(detail, dict) else detail
    return str(texts[0])


def _belongings(brand: Brand, draft: Draft) -> tuple[Campaign | None, Profile | None, str]:
    campaign = Campaign.objects.filter(brand=brand, pk=draft.campaign_id).first() if draft.campaign_id else None
    if draft.campaign_id and campaign is None:
        raise field_errors({"campaign_id": "There is no such campaign."})
    profile = None
    if draft.profile_id:
        profile = Profile.objects.filter(brand=brand, kind="own", pk=draft.profile_id).first()
        if profile is None:
            raise field_errors({"profile_id": "There is no such profile of the brand."})
    network = draft.network or (profile.network if profile else "")
    if network and network not in all_networks():
        raise field_errors({"network": "There is no such network."})
    return campaign, profile, network


def _cleaned(brand: Brand, destination: str) -> str:
    try:
        cleaned = clean_destination(destination)
    except AddressError as error:
        raise field_errors({"destination": str(error)}) from None
    hosts = LinkDomain.objects.filter(brand=brand).values_list("host", flat=True)
    ours = [f"{settings.PUBLIC_ADDRESS}/l/", f"{settings.LINKS_ADDRESS}/"]
    ours += [f"{scheme}://{host}/" for host in hosts for scheme in ("http", "https")]
    if cleaned.startswith(tuple(ours)):
        raise field_errors({"destination": "This is a short link of ours already. Give the page it leads to."})
    if len(cleaned) > LONGEST_ADDRESS:
        raise field_errors({"destination": f"The address is longer than {LONGEST_ADDRESS} characters."})
    return cleaned


def _stored(actor: Any, brand: Brand, draft: Draft, proposal: Proposal) -> TrackedLink:
    if draft.ends_at is not None and draft.ends_at <= clock.now():
        raise field_errors({"ends_at": "The end lies in the past."})
    chosen = ""
    if draft.code:
        try:
            chosen = chosen_code(draft.code)
        except CodeError as error:
            raise field_errors({"code": str(error)}) from None
    domain = LinkDomain.objects.filter(brand=brand, is_chosen=True).first()
    for _ in range(5):
        try:
            with transaction.atomic():
                link = TrackedLink.objects.create(
                    brand=brand, code=chosen or new_code(secrets.randbelow), domain=domain,
                    name=draft.name.strip()[:200] or name_of_address(proposal.destination),
                    destination=proposal.destination,
                    target=proposal.target, utm=proposal.utm, network=proposal.network, campaign=proposal.campaign,
                    ends_at=draft.ends_at, keeps_query=draft.keeps_query, created_by=actor, created_at=clock.now(),
                )  # fmt: skip
                audit.record(actor, "make_link", link, brand_id=brand.pk)
        except IntegrityError:
            if chosen:
                raise field_errors({"code": f"“{chosen}” is taken. Choose another word."}) from None
            continue
        return link
    raise RuntimeError("no free code was found five times over")
