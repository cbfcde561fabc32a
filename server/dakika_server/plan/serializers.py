"""Shapes of the plan."""

from typing import Any

from dakika_core.plan.states import State
from rest_framework import serializers

STATE_CHOICES = [s.value for s in State]


class VersionSerializer(serializers.Serializer[Any]):
    """A version and what became of it."""

    id = serializers.IntegerField(source="pk")
    profile_id = serializers.IntegerField()
    profile = serializers.CharField(source="profile.name")
    network = serializers.CharField(source="profile.network")
    text = serializers.CharField(allow_blank=True)
    link_id = serializers.IntegerField(allow_null=True)
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    error = serializers.CharField(allow_blank=True)
    published_at = serializers.DateTimeField(allow_null=True)
    post_id = serializers.IntegerField(allow_null=True)


class PlannedPostSerializer(serializers.Serializer[Any]):
    """A planned post."""

    id = serializers.IntegerField(source="pk")
    title = serializers.CharField(allow_blank=True)
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    scheduled_at = serializers.DateTimeField(allow_null=True)
    campaign_id = serializers.IntegerField(allow_null=True)
    campaign = serializers.CharField(source="campaign.name", default=None, allow_null=True)
    edition = serializers.IntegerField()
    note = serializers.CharField(allow_blank=True)
    from_post = serializers.IntegerField(
        source="from_post_id", allow_null=True, help_text="the post that gave the idea"
    )
    versions = VersionSerializer(many=True, source="versions.all")


class IdeaSerializer(serializers.Serializer[Any]):
    """A post that gives an idea, and what there is to say of it."""

    post = serializers.IntegerField(min_value=1, max_value=2**63 - 1)
    note = serializers.CharField(allow_blank=True, max_length=2000, default="")


class VersionInputSerializer(serializers.Serializer[Any]):
    """A version as written."""

    profile_id = serializers.IntegerField()
    text = serializers.CharField(allow_blank=True, max_length=20_000, trim_whitespace=False)
    link_id = serializers.IntegerField(required=False, allow_null=True)


class PlannedPostInputSerializer(serializers.Serializer[Any]):
    """A planned post as written. `edition` is the one that was read, when it is changed."""

    title = serializers.CharField(allow_blank=True, max_length=200, default="")
    scheduled_at = serializers.DateTimeField(required=False, allow_null=True)
    campaign_id = serializers.IntegerField(required=False, allow_null=True)
    edition = serializers.IntegerField(required=False)
    versions = VersionInputSerializer(many=True)


class ScheduleSerializer(serializers.Serializer[Any]):
    """When to publish; null is now. `edition` is the one that was read."""

    edition = serializers.IntegerField()
    scheduled_at = serializers.DateTimeField(allow_null=True)


class MoveSerializer(serializers.Serializer[Any]):
    """Another time. `edition` is the one that was read."""

    edition = serializers.IntegerField()
    scheduled_at = serializers.DateTimeField()


class FillSerializer(serializers.Serializer[Any]):
    """Whose standing slots are to be filled with drafts, for how many days ahead."""

    profiles = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=2**63 - 1), min_length=1, max_length=20
    )
    days = serializers.IntegerField(min_value=1, max_value=60)


class FilledSerializer(serializers.Serializer[Any]):
    """How many drafts were made."""

    drafts = serializers.IntegerField()


class PlanQuerySerializer(serializers.Serializer[Any]):
    """Which days of the calendar, both included."""

    first = serializers.DateField()
    last = serializers.DateField()


class CalendarPostSerializer(serializers.Serializer[Any]):
    """A post that was published, beside the planned ones."""

    id = serializers.IntegerField()
    at = serializers.DateTimeField()
    network = serializers.CharField()
    text = serializers.CharField(allow_blank=True)
    index = serializers.FloatField(allow_null=True)


class PlanSerializer(serializers.Serializer[Any]):
    """A span of the calendar, and the drafts without a time."""

    planned = PlannedPostSerializer(many=True)
    drafts = PlannedPostSerializer(many=True)
    published = CalendarPostSerializer(many=True)


class CheckInputSerializer(serializers.Serializer[Any]):
    """Texts to be checked as they are typed."""

    versions = VersionInputSerializer(many=True)


class TextProblemSerializer(serializers.Serializer[Any]):
    """Something about a text."""

    code = serializers.CharField()
    message = serializers.CharField()
    is_blocking = serializers.BooleanField()


class CheckSerializer(serializers.Serializer[Any]):
    """A text held against its network's rules."""

    profile_id = serializers.IntegerField()
    count = serializers.IntegerField()
    limit = serializers.IntegerField()
    problems = TextProblemSerializer(many=True)
