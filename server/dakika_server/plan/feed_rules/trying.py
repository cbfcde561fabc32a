"""A rule tried on the newest items of its feed before it acts, and rules as they are listed."""

from datetime import datetime, timedelta
from typing import Any

from dakika_core.plan.feed_rules import is_wanted
from django.db.models import Count, Q, QuerySet

from dakika_server.brands.models import Brand
from dakika_server.networks.definitions import network_name
from dakika_server.plan.content import check_content
from dakika_server.plan.feed_rules.keeping import WAITING, FeedRuleContent, checked
from dakika_server.plan.feed_rules.running import NEWS_FOR, profiles_of, time_for, words_for
from dakika_server.plan.models import FeedRule, FeedRuleItem
from dakika_server.shared import clock
from dakika_server.sources.models import FeedItem

TRIED, DAYS = 5, 30


def rules_with_counts(brand: Brand) -> QuerySet[FeedRule]:
    """All rules of a brand by name, with what they did in the last thirty days and what waits to go out."""
    since = clock.now() - timedelta(days=DAYS)
    told = {
        kind.value: Count("items", filter=Q(items__outcome=kind.value, items__decided_at__gte=since))
        for kind in FeedRuleItem.Outcome
    }
    waiting = Count("items", filter=Q(items__planned_post__state__in=WAITING))
    rules = FeedRule.objects.filter(brand=brand).select_related("feed", "made_by").order_by("name")
    return rules.annotate(**told, waiting=waiting)


def try_feed_rule(brand: Brand, content: FeedRuleContent) -> dict[str, Any]:
    """What would become of the feed's five newest items, did they come now one after the other.

    Raises field errors as keeping the rule does.
    """
    rule = FeedRule(brand=brand, since=clock.now(), **checked(brand, content))
    now, found = clock.now(), []
    taken: list[datetime] = []
    items = FeedItem.objects.filter(brand=brand, feed=rule.feed_id)
    profiles = profiles_of(rule)
    for item in items.order_by("-published_at", "-pk")[:TRIED]:
        is_for_it = is_wanted(f"{item.title}\n{item.summary}", any_of=rule.any_of, none_of=rule.none_of)
        is_idea = rule.becomes == FeedRule.Becomes.IDEA
        at = time_for(rule, now, now + NEWS_FOR, taken) if is_for_it and not is_idea else None
        if at is not None:
            taken.append(at)
        reason = "" if is_for_it else "Its words are not those asked for."
        if is_for_it and at is None and not is_idea:
            reason = "Others took its times: until it would be its turn it would be no news any more."
        words = [] if reason or is_idea else _words(rule, item, profiles)
        found.append({
            "title": item.title, "published_at": item.published_at, "reason": reason, "at": at, "words": words,
        })  # fmt: skip
    lately = items.filter(seen_at__gte=now - timedelta(days=DAYS), published_at__gte=now - timedelta(days=DAYS))
    return {"items": found, "items_a_day": lately.count() / DAYS}


def _words(rule: FeedRule, item: FeedItem, profiles: list[Any]) -> list[dict[str, Any]]:
    written = words_for(rule, item, profiles)
    found = []
    for profile in profiles:
        text = written.own.get(profile.pk, written.text)
        values = {"text": text, "headline": written.headline, "first_comment": written.first_comment}
        check = check_content(profile, values, {})
        problems = [f"{network_name(profile.network)}: {one.message}" for one in check.problems if one.is_blocking]
        found.append({
            "profile": profile.pk, "text": text, "count": check.count, "limit": check.limit,
            "problems": problems,
        })  # fmt: skip
    return found
