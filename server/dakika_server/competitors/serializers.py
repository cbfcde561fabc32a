"""Shapes of competitors."""

from typing import Any

from dakika_core.competitors.field import PUBLIC
from rest_framework import serializers

from dakika_server.competitors.field import SetSerializer
from dakika_server.competitors.gap import MIDDLE
from dakika_server.competitors.works import GROUPINGS
from dakika_server.figures.serializers import UNITS, FigureSerializer, IntervalSerializer, PeriodSerializer
from dakika_server.figures.study import LARGEST_KEY, StudySerializer
from dakika_server.results.serializers.groups import RatioSerializer
from dakika_server.results.serializers.posts import PostRowSerializer
from dakika_server.shared.paging import LONGEST
from dakika_server.shared.plain import PlainSerializer

METRICS = list(PUBLIC)


class PeerSetInputSerializer(serializers.Serializer[Any]):
    """A set by its name and profiles; edition is the one that was changed."""

    name = serializers.CharField(max_length=80)
    profiles = serializers.ListField(child=serializers.IntegerField(min_value=1, max_value=LARGEST_KEY), max_length=400)
    edition = serializers.IntegerField(required=False, min_value=1)


class PeerSetSerializer(serializers.Serializer[Any]):
    """A peer set."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    profiles = serializers.SerializerMethodField()
    edition = serializers.IntegerField()

    def get_profiles(self, peers: Any) -> list[int]:
        """Numbers of its profiles."""
        return sorted(profile.pk for profile in peers.profiles.all())


class PeerSetsSerializer(serializers.Serializer[Any]):
    """All sets, and whose weekly digests the person reads."""

    sets = PeerSetSerializer(many=True)
    digests = serializers.ListField(
        child=serializers.IntegerField(), help_text="numbers of the sets; 0 is everybody who is followed"
    )
    mail = serializers.CharField(allow_blank=True, help_text="where the person's letters go")


class PeerStudySerializer(StudySerializer, SetSerializer):
    """A study of a set."""


class PeerPlaceSerializer(PlainSerializer):
    """A place, and those that are not ruled out."""

    rank = serializers.IntegerField()
    best = serializers.IntegerField()
    worst = serializers.IntegerField()
    of = serializers.IntegerField()
    percentile = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    to_next = serializers.FloatField(allow_null=True)
    next_name = serializers.CharField(allow_blank=True)


class StandingSerializer(PlainSerializer):
    """A figure of the table: now, before, and its place."""

    now = FigureSerializer()
    before = FigureSerializer()
    place = PeerPlaceSerializer(allow_null=True)


class PeerColumnSerializer(PlainSerializer):
    """A public metric."""

    key = serializers.CharField()
    name = serializers.CharField()
    unit = serializers.ChoiceField(choices=UNITS)
    definition = serializers.CharField()
    is_of_posts = serializers.BooleanField()


class PeerLineSerializer(serializers.Serializer[Any]):
    """A member: us, a competitor or a single profile, and its figures by column."""

    key = serializers.CharField()
    name = serializers.CharField()
    is_own = serializers.BooleanField()
    competitor = serializers.IntegerField(allow_null=True)
    networks = serializers.ListField(child=serializers.CharField())
    profile_ids = serializers.ListField(child=serializers.IntegerField())
    figures = serializers.DictField(child=StandingSerializer())


class PeerRowSerializer(PeerLineSerializer):
    """A member that opens to its profiles."""

    profiles = PeerLineSerializer(many=True)


class ConcentrationSerializer(PlainSerializer):
    """How interactions are spread over the members."""

    gini = serializers.FloatField()
    herfindahl = serializers.FloatField()
    effective = serializers.FloatField()


class PeerTableSerializer(serializers.Serializer[Any]):
    """Everybody side by side."""

    period = PeriodSerializer()
    compared = PeriodSerializer()
    age_hours = serializers.IntegerField()
    holes = serializers.CharField(allow_blank=True)
    columns = PeerColumnSerializer(many=True)
    rows = PeerRowSerializer(many=True)
    spread = ConcentrationSerializer(allow_null=True)


class BenchmarkQuerySerializer(PeerStudySerializer):
    """Which metric."""

    metric = serializers.ChoiceField(choices=METRICS, default="interactions_per_1000")


class BinSerializer(serializers.Serializer[Any]):
    """A part of the period: the others' spread, and ours."""

    first = serializers.DateField()
    band = serializers.ListField(child=serializers.FloatField(allow_null=True), help_text="least to most, five")
    members = serializers.IntegerField()
    ours = FigureSerializer()


class SizeLineSerializer(PlainSerializer):
    """What is usual for an audience of a size: log(rate) = level + slope * log(followers)."""

    level = serializers.FloatField()
    slope = serializers.FloatField()
    spread = serializers.FloatField()
    peers = serializers.IntegerField()
    smallest = serializers.FloatField()
    largest = serializers.FloatField()
    at = serializers.FloatField()
    expected = serializers.FloatField()
    usual = IntervalSerializer()
    above = serializers.FloatField(allow_null=True)
    above_interval = IntervalSerializer(allow_null=True)
    is_out_of_the_usual = serializers.BooleanField()


