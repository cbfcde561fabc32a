"""Shapes of the plan."""

from typing import Any

from dakika_core.plan.content import FIELDS
from dakika_core.plan.states import State
from rest_framework import serializers

from dakika_server.links.serializers.making import short_address
from dakika_server.plan.models import Version

STATE_CHOICES = [s.value for s in State]
OWN_CHOICES = [*FIELDS, "time"]


NUMBER: Any = {"min_value": 1, "max_value": 2**63 - 1}


class VersionLinkSerializer(serializers.Serializer[Any]):
    """The tracked link of a version: what stands in the text, and the page it leads to."""

    id = serializers.IntegerField(source="pk")
    short = serializers.SerializerMethodField()
    destination = serializers.CharField()

    def get_short(self, link: Any) -> str:
        """Its short address."""
        return short_address(link)


class VersionSerializer(serializers.Serializer[Any]):
    """A version, whole, and what became of it. own: what of it differs from what is common."""

    id = serializers.IntegerField(source="pk")
    profile_id = serializers.IntegerField()
    profile = serializers.CharField(source="profile.name")
    network = serializers.CharField(source="profile.network")
    text = serializers.CharField(allow_blank=True)
    headline = serializers.CharField(allow_blank=True)
    first_comment = serializers.CharField(allow_blank=True)
    media = serializers.ListField(child=serializers.IntegerField())
    options = serializers.DictField(child=serializers.CharField())
    own = serializers.ListField(child=serializers.ChoiceField(choices=OWN_CHOICES))
    link_id = serializers.IntegerField(allow_null=True)
    link = VersionLinkSerializer(allow_null=True)
    due_at = serializers.DateTimeField(allow_null=True)
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    error = serializers.CharField(allow_blank=True)
    remedy = serializers.ChoiceField(choices=Version.Remedy.values, allow_blank=True)
    first_comment_state = serializers.ChoiceField(choices=Version.Said.values, allow_blank=True)
    first_comment_error = serializers.CharField(allow_blank=True)
    published_at = serializers.DateTimeField(allow_null=True)
    post_id = serializers.IntegerField(allow_null=True)


class PlannedPostSerializer(serializers.Serializer[Any]):
    """A planned post: what is common, and its versions."""

    id = serializers.IntegerField(source="pk")
    title = serializers.CharField(allow_blank=True)
    text = serializers.CharField(allow_blank=True)
    headline = serializers.CharField(allow_blank=True)
    first_comment = serializers.CharField(allow_blank=True)
    media = serializers.ListField(child=serializers.IntegerField())
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    scheduled_at = serializers.DateTimeField(allow_null=True)
    campaign_id = serializers.IntegerField(allow_null=True)
    campaign = serializers.CharField(source="campaign.name", default=None, allow_null=True)
    edition = serializers.IntegerField()
    note = serializers.CharField(allow_blank=True)
    from_post = serializers.IntegerField(
        source="from_post_id", allow_null=True, help_text="the post that gave the idea"
    )
    versions = VersionSerializer(many=True, source="versions.all")


class IdeaSerializer(serializers.Serializer[Any]):
    """A post that gives an idea, and what there is to say of it."""

    post = serializers.IntegerField(min_value=1, max_value=2**63 - 1)
    note = serializers.CharField(allow_blank=True, max_length=2000, default="")


class VersionInputSerializer(serializers.Serializer[Any]):
    """A version as written; what is null or left out is as it is in common."""

    profile_id = serializers.IntegerField(**NUMBER)
    text = serializers.CharField(
        required=False, allow_null=True, allow_blank=True, max_length=20_000, trim_whitespace=False
    )
    headline = serializers.CharField(required=False, allow_null=True, allow_blank=True, max_length=300)
    first_comment = serializers.CharField(
        required=False, allow_null=True, allow_blank=True, max_length=20_000, trim_whitespace=False
    )
    media = serializers.ListField(
        child=serializers.IntegerField(**NUMBER), required=False, allow_null=True, max_length=20
    )
    options = serializers.DictField(
        child=serializers.CharField(max_length=200, allow_blank=True), required=False, help_text="such as a board"
    )
    link_id = serializers.IntegerField(required=False, allow_null=True, **NUMBER)
    scheduled_at = serializers.DateTimeField(required=False, allow_null=True, help_text="a time of its own")

    def validate_options(self, given: dict[str, str]) -> dict[str, str]:
        """A few short ones."""
        if len(given) > 10 or any(len(key) > 40 for key in given):
            raise serializers.ValidationError("These are no options of a network.")
        return {key: value.replace("\x00", "") for key, value in given.items()}


class CommonSerializer(serializers.Serializer[Any]):
    """What versions have in common."""

    text = serializers.CharField(allow_blank=True, max_length=20_000, trim_whitespace=False, default="")
    headline = serializers.CharField(allow_blank=True, max_length=300, default="")
    first_comment = serializers.CharField(allow_blank=True, max_length=20_000, trim_whitespace=False, default="")
    media = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=20, default=list)


