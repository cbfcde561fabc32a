"""Asking for a boost, stopping it, and what a month may cost."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from dakika_core.networks.definition import BoostRule
from dakika_core.plan.boosts import Given, left_in, money, months_of, problems_of
from django.db import IntegrityError, transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.links.actions import Draft, make_link
from dakika_server.links.models import TrackedLink
from dakika_server.networks.definitions import all_networks, network_name
from dakika_server.plan.models import Boost, BoostLimit
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import Post, Profile

OPEN = (Boost.State.ASKED.value, Boost.State.RUNNING.value, Boost.State.STOPPING.value)
# As the trade writes it (common practice, no source).
PAID_MEDIUM = "paid-social"
LARGEST_CENTS = 10**10


@dataclass(frozen=True, kw_only=True)
class BoostInput:
    """A boost as somebody asks for it. page: where its clicks are to lead, by a tracked link of its own; or nothing."""

    post: int
    cents: int
    starts_at: datetime
    ends_at: datetime
    countries: Sequence[str] = ()
    ages: Sequence[str] = ()
    page: str = ""


def set_limit(actor: Any, brand: Brand, *, cents: int, currency: str, edition: int) -> BoostLimit:
    """What a month may cost. What is running runs on, even where it is more. Raises Conflict, field errors."""
    require(actor, brand, "plan.boost")
    if not 0 <= cents <= LARGEST_CENTS:
        raise field_errors({"cents": "An amount of nothing or more."})
    if currency not in {rule.currency for rule in _rules().values()}:
        raise field_errors({"currency": "No network takes this currency."})
    with transaction.atomic():
        limit = _limit(brand)
        if (limit.edition if limit else 0) != edition:
            raise Conflict("changed_meanwhile", "Somebody has changed the limit since you opened it. Look at it again.")
        limit = limit or BoostLimit(brand=brand, edition=0)
        limit.cents, limit.currency, limit.edition = cents, currency, edition + 1
        limit.save()
        audit.record(actor, "set_boost_limit", brand, brand_id=brand.pk, cents=cents, currency=currency)
    return limit


def ask_boost(actor: Any, brand: Brand, asked: BoostInput) -> Boost:
    """Ask for a boost: its network is told at once. Its budget counts whole in each month it may spend in.

    Raises Http404 for a post that is not the brand's, field errors for what the network does not take and for more than
    is left of a month, Conflict where the post is boosted already or can be by nobody.
    """
    require(actor, brand, "plan.boost")
    with transaction.atomic():
        post = Post.objects.filter(brand=brand, profile__kind="own", pk=asked.post).select_related("profile").first()
        if post is None:
            raise Http404
        rule = rule_for(post.profile)
        if rule is None or post.removed_at is not None:
            raise Conflict("not_boosted", why_not(post))
        given = Given(starts_at=asked.starts_at, ends_at=asked.ends_at, cents=asked.cents)
        wrong = problems_of(rule, given, asked.countries, asked.ages, clock.now())
        if wrong:
            raise field_errors(wrong)
        # Under the limit's row: of two who ask at once the second one counts what the first was given.
        limit = _limit(brand)
        _require_room(brand, limit, rule, given)
        link = _paid_link(actor, post, asked.page) if asked.page.strip() else None
        try:
            with transaction.atomic():
                boost = Boost.objects.create(
                    brand=brand, profile=post.profile, network=post.profile.network, post=post, link=link,
                    cents=asked.cents, currency=rule.currency,
                    starts_at=asked.starts_at, ends_at=asked.ends_at, countries=list(dict.fromkeys(asked.countries)),
                    ages=list(dict.fromkeys(asked.ages)), next_at=clock.now(), made_by=actor, made_at=clock.now(),
                )  # fmt: skip
        except IntegrityError:
            raise Conflict("boosted_already", "This post is being boosted already.") from None
        audit.record(actor, "ask_boost", boost, brand_id=brand.pk, post=post.pk, cents=asked.cents)
        ask("plan.look_after_boost", boost_id=boost.pk)
    return boost


def stop_boost(actor: Any, brand: Brand, pk: int) -> Boost:
    """Spend no more of a boost. One that its network was never told of is over at once. Raises Http404, Conflict."""
    require(actor, brand, "plan.boost")
    with transaction.atomic():
        boost = Boost.objects.select_for_update().filter(brand=brand, pk=pk).first()
        if boost is None:
            raise Http404
        if boost.state not in OPEN:
            raise Conflict("over_already", "It is over already.")
        is_untold = boost.state == Boost.State.ASKED and not boost.attempts
        boost.state = Boost.State.ENDED if is_untold else Boost.State.STOPPING
        boost.ended_at = clock.now() if is_untold else None
        boost.next_at = None if is_untold else clock.now()
        boost.stopped_by = actor
        boost.save()
        audit.record(actor, "stop_boost", boost, brand_id=brand.pk)
        if not is_untold:
            ask("plan.look_after_boost", boost_id=boost.pk)
    return boost


def rule_for(profile: Profile) -> BoostRule | None:
    """What its network takes for money; None where it takes none, or nobody is connected."""
    return None if profile.is_from_file or profile.credential_id is None else _rules().get(profile.network)


def why_not(post: Post) -> str:
    """Why a post cannot be boosted, for people."""
    name = network_name(post.profile.network)
    if post.removed_at is not None:
        return f"The post is not on {name} any more."
    if post.profile.network not in _rules():
        return f"{name} takes no money for posts."
    return f"Connect the profile with {name} first."


def left_of_months(brand: Brand, given: Given) -> dict[date, int]:
    """What is left of the limit in each month in which a boost may spend; in cents, and less than nothing may be."""
    limit = BoostLimit.objects.filter(brand=brand).first()
    return {
        month: left_in(limit.cents if limit else 0, _given(brand, limit), month, brand.zone)
        for month in sorted(months_of(given, brand.zone))
    }


def page_of(post: Post) -> str:
    """The page that a post's own tracked link leads to; nothing where it has none."""
    used = TrackedLink.objects.filter(uses__post=post).order_by("-pk").values_list("destination", flat=True)
    return used.first() or ""


