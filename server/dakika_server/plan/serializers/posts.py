"""Shapes of planned posts and their versions."""

from typing import Any

from dakika_core.plan.content import FIELDS
from dakika_core.plan.states import State
from rest_framework import serializers

from dakika_server.links.serializers.making import short_address
from dakika_server.plan.models import Version

STATE_CHOICES = [s.value for s in State]
OWN_CHOICES = [*FIELDS, "time"]
NUMBER: Any = {"min_value": 1, "max_value": 2**63 - 1}


class VersionLinkSerializer(serializers.Serializer[Any]):
    """The tracked link of a version: what stands in the text, and the page it leads to."""

    id = serializers.IntegerField(source="pk")
    short = serializers.SerializerMethodField()
    destination = serializers.CharField()

    def get_short(self, link: Any) -> str:
        """Its short address."""
        return short_address(link)


class VersionSerializer(serializers.Serializer[Any]):
    """A version, whole, and what became of it. own: what of it differs from what is common."""

    id = serializers.IntegerField(source="pk")
    profile_id = serializers.IntegerField()
    profile = serializers.CharField(source="profile.name")
    network = serializers.CharField(source="profile.network")
    text = serializers.CharField(allow_blank=True)
    headline = serializers.CharField(allow_blank=True)
    first_comment = serializers.CharField(allow_blank=True)
    media = serializers.ListField(child=serializers.IntegerField())
    options = serializers.DictField(child=serializers.CharField())
    own = serializers.ListField(child=serializers.ChoiceField(choices=OWN_CHOICES))
    link_id = serializers.IntegerField(allow_null=True)
    link = VersionLinkSerializer(allow_null=True)
    due_at = serializers.DateTimeField(allow_null=True)
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    error = serializers.CharField(allow_blank=True)
    remedy = serializers.ChoiceField(choices=Version.Remedy.values, allow_blank=True)
    first_comment_state = serializers.ChoiceField(choices=Version.Said.values, allow_blank=True)
    first_comment_error = serializers.CharField(allow_blank=True)
    published_at = serializers.DateTimeField(allow_null=True)
    post_id = serializers.IntegerField(allow_null=True)


class PlannedPostSerializer(serializers.Serializer[Any]):
    """A planned post: what is common, and its versions."""

    id = serializers.IntegerField(source="pk")
    title = serializers.CharField(allow_blank=True)
    text = serializers.CharField(allow_blank=True)
    headline = serializers.CharField(allow_blank=True)
    first_comment = serializers.CharField(allow_blank=True)
    media = serializers.ListField(child=serializers.IntegerField())
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    scheduled_at = serializers.DateTimeField(allow_null=True)
    campaign_id = serializers.IntegerField(allow_null=True)
    campaign = serializers.CharField(source="campaign.name", default=None, allow_null=True)
    edition = serializers.IntegerField()
    note = serializers.CharField(allow_blank=True)
    from_post = serializers.IntegerField(
        source="from_post_id", allow_null=True, help_text="the post that gave the idea"
    )
    tags = serializers.ListField(child=serializers.IntegerField(), help_text="those it is to have when it is out")
    in_own_feed = serializers.BooleanField(help_text="whether it also appears in the brand's own feed")
    as_push = serializers.BooleanField(help_text="whether it is also sent to browsers as a message")
    from_idea = serializers.IntegerField(
        source="from_idea_id", allow_null=True, help_text="the idea that it was written from"
    )
    repetition = serializers.IntegerField(
        source="repetition_id", allow_null=True, help_text="the repetition that it was made by"
    )
    versions = VersionSerializer(many=True, source="versions.all")


class VersionInputSerializer(serializers.Serializer[Any]):
    """A version as written; what is null or left out is as it is in common."""

    profile_id = serializers.IntegerField(**NUMBER)
    text = serializers.CharField(
        required=False, allow_null=True, allow_blank=True, max_length=20_000, trim_whitespace=False
    )
    headline = serializers.CharField(required=False, allow_null=True, allow_blank=True, max_length=300)
    first_comment = serializers.CharField(
        required=False, allow_null=True, allow_blank=True, max_length=20_000, trim_whitespace=False
    )
    media = serializers.ListField(
        child=serializers.IntegerField(**NUMBER), required=False, allow_null=True, max_length=20
    )
    options = serializers.DictField(
        child=serializers.CharField(max_length=200, allow_blank=True), required=False, help_text="such as a board"
    )
    link_id = serializers.IntegerField(required=False, allow_null=True, **NUMBER)
    scheduled_at = serializers.DateTimeField(required=False, allow_null=True, help_text="a time of its own")

    def validate_options(self, given: dict[str, str]) -> dict[str, str]:
        """A few short ones."""
        if len(given) > 10 or any(len(key) > 40 for key in given):
            raise serializers.ValidationError("These are no options of a network.")
        return {key: value.replace("\x00", "") for key, value in given.items()}


class CommonSerializer(serializers.Serializer[Any]):
    """What versions have in common."""

    text = serializers.CharField(allow_blank=True, max_length=20_000, trim_whitespace=False, default="")
    headline = serializers.CharField(allow_blank=True, max_length=300, default="")
    first_comment = serializers.CharField(allow_blank=True, max_length=20_000, trim_whitespace=False, default="")
    media = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=20, default=list)


class PlannedPostInputSerializer(serializers.Serializer[Any]):
    """A planned post as written. `edition` is the one that was read, when it is changed.

    Without common the versions are written out whole, and the first text is the common one.
    """

    title = serializers.CharField(allow_blank=True, max_length=200, default="")
    scheduled_at = serializers.DateTimeField(required=False, allow_null=True)
    campaign_id = serializers.IntegerField(required=False, allow_null=True, **NUMBER)
    edition = serializers.IntegerField(required=False)
    tags = serializers.ListField(
        child=serializers.IntegerField(**NUMBER), required=False, allow_null=True, max_length=20,
        help_text="left out: as they are",
    )  # fmt: skip
    in_own_feed = serializers.BooleanField(required=False, allow_null=True, default=None, help_text="null: as it is")
    as_push = serializers.BooleanField(required=False, allow_null=True, default=None, help_text="null: as it is")
    common = CommonSerializer(required=False, allow_null=True)
    versions = VersionInputSerializer(many=True)


class ScheduleSerializer(serializers.Serializer[Any]):
    """When to publish; null is now, after seconds of grace. `edition` is the one that was read."""

    edition = serializers.IntegerField()
    scheduled_at = serializers.DateTimeField(allow_null=True)
    grace = serializers.IntegerField(min_value=0, max_value=3600, default=0, help_text="seconds")


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


class WritableBrandSerializer(serializers.Serializer[Any]):
    """A brand that one may write for."""

    slug = serializers.CharField()
    name = serializers.CharField()


class HandInputSerializer(serializers.Serializer[Any]):
    """Which brands a post is handed to."""

    brands = serializers.ListField(child=serializers.SlugField(), min_length=1, max_length=50)


class HandedSerializer(serializers.Serializer[Any]):
    """A draft of another brand."""

    brand = serializers.CharField(source="brand.slug")
    name = serializers.CharField(source="brand.name")
    id = serializers.IntegerField(source="pk")
