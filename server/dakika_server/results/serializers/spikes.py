"""Shapes of days that stand out."""

from typing import Any

from rest_framework import serializers

from dakika_server.figures.study import StudySerializer


def without_nan(made: dict[str, Any]) -> dict[str, Any]:
    """Values as JSON knows them: what is no number is missing."""
    return {k: None if isinstance(v, float) and v != v else v for k, v in made.items()}


class SpikesQuerySerializer(StudySerializer):
    """Of which metric."""

    metric = serializers.CharField(max_length=60)


class BehindQuerySerializer(SpikesQuerySerializer):
    """Which day."""

    day = serializers.DateField()


class SpikeSerializer(serializers.Serializer[Any]):
    """A day that stands out; z in robust standard deviations, negative for a dip."""

    day = serializers.DateField()
    value = serializers.FloatField(source="spike.value")
    level = serializers.FloatField(source="spike.level", allow_null=True)
    z = serializers.FloatField(source="spike.z", allow_null=True)
    by = serializers.ChoiceField(choices=["total", "post"], help_text="what stands out: the day's total, or a post")

    def to_representation(self, instance: Any) -> Any:
        """Where there are too few days around to tell a level, it is missing."""
        return without_nan(super().to_representation(instance))


class SpikesSerializer(serializers.Serializer[Any]):
    """All of them; is_by_day says whether the metric has such days at all."""

    is_by_day = serializers.BooleanField()
    behind = serializers.ChoiceField(choices=["posts", "links"], help_text="what a day is opened to")
    spikes = SpikeSerializer(many=True)


class PostShareSerializer(serializers.Serializer[Any]):
    """A post behind a day."""

    id = serializers.IntegerField(source="post.pk")
    text = serializers.SerializerMethodField()
    published_at = serializers.DateTimeField(source="post.published_at")
    has_time = serializers.BooleanField(source="post.has_time")
    network = serializers.CharField(source="post.profile.network")
    format = serializers.CharField(source="post.format")
    brought = serializers.FloatField()
    usual = serializers.FloatField()
    share = serializers.FloatField()

    def get_text(self, share: Any) -> str:
        """The beginning of the text."""
        return str(share.post.text[:200])


class ProfileExcessSerializer(serializers.Serializer[Any]):
    """People that a profile gained or lost on the day, and its usual."""

    id = serializers.IntegerField(source="profile.pk")
    name = serializers.CharField(source="profile.name")
    network = serializers.CharField(source="profile.network")
    value = serializers.FloatField()
    usual = serializers.FloatField()


class UnusualSerializer(serializers.Serializer[Any]):
    """A post of the day far above its typical."""

    id = serializers.IntegerField(source="post.pk")
    text = serializers.SerializerMethodField()
    index = serializers.FloatField()

    def get_text(self, one: Any) -> str:
        """The beginning of the text."""
        return str(one.post.text[:200])


class BehindSerializer(serializers.Serializer[Any]):
    """What is behind a day."""

    day = serializers.DateField()
    value = serializers.FloatField(source="spike.value", allow_null=True)
    level = serializers.FloatField(source="spike.level", allow_null=True)
    z = serializers.FloatField(source="spike.z", allow_null=True)
    is_spike = serializers.BooleanField()
    is_explained = serializers.BooleanField(source="explanation.is_explained")
    explained = serializers.FloatField(source="explanation.share")
    posts = PostShareSerializer(many=True)
    published = serializers.IntegerField()
    usually_published = serializers.FloatField()
    unusual = UnusualSerializer(many=True)
    profiles = ProfileExcessSerializer(many=True, help_text="those that gained or lost more than usual")
    told = serializers.ChoiceField(
        choices=["interactions", "negative"], allow_blank=True, help_text="what speaks for a post, of followers"
    )

    def to_representation(self, instance: Any) -> Any:
        """NaN, where there is no level, goes out as missing."""
        return without_nan(super().to_representation(instance))
