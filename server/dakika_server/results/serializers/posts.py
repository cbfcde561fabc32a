"""Shapes of posts: the table, its totals, one post."""

from typing import Any

from dakika_core.networks.definition import Format
from rest_framework import serializers

from dakika_server.figures.study import StudySerializer
from dakika_server.results.serializers.tags import TagMarkSerializer
from dakika_server.shared.paging import LONGEST
from dakika_server.shared.plain import PlainSerializer
from dakika_server.sources.serializers.profiles import picture_address

FORMATS = [f.value for f in Format]
GROUPINGS = ["format", "network", "profile", "campaign", "language", "weekday", "tag"]


class PostsQuerySerializer(StudySerializer):
    """A page of posts. columns are keys of metrics, separated by commas."""

    sort = serializers.CharField(default="-published_at", max_length=60)
    text = serializers.CharField(default="", allow_blank=True, max_length=200)
    columns = serializers.CharField(default="", allow_blank=True, max_length=600)
    cursor = serializers.CharField(required=False, max_length=LONGEST)
    limit = serializers.IntegerField(default=100, min_value=1, max_value=500)
    young = serializers.ChoiceField(
        choices=["after", "among"], default="after",
        help_text="where posts too young for the study's age stand: after the others, or among them by what they are "
        "heading for",
    )  # fmt: skip


class HiddenSerializer(PlainSerializer):
    """How often people hid and reported a post, where that is far beyond the usual of its profile."""

    count = serializers.FloatField()
    usual = serializers.FloatField()


class YoungSerializer(PlainSerializer):
    """A post that is too young for the study's age: its index at the age it has, and what it is heading for by 7
    days.
    """

    age_hours = serializers.FloatField()
    typical = serializers.FloatField(allow_null=True)
    index = serializers.FloatField(allow_null=True)
    index_low = serializers.FloatField(allow_null=True)
    index_high = serializers.FloatField(allow_null=True)
    heading = serializers.FloatField()
    heading_low = serializers.FloatField()
    heading_high = serializers.FloatField()


class PostRowSerializer(PlainSerializer):
    """A post in the table, at the study's age; `values` holds the metrics that were asked for."""

    id = serializers.IntegerField(source="post_id")
    published_at = serializers.DateTimeField()
    has_time = serializers.BooleanField(source="post.has_time")
    format = serializers.ChoiceField(source="post.format", choices=FORMATS)
    text = serializers.SerializerMethodField()
    language = serializers.CharField(source="post.language", allow_blank=True)
    is_boosted = serializers.BooleanField(source="post.is_boosted", allow_null=True)
    network = serializers.CharField(source="post.profile.network")
    profile = serializers.CharField(source="post.profile.name")
    profile_id = serializers.IntegerField()
    campaign = serializers.CharField(source="post.campaign.name", default=None, allow_null=True)
    tags = serializers.SerializerMethodField()
    picture = serializers.SerializerMethodField()
    is_removed = serializers.SerializerMethodField()
    interactions = serializers.FloatField(allow_null=True)
    typical = serializers.FloatField(allow_null=True)
    index = serializers.FloatField(allow_null=True)
    present_hours = serializers.FloatField(
        allow_null=True, help_text="the age of its figures, where they are not known at the study's"
    )
    young = YoungSerializer(allow_null=True)
    values = serializers.DictField(child=serializers.FloatField(allow_null=True))
    hidden = HiddenSerializer(allow_null=True, help_text="where people hid and reported it far more than usual")

    def get_text(self, measure: Any) -> str:
        """The beginning of the text."""
        return str(measure.post.text[:200])

    def get_picture(self, measure: Any) -> str:
        """Address of its picture, or nothing."""
        return picture_address(measure.post.picture)

    def get_tags(self, measure: Any) -> list[int]:
        """Numbers of its tags."""
        return [on.tag_id for on in measure.post.tags_on]

    def get_is_removed(self, measure: Any) -> bool:
        """Whether the network no longer lists it."""
        return measure.post.removed_at is not None


