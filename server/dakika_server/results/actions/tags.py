"""Changes to tags."""

from collections.abc import Sequence
from typing import Any

from dakika_core.results.tag_rules import RuleKind
from dakika_core.results.tag_rules import TagRule as Rule
from dakika_core.values.numbers import whole_number
from django.db import IntegrityError, connection, transaction
from django.db.models.functions import Lower
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.results.models import PostTag, Tag, TagRule
from dakika_server.results.tagging import apply_rules, caught_by
from dakika_server.shared import audit
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Post

COLOURS = 8
MOST_TAGS = 300


def add_tag(actor: Any, brand: Brand, *, name: str, colour: int) -> Tag:
    """Make a tag. Raises ValidationError for a name that is empty or taken (in any case of letters)."""
    require(actor, brand, "results.tag")
    if Tag.objects.filter(brand=brand).count() >= MOST_TAGS:
        raise field_errors({"name": f"A brand has at most {MOST_TAGS} tags. Merge some first."})
    with transaction.atomic():
        tag = _saved(Tag(brand=brand, name=_cleaned(name), colour=colour))
        audit.record(actor, "add_tag", tag, brand_id=brand.pk)
    return tag


def change_tag(actor: Any, brand: Brand, tag_id: int, *, name: str, colour: int) -> Tag:
    """Rename a tag or give it another colour. Raises Http404, ValidationError when the name is taken."""
    require(actor, brand, "results.tag")
    with transaction.atomic():
        (tag,) = _held(brand, tag_id)
        tag.name, tag.colour = _cleaned(name), colour
        _saved(tag)
        audit.record(actor, "change_tag", tag, brand_id=brand.pk)
    return tag


def remove_tag(actor: Any, brand: Brand, tag_id: int) -> None:
    """Take a tag away from everywhere."""
    require(actor, brand, "results.tag")
    with transaction.atomic():
        (tag,) = _held(brand, tag_id)
        audit.record(actor, "remove_tag", tag, brand_id=brand.pk, name=tag.name)
        tag.delete()


_MERGE = """
INSERT INTO results_posttag (post_id, tag_id, rule_id, is_off, by_id)
SELECT post_id, %(into)s, NULL, FALSE, by_id FROM results_posttag WHERE tag_id = %(tag)s AND NOT is_off
ON CONFLICT (post_id, tag_id) DO UPDATE SET is_off = FALSE
"""


def merge_tag(actor: Any, brand: Brand, tag_id: int, *, into: int) -> Tag:
    """Give another tag all posts and rules of this one, which is gone afterwards. Raises Http404."""
    require(actor, brand, "results.tag")
    if tag_id == into:
        raise field_errors({"into": "A tag cannot be merged into itself."})
    with transaction.atomic():
        tag, target = _held(brand, tag_id, into)
        with connection.cursor() as cursor:
            cursor.execute(_MERGE, {"into": target.pk, "tag": tag.pk})
        known = set(TagRule.objects.filter(tag=target).values_list("kind", "value"))
        for rule in TagRule.objects.filter(tag=tag):
            if (rule.kind, rule.value) not in known:
                rule.tag = target
                rule.save(update_fields=["tag"])
        audit.record(actor, "merge_tag", target, brand_id=brand.pk, merged=tag.name)
        tag.delete()
    return target


def tag_posts(
    actor: Any, brand: Brand, *, posts: Sequence[int], add: Sequence[str] = (), take_off: Sequence[int] = ()
) -> int:
    """Put tags on posts and take others off, all at once. Returns how many posts changed.

    A name that is no tag yet becomes one. Posts of somebody else are passed over: what one may not
    see is not there.
    """
    require(actor, brand, "results.tag")
    with transaction.atomic():
        ids = list(Post.objects.filter(brand=brand, pk__in=posts).values_list("pk", flat=True))
        changed: set[int] = set()
        for tag in [_named(actor, brand, name) for name in dict.fromkeys(add)]:
            on = set(PostTag.objects.filter(tag=tag, post__in=ids, is_off=False).values_list("post_id", flat=True))
            PostTag.objects.bulk_create(
                [PostTag(post_id=pk, tag=tag, by=actor) for pk in ids if pk not in on],
                update_conflicts=True, unique_fields=["post", "tag"], update_fields=["is_off", "rule", "by"],
            )  # fmt: skip
            changed |= set(ids) - on
        off = PostTag.objects.filter(tag__brand=brand, tag__in=take_off, post__in=ids, is_off=False)
        changed |= set(off.values_list("post_id", flat=True))
        off.update(is_off=True, by=actor)
        audit.record(actor, "tag_posts", brand, brand_id=brand.pk, posts=len(ids), changed=len(changed))
    return len(changed)


