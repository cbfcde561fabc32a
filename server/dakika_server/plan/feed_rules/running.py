"""What becomes of a feed's new items by its rules: each once, within the limits, whatever happens in between."""

import logging
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from typing import Any

from dakika_core.networks.text_rules import check_text
from dakika_core.plan.feed_rules import PLAIN, Quiet, is_wanted, next_time, words_of
from dakika_core.values.addresses import AddressError, clean_destination
from django.core.exceptions import PermissionDenied
from django.db import OperationalError, transaction
from django.db.models import Exists, OuterRef, QuerySet
from rest_framework.exceptions import APIException

from dakika_server.brands.permissions import can
from dakika_server.links.actions import Draft, make_link
from dakika_server.notices.actions import notify
from dakika_server.plan.actions import save_planned_post
from dakika_server.plan.content import Common, VersionInput, rules_of
from dakika_server.plan.feed_rules.keeping import unfilled_places
from dakika_server.plan.ideas.keeping import IdeaContent, IdeaOrigin, keep_idea
from dakika_server.plan.models import FeedRule, FeedRuleItem, Idea, PlannedPost
from dakika_server.plan.reviewing import rules_of_brand
from dakika_server.plan.saying import on_its_way
from dakika_server.shared.errors import Conflict, told_by
from dakika_server.sources.models import FeedItem, Profile

log = logging.getLogger(__name__)
Outcome = FeedRuleItem.Outcome
# An item is news for so long: what cannot go out until then is left out, and said to be.
NEWS_FOR = timedelta(hours=48)
MOST_AT_ONCE = 200


@dataclass(frozen=True, kw_only=True)
class Written:
    """An item as a post: what its versions share, and what of them differs because a network takes no links."""

    text: str
    headline: str
    first_comment: str
    own: dict[int, str]
    address: str


@dataclass(frozen=True, kw_only=True)
class Decided:
    """What became of an item."""

    outcome: str
    reason: str = ""
    planned: PlannedPost | None = None
    at: datetime | None = None


def run_feed_rules(now: datetime) -> int:
    """Let all rules act on what is new for them; how many items were decided on.

    Each item is one transaction: a kill in between loses none and makes none twice.
    """
    done = 0
    for rule in FeedRule.objects.filter(is_on=True).order_by("pk").select_related("brand", "feed"):
        for item in list(new_items(rule).order_by("published_at", "pk")[:MOST_AT_ONCE]):
            decided = _decide_surely(rule.pk, item, now)
            done += decided is not None
            if decided is None:
                break
    return done


def new_items(rule: FeedRule) -> QuerySet[FeedItem]:
    """Items of a rule's feed that came since it is on and were not decided on."""
    decided = FeedRuleItem.objects.filter(rule=rule, item=OuterRef("pk"))
    items = FeedItem.objects.filter(brand=rule.brand_id, feed=rule.feed_id, seen_at__gte=rule.since)
    return items.exclude(Exists(decided))


def _decide_surely(rule_id: int, item: FeedItem, now: datetime) -> Decided | None:
    """Decide on an item; one that nothing can be made of does not stand before all that come after it."""
    try:
        return _decide(rule_id, item, now)
    except OperationalError:
        raise
    except Exception:
        log.exception("rule %s broke on item %s", rule_id, item.pk)
        decided = Decided(outcome=Outcome.FAILED, reason="Nothing could be made of it. Write it by hand.")
        FeedRuleItem.objects.get_or_create(
            rule_id=rule_id, item=item,
            defaults={"outcome": decided.outcome, "reason": decided.reason, "decided_at": now},
        )  # fmt: skip
        return decided


def _decide(rule_id: int, item: FeedItem, now: datetime) -> Decided | None:
    """Decide on an item; None where it has to wait or its rule stopped."""
    with transaction.atomic():
        rule = FeedRule.objects.select_for_update(of=("self",)).filter(pk=rule_id, is_on=True).first()
        if rule is None or FeedRuleItem.objects.filter(rule=rule, item=item).exists():
            return None
        problem = _stopped(rule)
        if problem:
            _stop(rule, problem)
            return None
        decided = _left_out(rule, item, now)
        if decided is None:
            decided = _made(rule, item, now)
        if decided is not None:
            FeedRuleItem.objects.create(
                rule=rule, item=item, outcome=decided.outcome, reason=decided.reason[:300],
                planned_post=decided.planned, at=decided.at, decided_at=now,
            )  # fmt: skip
        return decided