class PostsPageSerializer(serializers.Serializer[Any]):
    """A part of the posts, and how many there are."""

    total = serializers.IntegerField()
    next = serializers.CharField(allow_null=True, help_text="the cursor of the next part")
    age_hours = serializers.IntegerField()
    too_young = serializers.IntegerField()
    posts = PostRowSerializer(many=True)


class TotalsQuerySerializer(StudySerializer):
    """Totals of the table, perhaps by groups."""

    text = serializers.CharField(default="", allow_blank=True, max_length=200)
    columns = serializers.CharField(default="", allow_blank=True, max_length=600)
    by = serializers.ChoiceField(choices=GROUPINGS, required=False)


class TotalSerializer(serializers.Serializer[Any]):
    """One line of totals: each metric by its own rule, and over how many posts."""

    key = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    posts = serializers.IntegerField()
    values = serializers.DictField(child=serializers.FloatField(allow_null=True))
    n = serializers.DictField(child=serializers.IntegerField())


class TotalsSerializer(serializers.Serializer[Any]):
    """The whole, and its groups."""

    whole = TotalSerializer()
    groups = TotalSerializer(many=True)


class TopQuerySerializer(StudySerializer):
    """The best or worst posts by a metric."""

    metric = serializers.CharField(default="index", max_length=60)
    end = serializers.ChoiceField(choices=["top", "bottom"], default="top")
    limit = serializers.IntegerField(default=14, min_value=1, max_value=50)


class TopPostSerializer(PostRowSerializer):
    """A post in a ranking: its value as it is, as it is judged, and the interval of that."""

    value = serializers.FloatField()
    judged = serializers.FloatField(help_text="drawn towards the usual as far as evidence is thin; for rates only")
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)


class TopPostsSerializer(serializers.Serializer[Any]):
    """A ranking, by how it is made."""

    is_shrunk = serializers.BooleanField()
    posts = TopPostSerializer(many=True)
    total = serializers.IntegerField()
    missing = serializers.IntegerField()


class ReadingSerializer(serializers.Serializer[Any]):
    """One observation."""

    taken_at = serializers.DateTimeField()
    age_hours = serializers.FloatField()
    impressions = serializers.IntegerField(allow_null=True)
    reach = serializers.IntegerField(allow_null=True)
    interactions = serializers.FloatField(allow_null=True)
    link_clicks = serializers.IntegerField(allow_null=True)


class AtAgeSerializer(serializers.Serializer[Any]):
    """A post at an age, with what is typical."""

    age_hours = serializers.IntegerField()
    interactions = serializers.FloatField(allow_null=True)
    impressions = serializers.FloatField(allow_null=True)
    reach = serializers.FloatField(allow_null=True)
    reactions = serializers.FloatField(allow_null=True)
    comments = serializers.FloatField(allow_null=True)
    shares = serializers.FloatField(allow_null=True)
    saves = serializers.FloatField(allow_null=True)
    link_clicks = serializers.FloatField(allow_null=True)
    video_views = serializers.FloatField(allow_null=True)
    typical = serializers.FloatField(allow_null=True)
    index = serializers.FloatField(allow_null=True)


class PostDetailSerializer(serializers.Serializer[Any]):
    """A post's own page."""

    id = serializers.IntegerField()
    text = serializers.CharField(allow_blank=True)
    url = serializers.CharField(allow_blank=True)
    published_at = serializers.DateTimeField()
    has_time = serializers.BooleanField()
    removed_at = serializers.DateTimeField(allow_null=True)
    format = serializers.ChoiceField(choices=FORMATS)
    hashtags = serializers.ListField(child=serializers.CharField())
    network = serializers.CharField()
    profile = serializers.CharField()
    profile_id = serializers.IntegerField()
    is_own = serializers.BooleanField()
    campaign = serializers.CharField(allow_null=True)
    campaign_id = serializers.IntegerField(allow_null=True)
    picture = serializers.CharField(allow_blank=True)
    language = serializers.CharField(allow_blank=True)
    is_boosted = serializers.BooleanField(allow_null=True)
    tags = TagMarkSerializer(many=True)
    hidden = HiddenSerializer(allow_null=True)
    followers = serializers.FloatField(allow_null=True)
    readings = ReadingSerializer(many=True)
    ages = AtAgeSerializer(many=True)
