"""Shapes of the calendar, of what did not go out, and of pauses."""

from typing import Any

from rest_framework import serializers

from dakika_server.plan.models import Version
from dakika_server.plan.serializers.posts import NUMBER, STATE_CHOICES


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


class CalendarEventSerializer(serializers.Serializer[Any]):
    """An event of a followed calendar. at: null takes whole days."""

    id = serializers.IntegerField()
    calendar = serializers.IntegerField()
    first = serializers.DateField()
    last = serializers.DateField()
    at = serializers.DateTimeField(allow_null=True)
    text = serializers.CharField()


class FollowedCalendarInputSerializer(serializers.Serializer[Any]):
    """The address of a calendar, and what to call it; empty is as it calls itself."""

    address = serializers.CharField(max_length=2000)
    name = serializers.CharField(max_length=200, allow_blank=True, default="")


class FollowedCalendarSerializer(serializers.Serializer[Any]):
    """A followed calendar; its address may be a secret and is not told. message: what went wrong last."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    fetched_at = serializers.DateTimeField(allow_null=True)
    message = serializers.CharField(allow_blank=True)


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
    events = CalendarEventSerializer(many=True)
    calendars = FollowedCalendarSerializer(many=True)
    campaigns = CalendarCampaignSerializer(many=True)


class PlanExportSerializer(serializers.Serializer[Any]):
    """Which days, and as what."""

    first = serializers.DateField()
    last = serializers.DateField()
    form = serializers.ChoiceField(choices=["csv", "xlsx", "ics"])


class SubscriptionSerializer(serializers.Serializer[Any]):
    """The address to subscribe to."""

    address = serializers.CharField()


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
