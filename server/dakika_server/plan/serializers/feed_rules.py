"""Shapes of rules for feeds."""

from typing import Any

from rest_framework import serializers

from dakika_server.plan.models import FeedRule, FeedRuleItem
from dakika_server.plan.serializers.posts import STATE_CHOICES

BECOMES = [kind.value for kind in FeedRule.Becomes]
MINUTES = 24 * 60


class FeedRuleContentSerializer(serializers.Serializer[Any]):
    """A rule as somebody writes it. quiet_from and quiet_to: by the brand's clock, both or none."""

    name = serializers.CharField(max_length=80)
    feed = serializers.IntegerField()
    becomes = serializers.ChoiceField(choices=BECOMES)
    template = serializers.IntegerField(allow_null=True, default=None)
    profiles = serializers.ListField(child=serializers.IntegerField(), max_length=50, default=list)
    campaign = serializers.IntegerField(allow_null=True, default=None)
    group = serializers.IntegerField(allow_null=True, default=None)
    any_of = serializers.ListField(child=serializers.CharField(max_length=80), max_length=50, default=list)
    none_of = serializers.ListField(child=serializers.CharField(max_length=80), max_length=50, default=list)
    most_a_day = serializers.IntegerField(min_value=1, max_value=50, default=3)
    minutes_after = serializers.IntegerField(min_value=0, max_value=MINUTES, default=0)
    minutes_apart = serializers.IntegerField(min_value=0, max_value=MINUTES, default=60)
    quiet_from = serializers.TimeField(allow_null=True, default=None)
    quiet_to = serializers.TimeField(allow_null=True, default=None)
    makes_links = serializers.BooleanField(default=True)
    is_on = serializers.BooleanField(default=True)


class FeedRuleChangeSerializer(FeedRuleContentSerializer):
    """The same, of the edition that was read."""

    edition = serializers.IntegerField()


class FeedRuleSerializer(serializers.Serializer[Any]):
    """A rule. acts_as: whose permissions it has; made, waiting: posts and ideas of the last 30 days, and to go out."""

    id = serializers.IntegerField()
    edition = serializers.IntegerField()
    name = serializers.CharField()
    feed = serializers.IntegerField(source="feed_id")
    feed_title = serializers.CharField(source="feed.title")
    becomes = serializers.ChoiceField(choices=BECOMES)
    template = serializers.IntegerField(source="template_id", allow_null=True)
    profiles = serializers.ListField(child=serializers.IntegerField())
    campaign = serializers.IntegerField(source="campaign_id", allow_null=True)
    group = serializers.IntegerField(source="group_id", allow_null=True)
    any_of = serializers.ListField(child=serializers.CharField())
    none_of = serializers.ListField(child=serializers.CharField())
    most_a_day = serializers.IntegerField()
    minutes_after = serializers.IntegerField()
    minutes_apart = serializers.IntegerField()
    quiet_from = serializers.TimeField(allow_null=True, format="%H:%M")
    quiet_to = serializers.TimeField(allow_null=True, format="%H:%M")
    makes_links = serializers.BooleanField()
    is_on = serializers.BooleanField()
    problem = serializers.CharField(allow_blank=True)
    acts_as = serializers.CharField(source="made_by.name", default="")
    made = serializers.IntegerField()
    left_out = serializers.IntegerField()
    failed = serializers.IntegerField()
    waiting = serializers.IntegerField()


class FeedRuleItemSerializer(serializers.Serializer[Any]):
    """What became of an item. state: of its post, null where there is none (any more)."""

    id = serializers.IntegerField()
    title = serializers.CharField(source="item.title", allow_blank=True)
    address = serializers.CharField(source="item.address", allow_blank=True)
    published_at = serializers.DateTimeField(source="item.published_at", allow_null=True)
    outcome = serializers.ChoiceField(choices=[kind.value for kind in FeedRuleItem.Outcome])
    reason = serializers.CharField(allow_blank=True)
    post = serializers.IntegerField(source="planned_post_id", allow_null=True)
    state = serializers.ChoiceField(
        choices=STATE_CHOICES, source="planned_post.state", allow_null=True, default=None
    )  # fmt: skip
    at = serializers.DateTimeField(allow_null=True)
    decided_at = serializers.DateTimeField()


class FeedRuleItemPageSerializer(serializers.Serializer[Any]):
    """A page of them, the newest first."""

    items = FeedRuleItemSerializer(many=True)
    next = serializers.CharField(allow_null=True)


class FeedRuleItemQuerySerializer(serializers.Serializer[Any]):
    """Which page."""

    cursor = serializers.CharField(required=False)
    limit = serializers.IntegerField(min_value=1, max_value=100, default=25)


class FeedRuleWordsSerializer(serializers.Serializer[Any]):
    """What a profile would get, and what its network says to that."""

    profile = serializers.IntegerField()
    text = serializers.CharField(allow_blank=True)
    count = serializers.IntegerField()
    limit = serializers.IntegerField()
    problems = serializers.ListField(child=serializers.CharField())


class FeedRuleTriedSerializer(serializers.Serializer[Any]):
    """What would become of an item, were it new now. reason: why nothing."""

    title = serializers.CharField(allow_blank=True)
    published_at = serializers.DateTimeField(allow_null=True)
    reason = serializers.CharField(allow_blank=True)
    at = serializers.DateTimeField(allow_null=True)
    words = FeedRuleWordsSerializer(many=True)


class FeedRulePreviewSerializer(serializers.Serializer[Any]):
    """A rule tried on the feed's newest items, as if they came now. items_a_day: how many came in the last 30 days."""

    items = FeedRuleTriedSerializer(many=True)
    items_a_day = serializers.FloatField()


class FeedRuleRemovalSerializer(serializers.Serializer[Any]):
    """Whether what it made and what waits to go out goes with it."""

    takes_back = serializers.BooleanField(default=False)


class FeedRuleRemovedSerializer(serializers.Serializer[Any]):
    """How many posts were taken back."""

    posts = serializers.IntegerField()
