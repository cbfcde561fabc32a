"""Shapes of changes of many posts."""

from typing import Any

from rest_framework import serializers

from dakika_server.plan.serializers.posts import NUMBER
from dakika_server.plan.several import MOST_AT_ONCE, MOST_TAGS, WHAT


class ChosenPostSerializer(serializers.Serializer[Any]):
    """A post, of the edition that was read."""

    id = serializers.IntegerField(**NUMBER)
    edition = serializers.IntegerField(min_value=1, max_value=2**31 - 1)


class SeveralInputSerializer(serializers.Serializer[Any]):
    """Which posts, and what is to become of them. campaign null: none."""

    posts = serializers.ListField(child=ChosenPostSerializer(), min_length=1, max_length=MOST_AT_ONCE)
    what = serializers.ChoiceField(choices=list(WHAT))
    days = serializers.IntegerField(min_value=-366, max_value=366, default=0)
    minutes = serializers.IntegerField(min_value=-1440, max_value=1440, default=0)
    campaign = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    tags = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=MOST_TAGS, default=list)


class RefusedPostSerializer(serializers.Serializer[Any]):
    """One that was not changed, and why."""

    id = serializers.IntegerField()
    title = serializers.CharField(allow_blank=True)
    why = serializers.CharField()


class SeveralChangedSerializer(serializers.Serializer[Any]):
    """How many were changed. id: by which it is undone; null where none was."""

    id = serializers.IntegerField(allow_null=True)
    changed = serializers.IntegerField()
    refused = RefusedPostSerializer(many=True)


class SeveralUndoneSerializer(serializers.Serializer[Any]):
    """How many are as they were. left: those that somebody changed since."""

    undone = serializers.IntegerField()
    left = serializers.IntegerField()
