"""A post as somebody is to say yes to it, and what waits for a yes."""

from typing import Any

from dakika_core.plan.review import may_say
from dakika_core.plan.states import State

from dakika_server.brands.models import Brand
from dakika_server.networks.definitions import network_name
from dakika_server.plan.guests import allows, shown_to
from dakika_server.plan.models import Guest, PlannedPost, Remark, ReviewRules, ReviewVerdict
from dakika_server.plan.remarks import content_of, since_looked, votes_of
from dakika_server.plan.reviewing import Teller, digest_of_post, rules_of_brand, waits_for, waits_for_each

MOST_WAITING, MOST_SHOWN = 300, 500


def review_of(planned: PlannedPost, teller: Teller) -> dict[str, Any]:
    """All that is to be known for saying yes, or for asking for a change."""
    rules, digest = rules_of_brand(planned.brand_id), digest_of_post(planned)
    step = waits_for(planned, rules) if planned.state == State.IN_REVIEW.value else None
    before, at = since_looked(teller, planned)
    return {
        "id": planned.pk, "title": planned.title, "state": planned.state, "edition": planned.edition,
        "campaign": planned.campaign.name if planned.campaign else None, "digest": digest, "steps": rules.steps,
        "step": step, "may_say": step is not None and _counts(planned, rules, step, teller),
        "asked_by": planned.submitted_by.name if planned.submitted_by else "",
        "now": content_of(planned), "before": before, "looked_at": at, "votes": votes_of(planned, teller),
        "verdicts": [
            {"name": one.name, "at": one.at, "step": one.step, "is_yes": one.is_yes, "words": one.words,
             "is_of_this": one.digest == digest}
            for one in ReviewVerdict.objects.filter(planned_post=planned).order_by("pk")
        ],
        "remarks": [
            {"pk": one.pk, "name": one.name, "is_guest": one.guest_id is not None, "at": one.at, "text": one.text,
             "quote": one.quote, "asset": one.asset, "profile_id": one.profile_id,
             "is_settled": one.settled_at is not None}
            for one in Remark.objects.filter(planned_post=planned).order_by("pk")
        ],
    }  # fmt: skip


def _counts(planned: PlannedPost, rules: ReviewRules, step: int, teller: Teller) -> bool:
    if teller.guest is not None and not allows(teller.guest, Guest.May.APPROVE):
        return False
    is_own = teller.person is not None and planned.submitted_by_id == teller.person.pk
    return may_say(rules.steps, step, teller.role) and (rules.may_approve_own or not is_own)


def waiting_for(brand: Brand, teller: Teller) -> list[int]:
    """Posts whose next yes is this person's to say, those that go out first in front."""
    rules = rules_of_brand(brand.pk)
    in_review = PlannedPost.objects.filter(brand=brand, state=State.IN_REVIEW.value)
    found = list(in_review.order_by("scheduled_at", "pk")[:MOST_WAITING])
    steps = waits_for_each([planned.pk for planned in found], rules)
    return [planned.pk for planned in found if _waits(planned, rules, steps[planned.pk], teller)]


def _waits(planned: PlannedPost, rules: ReviewRules, step: int | None, teller: Teller) -> bool:
    return step is not None and _counts(planned, rules, step, teller)


def page_of(guest: Guest, teller: Teller) -> dict[str, Any]:
    """What a guest sees: the posts of their campaigns and days, those that wait for them first."""
    posts = list(
        shown_to(guest).prefetch_related("versions__profile").order_by("scheduled_at", "pk")[:MOST_SHOWN]
    )  # fmt: skip
    rules = rules_of_brand(guest.brand_id)
    steps = waits_for_each([one.pk for one in posts if one.state == State.IN_REVIEW.value], rules)
    told: list[dict[str, Any]] = []
    for planned in posts:
        versions = list(planned.versions.all())
        media = planned.media or next((one.media for one in versions if one.media), [])
        text = planned.text or next((one.text for one in versions if one.text), "")
        told.append({
            "id": planned.pk, "title": planned.title, "text": text,
            "state": planned.state, "at": planned.scheduled_at, "picture": media[0] if media else None,
            "networks": sorted({one.profile.network for one in versions}),
            "waits": _waits(planned, rules, steps.get(planned.pk), teller),
        })  # fmt: skip
    keys = {key for one in told for key in one["networks"]}
    return {
        "brand": guest.brand.name, "zone": guest.brand.time_zone, "name": guest.name, "may": guest.may,
        "until": guest.until, "networks": {key: network_name(key) for key in sorted(keys)},
        "posts": sorted(told, key=lambda one: not one["waits"]),
    }  # fmt: skip