class UsualSerializer(serializers.Serializer[Any]):
    """Where a further member of an audience lies."""

    followers = serializers.FloatField()
    low = serializers.FloatField()
    expected = serializers.FloatField()
    high = serializers.FloatField()


class SizeDotSerializer(serializers.Serializer[Any]):
    """A member by followers and reactions per follower."""

    key = serializers.CharField()
    name = serializers.CharField()
    is_own = serializers.BooleanField()
    networks = serializers.ListField(child=serializers.CharField())
    followers = serializers.FloatField()
    rate = serializers.FloatField()


class BenchmarkSerializer(serializers.Serializer[Any]):
    """The band, our place, and the line of sizes."""

    title = serializers.CharField()
    column = PeerColumnSerializer()
    period = PeriodSerializer()
    age_hours = serializers.IntegerField()
    bin_days = serializers.IntegerField()
    bins = BinSerializer(many=True)
    now = FigureSerializer(allow_null=True)
    place = PeerPlaceSerializer(allow_null=True)
    size = SizeLineSerializer(allow_null=True)
    usual = UsualSerializer(many=True, help_text="along the sizes of all, from the smallest to the largest")
    has_several = serializers.BooleanField(help_text="several profiles are ours; size is the largest's")
    size_words = serializers.CharField()
    slope_words = serializers.CharField(allow_blank=True)
    dots = SizeDotSerializer(many=True)


class AxesQuerySerializer(PeerStudySerializer):
    """Which metrics."""

    x = serializers.ChoiceField(choices=METRICS, default="posts_per_week")
    y = serializers.ChoiceField(choices=METRICS, default="interactions_per_1000")
    size = serializers.ChoiceField(choices=METRICS, default="followers")


class PointSerializer(serializers.Serializer[Any]):
    """Where somebody was in an earlier period."""

    x = serializers.FloatField()
    y = serializers.FloatField()


class DotSerializer(serializers.Serializer[Any]):
    """A member on both axes."""

    key = serializers.CharField()
    name = serializers.CharField()
    is_own = serializers.BooleanField()
    networks = serializers.ListField(child=serializers.CharField())
    x = FigureSerializer()
    y = FigureSerializer()
    size = FigureSerializer()
    trail = PointSerializer(many=True)


class AxesSerializer(serializers.Serializer[Any]):
    """Two axes. quadrants: upper left, upper right, lower left, lower right, in words."""

    x = PeerColumnSerializer()
    y = PeerColumnSerializer()
    size = PeerColumnSerializer()
    columns = PeerColumnSerializer(many=True)
    period = PeriodSerializer()
    age_hours = serializers.IntegerField()
    days = serializers.IntegerField()
    dots = DotSerializer(many=True)
    middle_x = serializers.FloatField(allow_null=True)
    middle_y = serializers.FloatField(allow_null=True)
    is_log_x = serializers.BooleanField()
    is_log_y = serializers.BooleanField()
    quadrants = serializers.ListField(child=serializers.CharField())
    left_out = serializers.ListField(child=serializers.CharField())


class BestPostsQuerySerializer(PeerStudySerializer):
    """Which posts of the others."""

    text = serializers.CharField(default="", allow_blank=True, max_length=200)
    hashtag = serializers.CharField(default="", allow_blank=True, max_length=100)
    sort = serializers.ChoiceField(
        choices=["-index", "-interactions", "-published_at", "-comments", "-shares"], default="-index"
    )
    new = serializers.BooleanField(default=False)
    cursor = serializers.CharField(required=False, max_length=LONGEST)
    limit = serializers.IntegerField(default=48, min_value=1, max_value=200)


class BestPostSerializer(PostRowSerializer):
    """A competitor's post."""

    owner = serializers.CharField(allow_blank=True)
    url = serializers.CharField(source="post.url", allow_blank=True)
    hashtags = serializers.ListField(child=serializers.CharField(), source="post.hashtags")


class BestPostsSerializer(serializers.Serializer[Any]):
    """A part of them, and how many are new since the person looked last."""

    posts = BestPostSerializer(many=True)
    total = serializers.IntegerField()
    new = serializers.IntegerField()
    since = serializers.DateTimeField(allow_null=True)
    age_hours = serializers.IntegerField()
    next = serializers.CharField(allow_null=True, help_text="the cursor of the next part")


class ChosenSetSerializer(serializers.Serializer[Any]):
    """A set; none is everybody who is followed."""

    set = serializers.IntegerField(required=False, allow_null=True, min_value=1, max_value=LARGEST_KEY)


