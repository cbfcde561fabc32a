"""Shapes of what helps while one writes."""

from typing import Any

from rest_framework import serializers

from dakika_server.plan.serializers.posts import NUMBER, CommonSerializer, VersionInputSerializer


class WritingInputSerializer(serializers.Serializer[Any]):
    """What is being written, as the writer has it; null says that one only looks."""

    planned = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    content = serializers.JSONField(allow_null=True, default=None)

    def validate_content(self, given: Any) -> Any:
        """An object, or nothing."""
        if given is not None and not isinstance(given, dict):
            raise serializers.ValidationError("This is nothing that is written.")
        return given


class WritingQuerySerializer(serializers.Serializer[Any]):
    """At which post; none is a new one."""

    planned = serializers.IntegerField(required=False, **NUMBER)


class WritingSerializer(serializers.Serializer[Any]):
    """What one wrote and did not save, and who else has the post open. edition: the post's, as it stands."""

    content = serializers.JSONField(allow_null=True)
    at = serializers.DateTimeField(allow_null=True)
    others = serializers.ListField(child=serializers.CharField())
    edition = serializers.IntegerField(allow_null=True)


class OptionSerializer(serializers.Serializer[Any]):
    """What a network asks for with a post of this profile. problem: why the choices are not known.

    is_many: several with commas between them. shares: what part of the audience each choice is, 0 to 1.
    """

    key = serializers.CharField()
    name = serializers.CharField()
    is_many = serializers.BooleanField()
    dimension = serializers.CharField(allow_blank=True)
    shares = serializers.DictField(child=serializers.FloatField())
    choices = serializers.ListField(child=serializers.CharField())
    is_required = serializers.BooleanField()
    problem = serializers.CharField(allow_blank=True)


class EmojiQuerySerializer(serializers.Serializer[Any]):
    """A part of a name."""

    text = serializers.CharField(max_length=60)


class EmojiSerializer(serializers.Serializer[Any]):
    """A character and its name in Unicode."""

    character = serializers.CharField()
    name = serializers.CharField()


class PageQuerySerializer(serializers.Serializer[Any]):
    """The address of a page."""

    address = serializers.URLField(max_length=2000)


class PageSaysSerializer(serializers.Serializer[Any]):
    """What a page says of itself (Open Graph, else its title). status: what it was answered with; 0 is nothing."""

    title = serializers.CharField(allow_blank=True)
    description = serializers.CharField(allow_blank=True)
    picture = serializers.CharField(allow_blank=True)
    host = serializers.CharField(allow_blank=True)
    status = serializers.IntegerField()
    problem = serializers.CharField(allow_blank=True)


class CheckInputSerializer(serializers.Serializer[Any]):
    """A post to be checked as it is written."""

    common = CommonSerializer(required=False, allow_null=True)
    versions = VersionInputSerializer(many=True)


class PostProblemSerializer(serializers.Serializer[Any]):
    """Something about a version. part: of its text, headline, first_comment, media, or one of its options."""

    code = serializers.CharField()
    message = serializers.CharField()
    is_blocking = serializers.BooleanField()
    part = serializers.CharField()


class CheckSerializer(serializers.Serializer[Any]):
    """A version held against its network's rules. text: as it would be sent, with its link in it."""

    profile_id = serializers.IntegerField()
    text = serializers.CharField(allow_blank=True)
    count = serializers.IntegerField()
    limit = serializers.IntegerField()
    title_limit = serializers.IntegerField()
    has_first_comment = serializers.BooleanField()
    problems = PostProblemSerializer(many=True)