class PlannedPostInputSerializer(serializers.Serializer[Any]):
    """A planned post as written. `edition` is the one that was read, when it is changed.

    Without common the versions are written out whole, and the first text is the common one.
    """

    title = serializers.CharField(allow_blank=True, max_length=200, default="")
    scheduled_at = serializers.DateTimeField(required=False, allow_null=True)
    campaign_id = serializers.IntegerField(required=False, allow_null=True, **NUMBER)
    edition = serializers.IntegerField(required=False)
    common = CommonSerializer(required=False, allow_null=True)
    versions = VersionInputSerializer(many=True)


class ScheduleSerializer(serializers.Serializer[Any]):
    """When to publish; null is now, after seconds of grace. `edition` is the one that was read."""

    edition = serializers.IntegerField()
    scheduled_at = serializers.DateTimeField(allow_null=True)
    grace = serializers.IntegerField(min_value=0, max_value=3600, default=0, help_text="seconds")


class MoveSerializer(serializers.Serializer[Any]):
    """Another time. `edition` is the one that was read."""

    edition = serializers.IntegerField()
    scheduled_at = serializers.DateTimeField()


class FillSerializer(serializers.Serializer[Any]):
    """Whose standing slots are to be filled with drafts, for how many days ahead."""

    profiles = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=2**63 - 1), min_length=1, max_length=20
    )
    days = serializers.IntegerField(min_value=1, max_value=60)


class FilledSerializer(serializers.Serializer[Any]):
    """How many drafts were made."""

    drafts = serializers.IntegerField()


class PlanQuerySerializer(serializers.Serializer[Any]):
    """Which days of the calendar, both included, and which posts; what is left out does not choose."""

    first = serializers.DateField()
    last = serializers.DateField()
    profiles = serializers.ListField(child=serializers.IntegerField(**NUMBER), required=False, max_length=200)
    networks = serializers.ListField(child=serializers.CharField(max_length=40), required=False, max_length=200)
    campaigns = serializers.ListField(child=serializers.IntegerField(**NUMBER), required=False, max_length=200)
    states = serializers.ListField(child=serializers.ChoiceField(choices=STATE_CHOICES), required=False, max_length=200)
    authors = serializers.ListField(child=serializers.IntegerField(**NUMBER), required=False, max_length=200)
    text = serializers.CharField(required=False, max_length=100, allow_blank=True)


class CalendarVersionSerializer(serializers.Serializer[Any]):
    """A version in the calendar."""

    id = serializers.IntegerField()
    profile = serializers.IntegerField()
    network = serializers.CharField()
    name = serializers.CharField()
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    at = serializers.DateTimeField(allow_null=True)
    error = serializers.CharField(allow_blank=True)
    remedy = serializers.ChoiceField(choices=Version.Remedy.values, allow_blank=True)
    first_comment = serializers.ChoiceField(choices=Version.Said.values, allow_blank=True)
    first_comment_error = serializers.CharField(allow_blank=True)


class CalendarEntrySerializer(serializers.Serializer[Any]):
    """A planned post in the calendar. picture: the first of its files."""

    id = serializers.IntegerField()
    title = serializers.CharField(allow_blank=True)
    text = serializers.CharField(allow_blank=True)
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    at = serializers.DateTimeField(allow_null=True)
    edition = serializers.IntegerField()
    campaign = serializers.IntegerField(allow_null=True)
    author = serializers.IntegerField(allow_null=True)
    author_name = serializers.CharField(allow_blank=True)
    picture = serializers.IntegerField(allow_null=True)
    versions = CalendarVersionSerializer(many=True)


class CalendarPostSerializer(serializers.Serializer[Any]):
    """A post that is out, beside the planned ones. planned: the planned post that it came of."""

    id = serializers.IntegerField()
    at = serializers.DateTimeField()
    profile = serializers.IntegerField()
    network = serializers.CharField()
    text = serializers.CharField(allow_blank=True)
    format = serializers.CharField()
    index = serializers.FloatField(allow_null=True)
    interactions = serializers.FloatField(allow_null=True)
    planned = serializers.IntegerField(allow_null=True)


class ClashSerializer(serializers.Serializer[Any]):
    """Two planned posts that get in each other's way; of a gap, those before and after it."""

    kind = serializers.ChoiceField(choices=["at_once", "same_link", "same_text", "gap"])
    first = serializers.IntegerField()
    second = serializers.IntegerField()
    campaign = serializers.IntegerField(allow_null=True)
    hours = serializers.FloatField()


class CalendarNoteInputSerializer(serializers.Serializer[Any]):
    """A day or days of one's own."""

    first = serializers.DateField()
    last = serializers.DateField()
    text = serializers.CharField(max_length=200)

    def validate(self, given: dict[str, Any]) -> dict[str, Any]:
        """The last day is not before the first."""
        if given["last"] < given["first"]:
            raise serializers.ValidationError({"last": "The last day lies before the first."})
        return given


