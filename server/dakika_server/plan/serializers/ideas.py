"""Shapes of ideas, first wordings and templates."""

from typing import Any

from dakika_core.plan.templates import places_in
from rest_framework import serializers

from dakika_server.plan.ideas.keeping import KEPT, LONGEST_NOTE, LONGEST_TITLE, MOST_WISHES
from dakika_server.plan.models import Idea
from dakika_server.plan.serializers.posts import NUMBER, STATE_CHOICES

STANDINGS, SORTS = ("open", "written", "shut"), ("new", "votes")
MOST_AT_ONCE = 200


class IdeaContentSerializer(serializers.Serializer[Any]):
    """An idea as somebody writes it down. page: what it is about; wishes: profiles it is meant for."""

    title = serializers.CharField(allow_blank=True, max_length=LONGEST_TITLE, default="")
    note = serializers.CharField(allow_blank=True, max_length=LONGEST_NOTE, default="", trim_whitespace=False)
    group = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    page = serializers.CharField(allow_blank=True, max_length=2000, default="")
    wishes = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=MOST_WISHES, default=list)
    campaign = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    media = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=20, default=list)


class IdeaOriginSerializer(serializers.Serializer[Any]):
    """Where an idea comes from. view: one of ours, without the brand; picture: where one is to be had."""

    origin = serializers.ChoiceField(choices=Idea.Origin.values, default=Idea.Origin.OWN.value)
    post = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    item = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    day = serializers.DateField(allow_null=True, default=None)
    view = serializers.CharField(allow_blank=True, max_length=500, default="")
    picture = serializers.CharField(allow_blank=True, max_length=2000, default="")


class IdeaInputSerializer(serializers.Serializer[Any]):
    """An idea to be kept."""

    content = IdeaContentSerializer(default=dict)
    origin = IdeaOriginSerializer(default=dict)

    def validate(self, given: dict[str, Any]) -> dict[str, Any]:
        """What is left out has its usual value."""
        for name, shape in (("content", IdeaContentSerializer), ("origin", IdeaOriginSerializer)):
            if not given.get(name):
                empty = shape(data={})
                empty.is_valid(raise_exception=True)
                given[name] = empty.validated_data
        return given


class IdeaChangeSerializer(IdeaContentSerializer):
    """An idea written anew; edition is the one that was read."""

    edition = serializers.IntegerField(min_value=1, max_value=2**31 - 1)


class KeptFigureSerializer(serializers.Serializer[Any]):
    """A figure of the post that gave the idea, as it was seen."""

    key = serializers.ChoiceField(choices=list(KEPT))
    value = serializers.FloatField()
    at = serializers.DateTimeField(allow_null=True)


class WrittenSerializer(serializers.Serializer[Any]):
    """A planned post that was written from it."""

    id = serializers.IntegerField()
    title = serializers.CharField(allow_blank=True)
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    at = serializers.DateTimeField(allow_null=True)


class IdeaSerializer(serializers.Serializer[Any]):
    """An idea, where it came from, what is thought of it, and what was written from it."""

    id = serializers.IntegerField()
    title = serializers.CharField(allow_blank=True)
    note = serializers.CharField(allow_blank=True)
    edition = serializers.IntegerField()
    group = serializers.IntegerField(allow_null=True)
    page = serializers.CharField(allow_blank=True)
    wishes = serializers.ListField(child=serializers.IntegerField())
    campaign = serializers.IntegerField(allow_null=True)
    media = serializers.ListField(child=serializers.IntegerField())
    origin = serializers.ChoiceField(choices=Idea.Origin.values)
    view = serializers.CharField(allow_blank=True)
    post = serializers.IntegerField(allow_null=True)
    day = serializers.DateField(allow_null=True)
    feed = serializers.CharField(allow_blank=True)
    figures = KeptFigureSerializer(many=True)
    kept_at = serializers.DateTimeField()
    by = serializers.CharField(allow_blank=True)
    is_shut = serializers.BooleanField()
    for_it = serializers.IntegerField()
    against = serializers.IntegerField()
    mine = serializers.IntegerField()
    remarks = serializers.IntegerField()
    written = WrittenSerializer(many=True)


class KeptIdeaSerializer(IdeaSerializer):
    """An idea that was kept. problem: why its picture could not be brought."""

    problem = serializers.CharField(allow_blank=True)


