"""Shapes of profiles, runs, health."""

from typing import Any

from rest_framework import serializers

from dakika_server.shared.plain import PlainSerializer

RUN_STATES = ["waiting", "running", "complete", "partial", "failed"]


def picture_address(path: str) -> str:
    """Pictures are served by the networks."""
    from django.conf import settings

    return f"{settings.STANDINS_ADDRESS}{path}" if path.startswith("/") else path


class ProfileSerializer(PlainSerializer):
    """A followed profile and how its collection stands."""

    id = serializers.IntegerField(source="pk")
    network = serializers.CharField()
    handle = serializers.CharField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(choices=["own", "competitor"])
    competitor = serializers.CharField(source="competitor.name", default=None, allow_null=True)
    competitor_id = serializers.IntegerField(allow_null=True)
    picture = serializers.SerializerMethodField()
    is_from_file = serializers.BooleanField()
    followers = serializers.IntegerField(allow_null=True)
    post_count = serializers.IntegerField()
    last_post_at = serializers.DateTimeField(allow_null=True)
    last_state = serializers.ChoiceField(choices=RUN_STATES, allow_null=True)
    last_message = serializers.CharField(allow_null=True)
    last_success_at = serializers.DateTimeField(allow_null=True)
    next_run_at = serializers.DateTimeField(allow_null=True)
    has_history = serializers.SerializerMethodField()
    authorisation = serializers.SerializerMethodField()

    def get_picture(self, profile: Any) -> str:
        """Address of the picture."""
        return picture_address(profile.picture)

    def get_has_history(self, profile: Any) -> bool:
        """Whether everything older was brought."""
        return profile.history_done_at is not None

    def get_authorisation(self, profile: Any) -> str:
        """valid, lapsed, missing, or not needed for public and imported profiles."""
        if profile.kind != "own" or profile.is_from_file:
            return "not_needed"
        if profile.credential is None:
            return "missing"
        return "lapsed" if profile.credential.is_lapsed else "valid"


class RunSerializer(PlainSerializer):
    """A collection run."""

    id = serializers.IntegerField(source="pk")
    profile_id = serializers.IntegerField()
    profile = serializers.CharField(source="profile.name")
    network = serializers.CharField(source="profile.network")
    state = serializers.ChoiceField(choices=RUN_STATES)
    step = serializers.CharField(allow_blank=True)
    asked_at = serializers.DateTimeField()
    started_at = serializers.DateTimeField(allow_null=True)
    ended_at = serializers.DateTimeField(allow_null=True)
    resume_at = serializers.DateTimeField(allow_null=True)
    posts_seen = serializers.IntegerField()
    posts_new = serializers.IntegerField()
    readings_new = serializers.IntegerField()
    comments_new = serializers.IntegerField()
    requests = serializers.IntegerField()
    slow = serializers.IntegerField()
    refused = serializers.IntegerField()
    calls_left = serializers.IntegerField(allow_null=True)
    message = serializers.CharField(allow_blank=True)
    missing = serializers.CharField(allow_blank=True)


class SourcesSerializer(serializers.Serializer[Any]):
    """Profiles and the latest runs."""

    profiles = ProfileSerializer(many=True)
    runs = RunSerializer(many=True)


class TroubleSerializer(PlainSerializer):
    """What is wrong, and what to do."""

    kind = serializers.CharField()
    text = serializers.CharField()
    advice = serializers.CharField()
    act = serializers.ChoiceField(choices=["", "renew", "collect"])


class CoverageSerializer(PlainSerializer):
    """Days from `first` on, a letter each: c complete, p partial, m missing, b before anything is known."""

    first = serializers.DateField()
    days = serializers.CharField(source="strip")


class ProfileHealthSerializer(PlainSerializer):
    """A profile's health."""

    profile = ProfileSerializer()
    coverage = CoverageSerializer()
    troubles = TroubleSerializer(many=True)


class SegmentSerializer(serializers.Serializer[Any]):
    """A part of an audience: its share on the first and the last day that are known."""

    name = serializers.CharField()
    share = serializers.FloatField()
    before = serializers.FloatField(allow_null=True)


class DimensionSerializer(serializers.Serializer[Any]):
    """An audience by one dimension."""

    dimension = serializers.CharField()
    first = serializers.DateField()
    last = serializers.DateField()
    segments = SegmentSerializer(many=True)


class FollowerDaySerializer(serializers.Serializer[Any]):
    """Followers on a day."""

    day = serializers.DateField()
    followers = serializers.IntegerField(allow_null=True)
    gained = serializers.IntegerField(allow_null=True)
    lost = serializers.IntegerField(allow_null=True)


class CommentSerializer(serializers.Serializer[Any]):
    """What somebody wrote."""

    id = serializers.IntegerField(source="pk")
    post_id = serializers.IntegerField()
    post = serializers.SerializerMethodField()
    author = serializers.CharField()
    text = serializers.CharField()
    written_at = serializers.DateTimeField()
    removed_at = serializers.DateTimeField(allow_null=True)

    def get_post(self, comment: Any) -> str:
        """The beginning of the post."""
        return str(comment.post.text[:80])


class ProfileDetailSerializer(serializers.Serializer[Any]):
    """One profile with what is known of it."""

    profile = ProfileSerializer()
    coverage = CoverageSerializer()
    troubles = TroubleSerializer(many=True)
    runs = RunSerializer(many=True)
    days = FollowerDaySerializer(many=True)
    audience = DimensionSerializer(many=True)
    online = serializers.ListField(child=serializers.IntegerField(), allow_null=True)
    zone = serializers.CharField()
    comments = CommentSerializer(many=True)
    comment_count = serializers.IntegerField()
    posts_with_readings = serializers.IntegerField()
    reading_count = serializers.IntegerField()


class CollectInputSerializer(serializers.Serializer[Any]):
    """One profile, or all."""

    profile_id = serializers.IntegerField(required=False, allow_null=True)


class PictureInputSerializer(serializers.Serializer[Any]):
    """Whose picture is the brand's; nobody's when null."""

    profile_id = serializers.IntegerField(allow_null=True)


class EraseQuerySerializer(serializers.Serializer[Any]):
    """Whether the history goes too."""

    erase = serializers.BooleanField(default=False)
