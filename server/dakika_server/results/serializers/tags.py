"""Shapes of tags and their rules."""

from typing import Any

from dakika_core.results.tag_rules import RuleKind
from rest_framework import serializers

from dakika_server.figures.study import LARGEST_KEY

MOST_POSTS = 5_000


class TagMarkSerializer(serializers.Serializer[Any]):
    """A tag on a post, and whether a rule put it there."""

    id = serializers.IntegerField(source="tag_id")
    name = serializers.CharField(source="tag.name")
    colour = serializers.IntegerField(source="tag.colour")
    is_by_rule = serializers.SerializerMethodField()

    def get_is_by_rule(self, on: Any) -> bool:
        """Whether a rule put it there."""
        return on.rule_id is not None


class RuleSerializer(serializers.Serializer[Any]):
    """A rule of a tag."""

    id = serializers.IntegerField(source="pk", read_only=True)
    kind = serializers.ChoiceField(choices=[k.value for k in RuleKind])
    value = serializers.CharField(max_length=200)


class TagSerializer(serializers.Serializer[Any]):
    """A tag with its rules and how many posts carry it."""

    id = serializers.IntegerField(source="pk")
    name = serializers.CharField()
    colour = serializers.IntegerField()
    posts = serializers.IntegerField(default=0)
    rules = RuleSerializer(many=True, source="rules.all")


class TagInputSerializer(serializers.Serializer[Any]):
    """A tag to be made or changed."""

    name = serializers.CharField(max_length=60)
    colour = serializers.IntegerField(min_value=1, max_value=8, default=1)


class MergeSerializer(serializers.Serializer[Any]):
    """The tag that goes on."""

    into = serializers.IntegerField(max_value=LARGEST_KEY)


class TagPostsSerializer(serializers.Serializer[Any]):
    """Posts that get tags or lose them. A name that is no tag yet becomes one."""

    posts = serializers.ListField(
        child=serializers.IntegerField(max_value=LARGEST_KEY), min_length=1, max_length=MOST_POSTS
    )
    add = serializers.ListField(child=serializers.CharField(max_length=60), default=list, max_length=20)
    take_off = serializers.ListField(child=serializers.IntegerField(max_value=LARGEST_KEY), default=list, max_length=50)


class TaggedSerializer(serializers.Serializer[Any]):
    """How many posts changed."""

    changed = serializers.IntegerField()


class RuleQuerySerializer(serializers.Serializer[Any]):
    """A rule to be tried."""

    kind = serializers.ChoiceField(choices=[k.value for k in RuleKind])
    value = serializers.CharField(max_length=200)


class CaughtPostSerializer(serializers.Serializer[Any]):
    """A post that a rule would catch."""

    id = serializers.IntegerField(source="pk")
    text = serializers.SerializerMethodField()
    published_at = serializers.DateTimeField()
    network = serializers.CharField(source="profile.network")

    def get_text(self, post: Any) -> str:
        """The beginning of the text."""
        return str(post.text[:200])


class CaughtSerializer(serializers.Serializer[Any]):
    """What a rule would catch: how many of how many, and the newest of them."""

    caught = serializers.IntegerField()
    of = serializers.IntegerField()
    posts = CaughtPostSerializer(many=True)


class PostEditSerializer(serializers.Serializer[Any]):
    """What people may change of a post here: the campaign that it belongs to."""

    campaign_id = serializers.IntegerField(allow_null=True, max_value=LARGEST_KEY)
