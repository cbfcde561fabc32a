"""What rules catch, and putting their tags on: a fixed number of statements, whatever the number of posts."""

import re
from typing import Any

from dakika_core.results.tag_rules import RuleKind
from dakika_core.results.tag_rules import TagRule as Rule
from dakika_core.values.numbers import whole_number
from django.db import connection
from django.db.models import F, Q, QuerySet, TextField
from django.db.models.functions import Cast

from dakika_server.results.models import TagRule
from dakika_server.sources.models import Post


def caught_by(rule: Rule) -> Q:
    """The posts that a rule catches, as a condition. Raises ValueError when the rule looks for nothing."""
    value = rule.cleaned
    match rule.kind:
        case RuleKind.TEXT:
            return Q(text__iregex=rule.pattern())
        case RuleKind.HASHTAG:
            # Hashtags are kept as written: the text of the array is compared, a tag in it standing between , { } and ".
            return Q(hashtags_text__iregex=rf'[{{,"]{re.escape(value)}[}},"]')
        case RuleKind.FORMAT:
            return Q(format=value)
    return Q(campaign_id=whole_number(value) or 0)


def catching(posts: QuerySet[Post], rule: Rule) -> QuerySet[Post]:
    """The posts among some that a rule catches."""
    return posts.annotate(hashtags_text=Cast(F("hashtags"), TextField())).filter(caught_by(rule))


_PUT_ON = """
INSERT INTO results_posttag (post_id, tag_id, rule_id, is_off) SELECT p.id, %s, %s, FALSE FROM ({posts}) p
ON CONFLICT (post_id, tag_id) DO NOTHING
"""


def apply_rules(brand_id: int, posts: QuerySet[Post], *, tag_id: int | None = None) -> int:
    """Put on what the brand's rules catch among some posts; a tag that somebody took off stays off."""
    rules = TagRule.objects.filter(tag__brand_id=brand_id).select_related("tag").order_by("pk")
    if tag_id is not None:
        rules = rules.filter(tag_id=tag_id)
    put_on = 0
    for rule in rules:
        wanted = Rule(kind=RuleKind(rule.kind), value=rule.value)
        found: QuerySet[Any] = catching(posts.filter(brand_id=brand_id), wanted)
        sql, parameters = found.order_by().values("id").query.sql_with_params()
        with connection.cursor() as cursor:
            cursor.execute(_PUT_ON.format(posts=sql), [rule.tag_id, rule.pk, *parameters])
            put_on += cursor.rowcount
    return put_on