class DigestSerializer(serializers.Serializer[Any]):
    """A digest as its letter says it: parts apart by an empty line, each with its title and a line for each thing."""

    subject = serializers.CharField()
    text = serializers.CharField()


class ThereSerializer(serializers.Serializer[Any]):
    """A member on a network."""

    key = serializers.CharField(source="member.key")
    name = serializers.CharField(source="member.name")
    is_own = serializers.BooleanField(source="member.is_own")
    profile_ids = serializers.SerializerMethodField()
    followers = FigureSerializer()
    posts_per_week = FigureSerializer()
    share = serializers.FloatField(allow_null=True)
    first = serializers.DateTimeField(allow_null=True)
    last = serializers.DateTimeField(allow_null=True)
    entered = serializers.DateField(allow_null=True)
    left = serializers.DateField(allow_null=True)

    def get_profile_ids(self, there: Any) -> list[int]:
        """Numbers of its profiles there."""
        return [profile.pk for profile in there.member.profiles]


class PresenceNetworkSerializer(serializers.Serializer[Any]):
    """A network as the set uses it."""

    key = serializers.CharField()
    name = serializers.CharField()
    others = serializers.IntegerField()
    audience = serializers.FloatField(allow_null=True)
    posts_each = serializers.FloatField(allow_null=True)
    figures = serializers.DictField(child=FigureSerializer())
    ours = serializers.DictField(child=FigureSerializer(), allow_null=True)
    members = ThereSerializer(many=True)


class PresenceSerializer(serializers.Serializer[Any]):
    """All networks that the set uses; unused: those that nobody of it is on."""

    period = PeriodSerializer()
    age_hours = serializers.IntegerField()
    columns = PeerColumnSerializer(many=True)
    networks = PresenceNetworkSerializer(many=True)
    unused = serializers.ListField(child=serializers.CharField())


class WorksQuerySerializer(PeerStudySerializer):
    """By what the others' posts are sorted."""

    of = serializers.ChoiceField(choices=GROUPINGS, default="format")


class WorkSerializer(serializers.Serializer[Any]):
    """A group of the others' posts, and our own use."""

    key = serializers.CharField(allow_blank=True)
    name = serializers.CharField(source="result.name", allow_blank=True)
    n = serializers.IntegerField(source="result.n")
    index = serializers.FloatField(source="result.index", allow_null=True)
    interval = IntervalSerializer(source="result.interval", allow_null=True)
    raw = RatioSerializer(source="result.raw", allow_null=True)
    adjusted = RatioSerializer(source="result.adjusted", allow_null=True)
    q = serializers.FloatField(source="result.q", allow_null=True)
    verdict = serializers.ChoiceField(source="result.verdict", choices=["better", "worse", "open", "few"])
    ours = serializers.IntegerField()
    our_index = serializers.FloatField(allow_null=True)
    terms = serializers.ListField(child=serializers.CharField())


class WorksSerializer(serializers.Serializer[Any]):
    """What works in the field."""

    by = serializers.ChoiceField(choices=GROUPINGS)
    period = PeriodSerializer()
    age_hours = serializers.IntegerField()
    groups = WorkSerializer(many=True)
    posts = serializers.IntegerField()
    left_out = serializers.IntegerField()
    not_read = serializers.IntegerField()
    ours_of = serializers.IntegerField()
    held = serializers.ListField(child=serializers.CharField())


class GapQuerySerializer(PeerStudySerializer):
    """Against whom."""

    against = serializers.RegexField(r"^(middle|c\d{1,18})$", default=MIDDLE, max_length=20)


class LeverSerializer(PlainSerializer):
    """One factor of the gap."""

    factor = serializers.CharField()
    ours = serializers.FloatField()
    theirs = serializers.FloatField()
    part = serializers.FloatField()
    interval = IntervalSerializer(allow_null=True)
    needed = serializers.FloatField()
    field_low = serializers.FloatField(allow_null=True)
    field_high = serializers.FloatField(allow_null=True)
    best_quarter = serializers.FloatField(allow_null=True)
    is_plausible = serializers.BooleanField(allow_null=True)


class GapMemberSerializer(serializers.Serializer[Any]):
    """Somebody whom we can be held against, with interactions a week where they are known."""

    key = serializers.CharField()
    name = serializers.CharField()
    interactions = serializers.FloatField(allow_null=True)


class GapSerializer(serializers.Serializer[Any]):
    """The gap."""

    title = serializers.CharField()
    against = serializers.CharField()
    name = serializers.CharField()
    problem = serializers.CharField(allow_blank=True)
    period = PeriodSerializer()
    age_hours = serializers.IntegerField()
    ours = serializers.FloatField(allow_null=True)
    theirs = serializers.FloatField(allow_null=True)
    levers = LeverSerializer(many=True)
    members = GapMemberSerializer(many=True)
    own_followers = serializers.FloatField(allow_null=True)
    own_profiles = serializers.ListField(child=serializers.IntegerField())
