"""Rules by which items of a feed become ideas, drafts or posts."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.brands.models import Brand, Campaign
from dakika_server.plan.models.ideas import IdeaGroup, Template
from dakika_server.plan.models.posts import PlannedPost
from dakika_server.sources.models import Feed, FeedItem


class FeedRule(models.Model):
    """What becomes of a feed's new items. It acts as whoever wrote it last, and only while they may.

    since: items that were there before are left alone. problem: why it stopped by itself.
    """

    class Becomes(models.TextChoices):
        """What an item becomes."""

        IDEA = "idea"
        DRAFT = "draft"
        SCHEDULED = "scheduled"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="feed_rules", db_index=False)
    feed = models.ForeignKey(Feed, on_delete=models.CASCADE, related_name="rules")
    name = models.CharField(max_length=80)
    becomes = models.CharField(max_length=10, choices=Becomes.choices)
    template = models.ForeignKey(Template, on_delete=models.PROTECT, null=True, related_name="feed_rules")
    profiles = ArrayField(models.BigIntegerField(), default=list)
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, related_name="+")
    group = models.ForeignKey(IdeaGroup, on_delete=models.SET_NULL, null=True, related_name="+")
    any_of = ArrayField(models.CharField(max_length=80), default=list, help_text="an item has to say one of them")
    none_of = ArrayField(models.CharField(max_length=80), default=list, help_text="an item may say none of them")
    most_a_day = models.PositiveSmallIntegerField(default=3)
    minutes_after = models.PositiveIntegerField(default=0, help_text="how long after it was seen at the earliest")
    minutes_apart = models.PositiveIntegerField(default=60)
    quiet_from = models.TimeField(null=True, help_text="by the brand's clock")
    quiet_to = models.TimeField(null=True)
    makes_links = models.BooleanField(default=True)
    is_on = models.BooleanField(default=True)
    problem = models.CharField(max_length=300, blank=True)
    since = models.DateTimeField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    edition = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="one_feed_rule_per_name")]

    def __str__(self) -> str:
        return self.name


class FeedRuleItem(models.Model):
    """What became of an item by a rule, once and for all. reason: why nothing, or why less than was asked for.

    at: when its post was set to go out, or when the idea was kept.
    """

    class Outcome(models.TextChoices):
        """What became of it."""

        MADE = "made"
        LEFT_OUT = "left_out"
        FAILED = "failed"

    rule = models.ForeignKey(FeedRule, on_delete=models.CASCADE, related_name="items", db_index=False)
    item = models.ForeignKey(FeedItem, on_delete=models.CASCADE, related_name="+")
    outcome = models.CharField(max_length=8, choices=Outcome.choices)
    reason = models.CharField(max_length=300, blank=True)
    planned_post = models.ForeignKey(PlannedPost, on_delete=models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField(null=True)
    decided_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["rule", "item"], name="item_once_per_rule")]
        indexes = [models.Index(fields=["rule", "-decided_at", "-id"], name="feed_rule_item_by_time")]

    def __str__(self) -> str:
        return f"{self.outcome} {self.item_id}"