class IdeaQuerySerializer(serializers.Serializer[Any]):
    """Which ideas, in which order. group: 0 is those in none."""

    group = serializers.IntegerField(required=False, min_value=0, max_value=2**63 - 1)
    origin = serializers.ChoiceField(choices=Idea.Origin.values, required=False)
    standing = serializers.ChoiceField(choices=STANDINGS, default="open")
    text = serializers.CharField(max_length=100, default="", allow_blank=True)
    sort = serializers.ChoiceField(choices=SORTS, default="new")
    cursor = serializers.CharField(max_length=200, required=False)
    limit = serializers.IntegerField(min_value=1, max_value=200, default=60)


class IdeaPageSerializer(serializers.Serializer[Any]):
    """A page of ideas. next: where the one after it begins."""

    ideas = IdeaSerializer(many=True)
    next = serializers.CharField(allow_null=True)


class IdeaGroupInputSerializer(serializers.Serializer[Any]):
    """A group's name, and its place among the others."""

    name = serializers.CharField(max_length=80)
    place = serializers.IntegerField(min_value=0, max_value=10_000, required=False)


class IdeaGroupSerializer(serializers.Serializer[Any]):
    """A group and how many open ideas it has."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    ideas = serializers.IntegerField()


class IdeaGroupsSerializer(serializers.Serializer[Any]):
    """All groups, and how many ideas stand where."""

    groups = IdeaGroupSerializer(many=True)
    in_none = serializers.IntegerField()
    open = serializers.IntegerField()
    written = serializers.IntegerField()
    shut = serializers.IntegerField()


class PutIdeasSerializer(serializers.Serializer[Any]):
    """Ideas that are put into a group, or into none."""

    ideas = serializers.ListField(child=serializers.IntegerField(**NUMBER), min_length=1, max_length=MOST_AT_ONCE)
    group = serializers.IntegerField(allow_null=True, **NUMBER)


class PutSerializer(serializers.Serializer[Any]):
    """How many were put."""

    ideas = serializers.IntegerField()


class ShutIdeaSerializer(serializers.Serializer[Any]):
    """Whether anything more is to come of it."""

    is_shut = serializers.BooleanField()


class WriteIdeaSerializer(serializers.Serializer[Any]):
    """A wording to begin with; none begins with the page."""

    text = serializers.CharField(allow_blank=True, max_length=20_000, default="", trim_whitespace=False)


class WordingQuerySerializer(serializers.Serializer[Any]):
    """What the post is to be about, and whose posts are learnt from."""

    subject = serializers.CharField(max_length=300)
    page = serializers.CharField(max_length=2000, allow_blank=True, default="")
    profiles = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=MOST_WISHES, default=list)
    language = serializers.CharField(max_length=8, allow_blank=True, default="")


class WordingPatternSerializer(serializers.Serializer[Any]):
    """A part of a wording, and how the posts did that have it: times the brand's other posts, with its interval."""

    kind = serializers.ChoiceField(choices=["opening", "close", "hashtag"])
    words = serializers.CharField()
    posts = serializers.IntegerField()
    verdict = serializers.ChoiceField(choices=["better", "worse", "open", "few"])
    times = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)


class WordingSerializer(serializers.Serializer[Any]):
    """A text to go on from."""

    text = serializers.CharField()
    patterns = WordingPatternSerializer(many=True)


class WordingsSerializer(serializers.Serializer[Any]):
    """First wordings. characters: between which the middle half of the best quarter of posts is long."""

    language = serializers.CharField(allow_blank=True)
    languages = serializers.ListField(child=serializers.CharField())
    posts = serializers.IntegerField()
    days = serializers.IntegerField()
    characters = serializers.ListField(child=serializers.IntegerField(), allow_null=True)
    wordings = WordingSerializer(many=True)


class TemplateInputSerializer(serializers.Serializer[Any]):
    """A text with places to fill in, each a name in braces."""

    name = serializers.CharField(max_length=80)
    text = serializers.CharField(max_length=20_000, trim_whitespace=False)
    headline = serializers.CharField(max_length=300, allow_blank=True, default="")
    first_comment = serializers.CharField(max_length=20_000, allow_blank=True, default="", trim_whitespace=False)


class TemplateSerializer(TemplateInputSerializer):
    """The same as it is kept. places: what is to be filled in."""

    id = serializers.IntegerField(source="pk")
    places = serializers.SerializerMethodField()

    def get_places(self, template: Any) -> list[str]:
        """In the order in which they come."""
        return places_in(template.text, template.headline, template.first_comment)