def _require_room(brand: Brand, limit: BoostLimit | None, rule: BoostRule, given: Given) -> None:
    if limit is None or not limit.cents:
        raise field_errors({"cents": "Say first what a month may cost: nothing is given without a limit."})
    if limit.currency != rule.currency:
        raise field_errors({"cents": f"The month's limit is in {limit.currency}; the network takes {rule.currency}."})
    others = _given(brand, limit)
    for month in sorted(months_of(given, brand.zone)):
        left = left_in(limit.cents, others, month, brand.zone)
        if given.cents > left:
            told = f"{month:%B %Y} has {money(max(0, left))} {limit.currency} left of {money(limit.cents)}."
            raise field_errors({"cents": told})


def _given(brand: Brand, limit: BoostLimit | None) -> list[Given]:
    """All that a brand has given or may still give, in the limit's currency."""
    rows = Boost.objects.filter(brand=brand, currency=limit.currency if limit else "").exclude(
        state=Boost.State.REFUSED.value
    )
    return [
        Given(starts_at=one.starts_at, ends_at=one.ends_at, cents=one.cents, spent=one.spent,
              is_over=one.state == Boost.State.ENDED)
        for one in rows
    ]  # fmt: skip


def _limit(brand: Brand) -> BoostLimit | None:
    # The brand's row stands for a limit that there is not yet.
    Brand.objects.select_for_update(no_key=True).get(pk=brand.pk)
    return BoostLimit.objects.select_for_update().filter(brand=brand).first()


def _paid_link(actor: Any, post: Post, page: str) -> TrackedLink:
    """A link of the boost's own: who came by it was paid for, and is counted apart."""
    draft = Draft(
        destination=page, name=" ".join(post.text.split())[:180], profile_id=post.profile_id,
        campaign_id=post.campaign_id, utm={"medium": PAID_MEDIUM},
    )  # fmt: skip
    try:
        link = make_link(actor, post.brand, draft)
    except Exception as error:
        fields = getattr(error, "detail", None)
        if isinstance(fields, dict) and "destination" in fields:
            raise field_errors({"page": str(fields["destination"][0])}) from None
        raise
    TrackedLink.objects.filter(pk=link.pk).update(is_paid=True)
    link.is_paid = True
    return link


def _rules() -> dict[str, BoostRule]:
    return {key: found.boosts for key, found in all_networks().items() if found.boosts is not None}
