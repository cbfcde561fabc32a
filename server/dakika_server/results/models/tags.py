"""Tags: our own grouping of posts, set by hand or by rule."""

from dakika_core.results.tag_rules import RuleKind
from django.conf import settings
from django.db import models
from django.db.models import Q
from django.db.models.functions import Lower

from dakika_server.brands.models import Brand
from dakika_server.sources.models import Post


class Tag(models.Model):
    """A tag of a brand; its colour is a number of the palette."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="tags")
    name = models.CharField(max_length=60)
    colour = models.PositiveSmallIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint("brand", Lower("name"), name="tag_name_once")]

    def __str__(self) -> str:
        return self.name


class TagRule(models.Model):
    """What a tag catches by itself, now and whenever posts come in."""

    tag = models.ForeignKey(Tag, on_delete=models.CASCADE, related_name="rules", db_index=False)
    kind = models.CharField(max_length=10, choices=[(k.value, k.value) for k in RuleKind])
    value = models.CharField(max_length=200)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["tag", "kind", "value"], name="rule_once_per_tag")]

    def __str__(self) -> str:
        return f"{self.kind} {self.value}"


class PostTag(models.Model):
    """A tag on a post. One that somebody took off stays as such, so that no rule puts it on again."""

    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="post_tags", db_index=False)
    tag = models.ForeignKey(Tag, on_delete=models.CASCADE, related_name="post_tags")
    rule = models.ForeignKey(TagRule, on_delete=models.SET_NULL, null=True, help_text="NULL: set by hand")
    is_off = models.BooleanField(default=False)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "tag"], name="tag_once_per_post")]
        indexes = [models.Index(fields=["tag", "post"], name="post_by_tag", condition=Q(is_off=False))]

    def __str__(self) -> str:
        return f"{self.tag_id} on {self.post_id}"