def _stopped(rule: FeedRule) -> str:
    """Why a rule may not act any more; nothing where it may."""
    person = rule.made_by
    if person is None or not person.is_active or not can(person, rule.brand, "plan.write"):
        return "Who wrote it may not write posts here any more. Somebody who may has to save it anew."
    is_scheduling = rule.becomes == FeedRule.Becomes.SCHEDULED
    if is_scheduling and not rules_of_brand(rule.brand_id).steps and not can(person, rule.brand, "plan.publish"):
        return "Who wrote it may not publish here any more. Somebody who may has to save it anew."
    if rule.becomes != FeedRule.Becomes.IDEA and not profiles_of(rule):
        return "None of its profiles is followed any more. Choose others."
    if rule.template is not None and unfilled_places(rule.template):
        return "Its template has places now that an item of a feed cannot fill. Change one of them."
    return ""


def _stop(rule: FeedRule, problem: str) -> None:
    rule.is_on, rule.problem = False, problem
    rule.save(update_fields=["is_on", "problem"])
    notify(
        rule.brand, kind="plan", permission="plan.write", key=f"feed-rule-{rule.pk}-{rule.edition}",
        text=f"The rule \u201c{rule.name}\u201d stopped.", detail=problem, path=f"plan/rules?rule={rule.pk}",
    )  # fmt: skip


def _left_out(rule: FeedRule, item: FeedItem, now: datetime) -> Decided | None:
    """Why an item is not for a rule, where it is not."""
    if not is_wanted(f"{item.title}\n{item.summary}", any_of=rule.any_of, none_of=rule.none_of):
        return Decided(outcome=Outcome.LEFT_OUT, reason="Its words are not those asked for.")
    is_old = item.published_at is not None and item.published_at < item.seen_at - NEWS_FOR
    # A feed without dates, read for the first time, tells all that it ever had.
    is_first = item.published_at is None and item.seen_at <= rule.feed.added_at
    if is_old or is_first or now - item.seen_at > NEWS_FOR:
        return Decided(outcome=Outcome.LEFT_OUT, reason="It was older than two days when its turn came.")
    same = FeedRuleItem.objects.filter(rule=rule, outcome=Outcome.MADE, item__address=item.address)
    if item.address and same.exists():
        return Decided(outcome=Outcome.LEFT_OUT, reason="The same page came before, under another number.")
    return None


def _made(rule: FeedRule, item: FeedItem, now: datetime) -> Decided | None:
    """Make of an item what the rule says; None where it has to wait for another day."""
    if rule.becomes == FeedRule.Becomes.IDEA:
        return _idea(rule, item, now)
    at = time_for(rule, now, item.seen_at + NEWS_FOR)
    if at is None:
        told = "Others took its times: until it would be its turn it would be no news any more."
        return Decided(outcome=Outcome.LEFT_OUT, reason=told)
    try:
        with transaction.atomic():
            planned = _written(rule, item, at)
    except (APIException, PermissionDenied) as error:
        return _failed(rule, item, told_by(error))
    if rule.becomes == FeedRule.Becomes.DRAFT:
        return Decided(outcome=Outcome.MADE, planned=planned, at=at)
    try:
        with transaction.atomic():
            on_its_way(rule.made_by, planned, at=at)
    except (APIException, PermissionDenied) as error:
        _tell(rule, item, f"It waits as a draft: {told_by(error)}", f"plan/{planned.pk}")
        return Decided(outcome=Outcome.MADE, reason=f"A draft only: {told_by(error)}", planned=planned, at=at)
    return Decided(outcome=Outcome.MADE, planned=planned, at=at)


def _idea(rule: FeedRule, item: FeedItem, now: datetime) -> Decided | None:
    today = datetime.combine(now.astimezone(rule.brand.zone).date(), time(0), tzinfo=rule.brand.zone)
    if rule.items.filter(outcome=Outcome.MADE, at__gte=today).count() >= rule.most_a_day:
        return None
    content = IdeaContent(group=rule.group_id, campaign=rule.campaign_id,
                          wishes=[profile.pk for profile in profiles_of(rule)])  # fmt: skip
    try:
        with transaction.atomic():
            idea, _ = keep_idea(
                rule.made_by, rule.brand, content, IdeaOrigin(origin=Idea.Origin.FEED.value, item=item.pk)
            )
    except Conflict as error:
        if error.kind == "kept_already":
            return Decided(outcome=Outcome.LEFT_OUT, reason="Somebody has kept it as an idea already.")
        return _failed(rule, item, told_by(error))
    except (APIException, PermissionDenied) as error:
        return _failed(rule, item, told_by(error))
    return Decided(outcome=Outcome.MADE, planned=idea.planned_post, at=now)