def add_rule(actor: Any, brand: Brand, tag_id: int, *, kind: str, value: str) -> tuple[TagRule, int]:
    """Give a tag a rule and put it on what the rule catches; returns how many posts got it."""
    require(actor, brand, "results.tag")
    rule = checked_rule(brand, kind, value)
    with transaction.atomic():
        (tag,) = _held(brand, tag_id)
        try:
            with transaction.atomic():
                kept = TagRule.objects.create(tag=tag, kind=rule.kind.value, value=rule.cleaned)
        except IntegrityError:
            raise field_errors({"value": "The tag has this rule already."}) from None
        put_on = apply_rules(brand.pk, Post.objects.filter(brand=brand), tag_id=tag.pk)
        audit.record(actor, "add_rule", kept, brand_id=brand.pk, caught=put_on)
    return kept, put_on


def remove_rule(actor: Any, brand: Brand, tag_id: int, rule_id: int, *, keeps_posts: bool) -> None:
    """Take a rule away; the posts that it tagged keep the tag or lose it."""
    require(actor, brand, "results.tag")
    with transaction.atomic():
        rule = TagRule.objects.filter(tag__in=_held(brand, tag_id), pk=rule_id).first()
        if rule is None:
            raise Http404
        if not keeps_posts:
            PostTag.objects.filter(rule=rule).delete()
        audit.record(actor, "remove_rule", rule, brand_id=brand.pk)
        rule.delete()


def checked_rule(brand: Brand, kind: str, value: str) -> Rule:
    """A rule that looks for something. Raises ValidationError where it does not."""
    rule = Rule(kind=RuleKind(kind), value=value.replace("\x00", ""))
    try:
        rule.cleaned  # noqa: B018
        caught_by(rule)
    except ValueError as error:
        raise field_errors({"value": str(error)}) from None
    if rule.kind is RuleKind.CAMPAIGN and not brand.campaigns.filter(pk=whole_number(value) or 0).exists():
        raise field_errors({"value": "There is no such campaign."})
    return rule


def _held(brand: Brand, *ids: int) -> list[Tag]:
    """Tags of the brand, which nobody else changes until the transaction ends. Raises Http404 when one is gone.

    Always in the same order, so that two who merge crosswise wait for each other and do not block each other.
    """
    found = {tag.pk: tag for tag in Tag.objects.select_for_update().filter(brand=brand, pk__in=ids).order_by("pk")}
    if set(found) != set(ids):
        raise Http404
    return [found[pk] for pk in ids]


def tag_of(brand: Brand, tag_id: int) -> Tag:
    """A tag of the brand. Raises Http404."""
    tag = Tag.objects.filter(brand=brand, pk=tag_id).first()
    if tag is None:
        raise Http404
    return tag


def _named(actor: Any, brand: Brand, name: str) -> Tag:
    cleaned = _cleaned(name)
    found = Tag.objects.filter(brand=brand).annotate(lower=Lower("name")).filter(lower=cleaned.lower()).first()
    return found or add_tag(actor, brand, name=cleaned, colour=1 + Tag.objects.filter(brand=brand).count() % COLOURS)


def _cleaned(name: str) -> str:
    name = " ".join(name.replace("\x00", "").split())
    if not name:
        raise field_errors({"name": "Give the tag a name."})
    return name


def _saved(tag: Tag) -> Tag:
    try:
        with transaction.atomic():
            tag.save()
    except IntegrityError:
        raise field_errors({"name": "There is a tag of this name already. Merge them instead."}) from None
    return tag
