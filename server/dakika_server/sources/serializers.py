"""Shapes of sources."""

from typing import Any

from rest_framework import serializers

RUN_STATES = ["waiting", "running", "complete", "partial", "failed"]


class ProfileSerializer(serializers.Serializer[Any]):
    """A followed profile and how its collection stands."""

    id = serializers.IntegerField(source="pk")
    network = serializers.CharField()
    handle = serializers.CharField()
    name = serializers.CharField()
    kind = serializers.ChoiceField(choices=["own", "competitor"])
    competitor = serializers.CharField(source="competitor.name", default=None, allow_null=True)
    picture = serializers.SerializerMethodField()
    followers = serializers.IntegerField(allow_null=True)
    post_count = serializers.IntegerField()
    last_post_at = serializers.DateTimeField(allow_null=True)
    last_state = serializers.ChoiceField(choices=RUN_STATES, allow_null=True)
    last_message = serializers.CharField(allow_null=True)
    last_success_at = serializers.DateTimeField(allow_null=True)
    authorisation = serializers.SerializerMethodField()

    def get_picture(self, profile: Any) -> str:
        """Address of the picture."""
        return picture_address(profile.picture)

    def get_authorisation(self, profile: Any) -> str:
        """valid, lapsed, missing, or not needed for public and imported profiles."""
        if profile.kind != "own" or profile.external_id.startswith("file:"):
            return "not_needed"
        if profile.credential is None:
            return "missing"
        return "lapsed" if profile.credential.is_lapsed else "valid"


def picture_address(path: str) -> str:
    """Pictures are served by the networks."""
    from django.conf import settings

    return f"{settings.STANDINS_ADDRESS}{path}" if path.startswith("/") else path


class RunSerializer(serializers.Serializer[Any]):
    """A collection run."""

    id = serializers.IntegerField(source="pk")
    profile_id = serializers.IntegerField()
    profile = serializers.CharField(source="profile.name")
    network = serializers.CharField(source="profile.network")
    state = serializers.ChoiceField(choices=RUN_STATES)
    asked_at = serializers.DateTimeField()
    started_at = serializers.DateTimeField(allow_null=True)
    ended_at = serializers.DateTimeField(allow_null=True)
    posts_seen = serializers.IntegerField()
    posts_new = serializers.IntegerField()
    readings_new = serializers.IntegerField()
    requests = serializers.IntegerField()
    calls_left = serializers.IntegerField(allow_null=True)
    message = serializers.CharField(allow_blank=True)


class SourcesSerializer(serializers.Serializer[Any]):
    """Profiles and the latest runs."""

    profiles = ProfileSerializer(many=True)
    runs = RunSerializer(many=True)


class ConnectInputSerializer(serializers.Serializer[Any]):
    """Which network."""

    network = serializers.CharField(max_length=40)


class ConsentSerializer(serializers.Serializer[Any]):
    """Where the person says yes."""

    address = serializers.CharField()


class OfferedSerializer(serializers.Serializer[Any]):
    """An account that the consent covers."""

    external_id = serializers.CharField()
    handle = serializers.CharField()
    name = serializers.CharField()
    picture = serializers.SerializerMethodField()
    followers = serializers.IntegerField()
    refusal = serializers.CharField(allow_blank=True)
    is_connected = serializers.BooleanField()

    def get_picture(self, entry: Any) -> str:
        """Address of the picture."""
        return picture_address(entry["picture"])


class ConnectionSerializer(serializers.Serializer[Any]):
    """A consent with what it offers."""

    id = serializers.IntegerField()
    network = serializers.CharField()
    offered = OfferedSerializer(many=True)


class ChooseInputSerializer(serializers.Serializer[Any]):
    """Chosen accounts."""

    external_ids = serializers.ListField(child=serializers.CharField(max_length=200), max_length=50)


class CompetitorInputSerializer(serializers.Serializer[Any]):
    """A competitor's profile by handle; `name` puts it under a competitor."""

    network = serializers.CharField(max_length=40)
    handle = serializers.RegexField(
        r"^@?[\w.\-]{1,100}$", error_messages={"invalid": "A handle has letters, digits, dots and hyphens."}
    )
    name = serializers.CharField(max_length=120, allow_blank=True, default="")


class CollectInputSerializer(serializers.Serializer[Any]):
    """One profile, or all."""

    profile_id = serializers.IntegerField(required=False, allow_null=True)


class RowProblemSerializer(serializers.Serializer[Any]):
    """What is wrong in a row."""

    row = serializers.IntegerField()
    column = serializers.CharField(allow_blank=True)
    message = serializers.CharField()


class PreviewPostSerializer(serializers.Serializer[Any]):
    """A post as it would come in."""

    row = serializers.IntegerField()
    published_at = serializers.DateTimeField()
    text = serializers.SerializerMethodField()
    format = serializers.CharField()
    counts = serializers.DictField(child=serializers.IntegerField())

    def get_text(self, post: Any) -> str:
        """The beginning of the text."""
        return str(post.text[:120])


class ImportSerializer(serializers.Serializer[Any]):
    """A file and how it stands."""

    id = serializers.IntegerField(source="pk")
    file_name = serializers.CharField()
    created_at = serializers.DateTimeField()
    state = serializers.ChoiceField(choices=["waiting", "done", "discarded"])
    row_count = serializers.IntegerField()
    accepted = serializers.IntegerField()
    refused = serializers.IntegerField()
    added = serializers.IntegerField()
    profile = serializers.CharField(source="profile.name", default=None, allow_null=True)


class PreviewSerializer(serializers.Serializer[Any]):
    """What an import would bring."""

    item = ImportSerializer()
    encoding = serializers.CharField(allow_blank=True)
    delimiter = serializers.CharField(allow_blank=True, trim_whitespace=False)
    header = serializers.ListField(child=serializers.CharField(allow_blank=True))
    sample = serializers.ListField(child=serializers.ListField(child=serializers.CharField(allow_blank=True)))
    mapping = serializers.DictField(child=serializers.IntegerField())
    is_day_first = serializers.BooleanField()
    known_fields = serializers.ListField(child=serializers.CharField())
    mapping_problems = serializers.ListField(child=serializers.CharField())
    readable = serializers.IntegerField()
    posts = PreviewPostSerializer(many=True)
    problem_count = serializers.IntegerField()
    problems = RowProblemSerializer(many=True)


class UploadSerializer(serializers.Serializer[Any]):
    """A file."""

    file = serializers.FileField()


class MappingInputSerializer(serializers.Serializer[Any]):
    """Which column is what."""

    mapping = serializers.DictField(child=serializers.IntegerField(min_value=0, max_value=500))
    is_day_first = serializers.BooleanField(default=True)

    def validate_mapping(self, mapping: dict[str, int]) -> dict[str, int]:
        """Only fields that there are."""
        from dakika_core.sources.mapping import NAMES

        unknown = set(mapping) - set(NAMES)
        if unknown:
            raise serializers.ValidationError(f"There is no field {sorted(unknown)[0]}.")
        return mapping


class ConfirmInputSerializer(serializers.Serializer[Any]):
    """Where the posts go: a profile that there is, or a new one on a network."""

    profile_id = serializers.IntegerField(required=False, allow_null=True)
    new_profile = serializers.CharField(max_length=200, allow_blank=True, default="")
    network = serializers.CharField(max_length=40, allow_blank=True, default="")
