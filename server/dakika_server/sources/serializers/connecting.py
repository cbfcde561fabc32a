"""Shapes of connecting and following."""

from typing import Any

from rest_framework import serializers

from dakika_server.sources.serializers.profiles import picture_address

HANDLE = r"^@?[\w.\-]{1,100}(@[\w.\-]{1,100}(:\d{1,5})?)?$"


class ConnectInputSerializer(serializers.Serializer[Any]):
    """Which network; renews is the profile whose authorisation is to be renewed."""

    network = serializers.CharField(max_length=40)
    renews = serializers.IntegerField(required=False, allow_null=True)


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
    may_publish = serializers.BooleanField()
    offered = OfferedSerializer(many=True)


class ChooseInputSerializer(serializers.Serializer[Any]):
    """Chosen accounts."""

    external_ids = serializers.ListField(child=serializers.CharField(max_length=200), max_length=50)


class CompetitorInputSerializer(serializers.Serializer[Any]):
    """A competitor's profile by handle; `name` puts it under a competitor."""

    network = serializers.CharField(max_length=40)
    handle = serializers.RegexField(
        HANDLE,
        error_messages={"invalid": "A handle has letters, digits, dots and hyphens; name@host for an open server."},
    )
    name = serializers.CharField(max_length=120, allow_blank=True, default="")


class SearchQuerySerializer(serializers.Serializer[Any]):
    """Letters of a name at a network."""

    network = serializers.CharField(max_length=40)
    text = serializers.CharField(max_length=100, allow_blank=True)


class FoundAccountSerializer(serializers.Serializer[Any]):
    """Somebody's account."""

    handle = serializers.CharField()
    name = serializers.CharField()
    picture = serializers.SerializerMethodField()
    followers = serializers.IntegerField()

    def get_picture(self, account: Any) -> str:
        """Address of the picture."""
        return picture_address(account.picture)


class SiteInputSerializer(serializers.Serializer[Any]):
    """A web address."""

    address = serializers.CharField(max_length=2000)


class SiteProfileSerializer(serializers.Serializer[Any]):
    """A profile that a site names."""

    network = serializers.CharField()
    handle = serializers.CharField()
    evidence = serializers.CharField()
    problem = serializers.CharField(allow_blank=True)
    is_followed = serializers.BooleanField()
    account = FoundAccountSerializer(allow_null=True)


class SiteSerializer(serializers.Serializer[Any]):
    """What a site says of its owner."""

    address = serializers.CharField()
    name = serializers.CharField(allow_blank=True)
    feeds = serializers.ListField(child=serializers.CharField())
    profiles = SiteProfileSerializer(many=True)


class FollowedProfileSerializer(serializers.Serializer[Any]):
    """A profile to follow."""

    network = serializers.CharField(max_length=40)
    handle = serializers.RegexField(HANDLE)


class FollowInputSerializer(serializers.Serializer[Any]):
    """Profiles of one competitor."""

    name = serializers.CharField(max_length=120)
    website = serializers.CharField(max_length=500, allow_blank=True, default="")
    profiles = FollowedProfileSerializer(many=True)


class CompetitorNameSerializer(serializers.Serializer[Any]):
    """A competitor's name."""

    name = serializers.CharField(max_length=120)


class CompetitorMergeSerializer(serializers.Serializer[Any]):
    """Which competitor it becomes part of."""

    into = serializers.IntegerField(min_value=1)


class ProfileMoveSerializer(serializers.Serializer[Any]):
    """The competitor that the profile goes under; without one, a new one by name."""

    competitor = serializers.IntegerField(min_value=1, required=False, allow_null=True)
    name = serializers.CharField(max_length=120, required=False, allow_blank=True)


class CompetitorSerializer(serializers.Serializer[Any]):
    """A competitor."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    website = serializers.CharField(allow_blank=True)