class CalendarNoteSerializer(CalendarNoteInputSerializer):
    """The same as it is kept."""

    id = serializers.IntegerField()


class DaySerializer(serializers.Serializer[Any]):
    """A public holiday."""

    day = serializers.DateField()
    name = serializers.CharField()
    country = serializers.CharField()


class CalendarCampaignSerializer(serializers.Serializer[Any]):
    """A campaign that runs in the days shown."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    first_day = serializers.DateField()
    last_day = serializers.DateField()
    colour = serializers.IntegerField()


class PlanSerializer(serializers.Serializer[Any]):
    """A span of the calendar, and the drafts without a time."""

    planned = CalendarEntrySerializer(many=True)
    drafts = CalendarEntrySerializer(many=True)
    published = CalendarPostSerializer(many=True)
    clashes = ClashSerializer(many=True)
    notes = CalendarNoteSerializer(many=True)
    days = DaySerializer(many=True)
    campaigns = CalendarCampaignSerializer(many=True)


class ToSettleSerializer(serializers.Serializer[Any]):
    """A version that did not go out, or whose first comment did not."""

    id = serializers.IntegerField()
    planned = serializers.IntegerField()
    edition = serializers.IntegerField()
    title = serializers.CharField(allow_blank=True)
    network = serializers.CharField()
    profile = serializers.IntegerField()
    name = serializers.CharField()
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    at = serializers.DateTimeField(allow_null=True)
    error = serializers.CharField(allow_blank=True)
    remedy = serializers.ChoiceField(choices=Version.Remedy.values, allow_blank=True)
    is_first_comment = serializers.BooleanField()


class PauseSerializer(serializers.Serializer[Any]):
    """A pause. profile: null is all of the brand. waiting: how many versions wait in it."""

    profile = serializers.IntegerField(allow_null=True)
    name = serializers.CharField(allow_blank=True)
    why = serializers.CharField(allow_blank=True)
    begun_at = serializers.DateTimeField()
    begun_by = serializers.CharField(allow_blank=True)
    waiting = serializers.IntegerField()


class GoingOutSerializer(serializers.Serializer[Any]):
    """What is to be settled, and what is held back."""

    to_settle = ToSettleSerializer(many=True)
    pauses = PauseSerializer(many=True)


class PauseInputSerializer(serializers.Serializer[Any]):
    """What to hold back; null is everything."""

    profile = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    why = serializers.CharField(max_length=300, allow_blank=True, default="")


class PauseEndSerializer(serializers.Serializer[Any]):
    """What to let out again, and whether what had its minute meanwhile is sent now."""

    profile = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    send_overdue = serializers.BooleanField(default=False)


class PauseEndedSerializer(serializers.Serializer[Any]):
    """How many had their minute in the pause."""

    overdue = serializers.IntegerField()


class SettleSerializer(serializers.Serializer[Any]):
    """What to do with what did not go out: send it now, write the first comment again, or leave it."""

    what = serializers.ChoiceField(choices=["send", "say_again", "leave"])


class ByHandSerializer(serializers.Serializer[Any]):
    """That a version is out: its address, and since when (null is now)."""

    address = serializers.URLField(max_length=500, allow_blank=True, default="")
    at = serializers.DateTimeField(allow_null=True, default=None)


class ChannelInputSerializer(serializers.Serializer[Any]):
    """A channel that is published to by hand."""

    name = serializers.CharField(max_length=80)


class ChannelSerializer(serializers.Serializer[Any]):
    """The same, as a profile."""

    id = serializers.IntegerField(source="pk")
    name = serializers.CharField()
    network = serializers.CharField()


class WritableBrandSerializer(serializers.Serializer[Any]):
    """A brand that one may write for."""

    slug = serializers.CharField()
    name = serializers.CharField()


class HandInputSerializer(serializers.Serializer[Any]):
    """Which brands a post is handed to."""

    brands = serializers.ListField(child=serializers.SlugField(), min_length=1, max_length=50)


class HandedSerializer(serializers.Serializer[Any]):
    """A draft of another brand."""

    brand = serializers.CharField(source="brand.slug")
    name = serializers.CharField(source="brand.name")
    id = serializers.IntegerField(source="pk")


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


class HashtagSetInputSerializer(serializers.Serializer[Any]):
    """Hashtags that are put in together."""

    name = serializers.CharField(max_length=60)
    tags = serializers.ListField(child=serializers.CharField(max_length=100), min_length=1, max_length=60)


class HashtagSetSerializer(HashtagSetInputSerializer):
    """The same as it is kept."""

    id = serializers.IntegerField()


class OptionSerializer(serializers.Serializer[Any]):
    """What a network asks for with a post of this profile. problem: why the choices are not known."""

    key = serializers.CharField()
    name = serializers.CharField()
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
