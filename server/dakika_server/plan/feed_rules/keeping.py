"""Keeping rules for feeds: checked whole before any of them may act."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import time
from typing import Any

from dakika_core.plan.feed_rules import PLACES
from dakika_core.plan.states import State
from dakika_core.plan.templates import places_in
from django.db import IntegrityError, transaction
from django.http import Http404

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.plan.actions import delete_planned_post
from dakika_server.plan.models import FeedRule, FeedRuleItem, IdeaGroup, PlannedPost, Template
from dakika_server.plan.reviewing import rules_of_brand
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import Feed, Profile

MOST_RULES, MOST_WORDS, MOST_PROFILES = 100, 50, 20
WAITING = (State.SCHEDULED.value, State.IN_REVIEW.value, State.APPROVED.value)


@dataclass(frozen=True, kw_only=True)
class FeedRuleContent:
    """A rule as somebody writes it. quiet_from and quiet_to come together or not at all."""

    name: str
    feed: int
    becomes: str
    template: int | None = None
    profiles: Sequence[int] = ()
    campaign: int | None = None
    group: int | None = None
    any_of: Sequence[str] = ()
    none_of: Sequence[str] = ()
    most_a_day: int = 3
    minutes_after: int = 0
    minutes_apart: int = 60
    quiet_from: time | None = None
    quiet_to: time | None = None
    makes_links: bool = True
    is_on: bool = True


def keep_feed_rule(
    actor: Any, brand: Brand, content: FeedRuleContent, *, pk: int | None = None, edition: int | None = None
) -> FeedRule:
    """A rule, new or written anew; from then on it acts as this person. Items that are there already are left alone.

    Raises PermissionDenied where posts would go out that this person may not publish, Http404, field errors for what
    cannot be, Conflict where a colleague changed it since it was read.
    """
    require(actor, brand, "plan.write")
    if content.becomes == FeedRule.Becomes.SCHEDULED and not rules_of_brand(brand.pk).steps:
        require(actor, brand, "plan.publish")
    try:
        with transaction.atomic():
            rule = _locked(brand, pk, edition) if pk is not None else FeedRule(brand=brand, since=clock.now())
            if pk is None and FeedRule.objects.filter(brand=brand).count() >= MOST_RULES:
                raise Conflict("too_many_rules", "There are very many rules already. Take some away.")
            values = checked(brand, content)
            if values["is_on"] and (not rule.is_on or rule.feed_id not in (None, values["feed_id"])):
                # What came while it stood still, or what another feed has long had, is not sent all at once.
                rule.since = clock.now()
            for name, value in values.items():
                setattr(rule, name, value)
            rule.made_by, rule.problem = actor, ""
            rule.edition = rule.edition + 1 if rule.pk else 1
            rule.save()
            audit.record(actor, "keep_feed_rule", rule, brand_id=brand.pk, becomes=rule.becomes)
    except IntegrityError:
        raise field_errors({"name": "There is a rule of this name."}) from None
    return rule


def remove_feed_rule(actor: Any, brand: Brand, pk: int, *, takes_back: bool) -> int:
    """Take a rule away; how many posts were taken back. Without takes_back what it made stays as it is.

    Raises Http404; PermissionDenied where scheduled posts would be taken back by who may not.
    """
    require(actor, brand, "plan.write")
    with transaction.atomic():
        rule = _locked(brand, pk, None)
        waiting = list(waiting_of(rule)) if takes_back else []
        for planned in waiting:
            delete_planned_post(actor, planned)
        audit.record(actor, "remove_feed_rule", rule, brand_id=brand.pk, name=rule.name, posts=len(waiting))
        rule.delete()
    return len(waiting)


def waiting_of(rule: FeedRule) -> Any:
    """Posts that a rule made and that are to go out."""
    made = FeedRuleItem.objects.filter(rule=rule, planned_post__state__in=WAITING)
    return PlannedPost.objects.filter(pk__in=made.values("planned_post"))


def rule_of(brand: Brand, pk: int) -> FeedRule:
    """A brand's rule. Raises Http404."""
    found = FeedRule.objects.filter(brand=brand, pk=pk).select_related("feed", "template", "made_by").first()
    if found is None:
        raise Http404
    return found


def _locked(brand: Brand, pk: int, edition: int | None) -> FeedRule:
    found = FeedRule.objects.select_for_update().filter(brand=brand, pk=pk).first()
    if found is None:
        raise Http404
    if edition is not None and found.edition != edition:
        raise Conflict("changed_meanwhile", "Somebody has changed this rule since you opened it. Look at it again.")
    return found


def checked(brand: Brand, content: FeedRuleContent) -> dict[str, Any]:
    """Values of a rule, clean. Raises field errors for what is of elsewhere or cannot work."""
    wrong: dict[str, str] = {}
    name = " ".join(content.name.replace("\x00", "").split())[:80]
    if not name:
        wrong["name"] = "Give it a name."
    if not Feed.objects.filter(brand=brand, pk=content.feed, is_followed=True).exists():
        wrong["feed"] = "Choose a feed that is followed."
    if content.campaign and not Campaign.objects.filter(brand=brand, pk=content.campaign).exists():
        wrong["campaign"] = "There is no such campaign."
    if content.group and not IdeaGroup.objects.filter(brand=brand, pk=content.group).exists():
        wrong["group"] = "There is no such group, or not any more."
    profiles = list(dict.fromkeys(content.profiles))
    own = Profile.objects.filter(brand=brand, kind="own", is_followed=True, pk__in=profiles).count()
    if own != len(profiles) or len(profiles) > MOST_PROFILES:
        wrong["profiles"] = f"Choose own profiles that are there, at most {MOST_PROFILES}."
    elif not profiles and content.becomes != FeedRule.Becomes.IDEA:
        wrong["profiles"] = "Choose at least one profile."
    if (content.quiet_from is None) != (content.quiet_to is None):
        wrong["quiet_to" if content.quiet_to is None else "quiet_from"] = "Say when they begin and when they end."
    wrong |= _template(brand, content.template)
    words = {}
    for field in ("any_of", "none_of"):
        told = [" ".join(word.replace("\x00", "").split()) for word in getattr(content, field)]
        words[field] = list(dict.fromkeys(word[:80] for word in told if word))
        if len(words[field]) > MOST_WORDS:
            wrong[field] = f"At most {MOST_WORDS} words."
    if wrong:
        raise field_errors(wrong)
    return {
        **{field: getattr(content, field) for field in (
            "becomes", "most_a_day", "minutes_after", "minutes_apart", "quiet_from", "quiet_to", "makes_links", "is_on",
        )},
        **words, "name": name, "feed_id": content.feed, "template_id": content.template, "profiles": profiles,
        "campaign_id": content.campaign, "group_id": content.group,
    }  # fmt: skip


def _template(brand: Brand, pk: int | None) -> dict[str, str]:
    if pk is None:
        return {}
    found = Template.objects.filter(brand=brand, pk=pk).first()
    if found is None:
        return {"template": "There is no such template, or not any more."}
    unfilled = unfilled_places(found)
    if unfilled:
        told = ", ".join(f"{{{place}}}" for place in unfilled[:3])
        return {"template": f"An item of a feed cannot fill in {told}. It has {', '.join(PLACES)}."}
    return {}


def unfilled_places(template: Template) -> list[str]:
    """Places of a template that no item of a feed can fill."""
    places = places_in(template.text, template.headline, template.first_comment)
    return [place for place in places if place.casefold() not in PLACES]
