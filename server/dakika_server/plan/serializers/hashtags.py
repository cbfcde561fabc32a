"""Shapes of hashtags."""

from typing import Any

from rest_framework import serializers

from dakika_server.plan.models.hashtags import LONGEST_TAG
from dakika_server.plan.serializers.posts import NUMBER


class HashtagSetInputSerializer(serializers.Serializer[Any]):
    """Hashtags that are put in together. network: for which one, empty is any."""

    name = serializers.CharField(max_length=60)
    tags = serializers.ListField(child=serializers.CharField(max_length=LONGEST_TAG), min_length=1, max_length=60)
    network = serializers.CharField(max_length=40, allow_blank=True, default="")


class HashtagSetSerializer(HashtagSetInputSerializer):
    """The same as it is kept."""

    id = serializers.IntegerField()


class HashtagWordSerializer(serializers.Serializer[Any]):
    """A hashtag, with its sign or without."""

    tag = serializers.CharField(max_length=LONGEST_TAG)


class HashtagQuerySerializer(serializers.Serializer[Any]):
    """What is written, for which profiles, and what stands in the tray."""

    text = serializers.CharField(max_length=20_000, allow_blank=True, default="", trim_whitespace=False)
    profiles = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=50, default=list)
    chosen = serializers.ListField(child=serializers.CharField(max_length=LONGEST_TAG), max_length=60, default=list)


class HashtagResultSerializer(serializers.Serializer[Any]):
    """Posts with a hashtag against the others of the same profiles and formats; times, with its 95 % interval."""

    posts = serializers.IntegerField()
    index = serializers.FloatField(allow_null=True)
    verdict = serializers.ChoiceField(choices=["better", "worse", "open", "few"])
    times = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)


class HashtagWearSerializer(serializers.Serializer[Any]):
    """Its latest uses against those before them; is_worn: they do worse, beyond chance over all that are judged."""

    times = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()
    recent = serializers.IntegerField()
    earlier = serializers.IntegerField()
    is_worn = serializers.BooleanField()


class HashtagSeenSerializer(serializers.Serializer[Any]):
    """What a network told of it. uses null: nobody uses it there; problem: why it told nothing."""

    network = serializers.CharField()
    at = serializers.DateTimeField()
    uses = serializers.IntegerField(allow_null=True)
    week = serializers.IntegerField(allow_null=True)
    warm = serializers.FloatField(allow_null=True)
    cold = serializers.FloatField(allow_null=True)
    is_restricted = serializers.BooleanField()
    problem = serializers.CharField(allow_blank=True)


class HashtagSerializer(serializers.Serializer[Any]):
    """A hashtag and all that is known of it. likeness: how like its posts are to the text (cosine)."""

    tag = serializers.CharField()
    likeness = serializers.FloatField(allow_null=True)
    own = HashtagResultSerializer(allow_null=True)
    field = HashtagResultSerializer(allow_null=True, source="of_field")
    wear = HashtagWearSerializer(allow_null=True)
    seen = HashtagSeenSerializer(many=True)


class HashtagReasonsSerializer(serializers.Serializer[Any]):
    """Hashtags by why they are proposed."""

    text = serializers.ListField(child=serializers.CharField())
    own = serializers.ListField(child=serializers.CharField())
    field = serializers.ListField(child=serializers.CharField())
    similar = serializers.ListField(child=serializers.CharField())


class HashtagProposalsSerializer(serializers.Serializer[Any]):
    """Proposals. is_asked: more is being asked of the networks now."""

    by_why = HashtagReasonsSerializer()
    days = serializers.IntegerField()
    posts = serializers.IntegerField()
    posts_of_field = serializers.IntegerField()
    is_asked = serializers.BooleanField()
    tags = HashtagSerializer(many=True)


class FollowedHashtagsSerializer(serializers.Serializer[Any]):
    """Those that are followed. is_asked: more is being asked of the networks now."""

    is_asked = serializers.BooleanField()
    tags = HashtagSerializer(many=True)


class HashtagMonthSerializer(serializers.Serializer[Any]):
    """Posts of a month that carry it."""

    month = serializers.DateField()
    posts = serializers.IntegerField()
    index = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)


class HashtagUseSerializer(serializers.Serializer[Any]):
    """How much it was used on a network when it was asked."""

    network = serializers.CharField()
    at = serializers.DateTimeField()
    uses = serializers.IntegerField()
    week = serializers.IntegerField(allow_null=True)


class HashtagCourseSerializer(serializers.Serializer[Any]):
    """One over time."""

    tag = serializers.CharField(allow_blank=True)
    own = HashtagMonthSerializer(many=True)
    field = HashtagMonthSerializer(many=True)
    readings = HashtagUseSerializer(many=True)