def _failed(rule: FeedRule, item: FeedItem, why: str) -> Decided:
    log.warning("item %s failed by rule %s: %s", item.pk, rule.pk, why)
    _tell(rule, item, why, f"plan/rules?rule={rule.pk}")
    return Decided(outcome=Outcome.FAILED, reason=why)


def _tell(rule: FeedRule, item: FeedItem, why: str, path: str) -> None:
    called = " ".join(item.title.split())[:120] or "An item"
    notify(
        rule.brand, kind="plan", permission="plan.write", key=f"feed-rule-{rule.pk}-item-{item.pk}", path=path,
        people=[rule.made_by_id] if rule.made_by_id else None, detail=why,
        text=f"\u201c{called}\u201d could not go out by the rule \u201c{rule.name}\u201d.",
    )  # fmt: skip


def profiles_of(rule: FeedRule) -> list[Profile]:
    """Its profiles that are there."""
    there = Profile.objects.filter(brand=rule.brand_id, kind="own", is_followed=True, pk__in=rule.profiles)
    return sorted(there, key=lambda one: rule.profiles.index(one.pk))


def time_for(rule: FeedRule, now: datetime, latest: datetime, also: Iterable[datetime] = ()) -> datetime | None:
    """When the next of its posts can go out; None where it cannot until the latest. also: times that count as taken."""
    made = rule.items.filter(outcome=Outcome.MADE, at__gt=now - timedelta(days=2)) if rule.pk else None
    soonest = now + timedelta(minutes=rule.minutes_after)
    earliest = soonest.replace(second=0, microsecond=0)
    if earliest < soonest:
        earliest += timedelta(minutes=1)
    taken = [*also, *(list(made.values_list("at", flat=True)) if made is not None else [])]
    return next_time(
        earliest, max(latest, earliest), quiet=_quiet(rule), taken=[at for at in taken if at],
        apart=timedelta(minutes=rule.minutes_apart), most_a_day=rule.most_a_day,
    )  # fmt: skip


def _quiet(rule: FeedRule) -> Quiet:
    return Quiet(start=rule.quiet_from or time(0), end=rule.quiet_to or time(0), zone=rule.brand.zone)


def words_for(rule: FeedRule, item: FeedItem, profiles: list[Profile]) -> Written:
    """An item's words by a rule's template, cut to what all of its profiles take."""
    template = rule.template
    at = item.published_at or item.seen_at
    values = {
        "title": " ".join(item.title.split()), "summary": " ".join(item.summary.split()), "author": item.author,
        "address": page_of(item), "feed": rule.feed.title,
        "date": f"{at.astimezone(rule.brand.zone):%d %B %Y}".lstrip("0"),
    }  # fmt: skip
    with_links = [profile for profile in profiles if rules_of(profile).text.has_links]
    text, headline, said = template.text if template else PLAIN, template.headline if template else "", ""
    if template and template.first_comment:
        said = words_of(template.first_comment, values, fits=lambda _: True)
    own = {
        profile.pk: words_of(text, values | {"address": ""}, fits=_fitting([profile])) for profile in profiles
        if profile not in with_links
    }  # fmt: skip
    return Written(
        text=words_of(text, values, fits=_fitting(with_links)), first_comment=said, own=own, address=values["address"],
        headline=words_of(headline, values, fits=lambda _: True) if headline else "",
    )  # fmt: skip


def _fitting(profiles: list[Profile]) -> Any:
    rules = [rules_of(profile) for profile in profiles]
    return lambda text: (
        not any(problem.code == "too_long" for network in rules for problem in check_text(text, network).problems)
    )


def page_of(item: FeedItem) -> str:
    """The page that an item is about, as it can be linked to; nothing where what the feed gives is none."""
    try:
        return clean_destination(item.address)
    except AddressError:
        return ""


def _written(rule: FeedRule, item: FeedItem, at: datetime) -> PlannedPost:
    profiles = profiles_of(rule)
    written = words_for(rule, item, profiles)
    versions = []
    for profile in profiles:
        has_link = rule.makes_links and written.address and profile.pk not in written.own
        link = has_link and make_link(
            rule.made_by, rule.brand,
            Draft(destination=written.address, profile_id=profile.pk, campaign_id=rule.campaign_id),
        )  # fmt: skip
        versions.append(VersionInput(
            profile_id=profile.pk, text=written.own.get(profile.pk), link_id=link.pk if link else None,
        ))  # fmt: skip
    return save_planned_post(
        rule.made_by, rule.brand, title=" ".join(item.title.split())[:200], scheduled_at=at,
        campaign_id=rule.campaign_id, versions=versions,
        common=Common(text=written.text, headline=written.headline, first_comment=written.first_comment),
    )  # fmt: skip
