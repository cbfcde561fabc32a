"""Shapes of saying yes: rules, verdicts, remarks, votes, tasks, guests."""

from typing import Any

from dakika_core.plan.review import MAY_SAY
from rest_framework import serializers

from dakika_server.plan.models import Guest
from dakika_server.plan.serializers.posts import NUMBER, STATE_CHOICES


class ReviewRulesSerializer(serializers.Serializer[Any]):
    """Who has to say yes: no step, one or two, each a role."""

    steps = serializers.ListField(child=serializers.ChoiceField(choices=list(MAY_SAY)), max_length=2)
    may_approve_own = serializers.BooleanField()
    remind_hours = serializers.IntegerField(min_value=1, max_value=240)


class SubmitSerializer(serializers.Serializer[Any]):
    """Asking for a yes; edition is the one that was read."""

    edition = serializers.IntegerField()


class VerdictInputSerializer(serializers.Serializer[Any]):
    """A yes, or what is to be changed; digest is that of what was looked at."""

    is_yes = serializers.BooleanField()
    words = serializers.CharField(max_length=4000, allow_blank=True, default="")
    digest = serializers.CharField(max_length=64)


class VerdictSerializer(serializers.Serializer[Any]):
    """What somebody said. is_of_this: whether it was said of what the post is now."""

    name = serializers.CharField()
    at = serializers.DateTimeField()
    step = serializers.IntegerField()
    is_yes = serializers.BooleanField()
    words = serializers.CharField(allow_blank=True)
    is_of_this = serializers.BooleanField()


class RemarkInputSerializer(serializers.Serializer[Any]):
    """Something said: of all of the post, words that are quoted, a picture, or one version."""

    text = serializers.CharField(max_length=4000)
    quote = serializers.CharField(max_length=300, allow_blank=True, default="")
    asset = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    profile_id = serializers.IntegerField(allow_null=True, default=None, **NUMBER)


class RemarkSerializer(serializers.Serializer[Any]):
    """The same as it is kept."""

    id = serializers.IntegerField(source="pk")
    name = serializers.CharField()
    is_guest = serializers.BooleanField()
    at = serializers.DateTimeField()
    text = serializers.CharField()
    quote = serializers.CharField(allow_blank=True)
    asset = serializers.IntegerField(allow_null=True)
    profile_id = serializers.IntegerField(allow_null=True)
    is_settled = serializers.BooleanField()


class SettleRemarkSerializer(serializers.Serializer[Any]):
    """Whether a remark is settled."""

    is_settled = serializers.BooleanField()


class VoteSerializer(serializers.Serializer[Any]):
    """For (1), against (-1), neither (0)."""

    value = serializers.IntegerField(min_value=-1, max_value=1)


class VotesSerializer(serializers.Serializer[Any]):
    """How many are for and against, and how oneself voted."""

    for_it = serializers.IntegerField()
    against = serializers.IntegerField()
    mine = serializers.IntegerField()


class SeenVersionSerializer(serializers.Serializer[Any]):
    """A version as it is, or was, seen."""

    profile = serializers.IntegerField()
    name = serializers.CharField()
    network = serializers.CharField()
    text = serializers.CharField(allow_blank=True)
    headline = serializers.CharField(allow_blank=True)
    first_comment = serializers.CharField(allow_blank=True)
    media = serializers.ListField(child=serializers.IntegerField())


class SeenSerializer(serializers.Serializer[Any]):
    """A post as it is, or was, seen."""

    at = serializers.DateTimeField(allow_null=True)
    versions = SeenVersionSerializer(many=True)


class ReviewSerializer(serializers.Serializer[Any]):
    """A post to say yes to. step: the one that waits, null where none does; may_say: whether one's own yes counts now.

    before: what it was like when one looked last, null where it is the same or one never did.
    """

    id = serializers.IntegerField()
    title = serializers.CharField(allow_blank=True)
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    campaign = serializers.CharField(allow_null=True)
    edition = serializers.IntegerField()
    digest = serializers.CharField()
    steps = serializers.ListField(child=serializers.CharField())
    step = serializers.IntegerField(allow_null=True)
    may_say = serializers.BooleanField()
    asked_by = serializers.CharField(allow_blank=True)
    now = SeenSerializer()
    before = SeenSerializer(allow_null=True)
    looked_at = serializers.DateTimeField(allow_null=True)
    verdicts = VerdictSerializer(many=True)
    remarks = RemarkSerializer(many=True)
    votes = VotesSerializer()


class TaskInputSerializer(serializers.Serializer[Any]):
    """Something to be done by somebody."""

    text = serializers.CharField(max_length=300)
    person = serializers.IntegerField(**NUMBER)
    due_on = serializers.DateField(allow_null=True, default=None)
    planned = serializers.IntegerField(allow_null=True, default=None, **NUMBER)
    campaign = serializers.IntegerField(allow_null=True, default=None, **NUMBER)


class TaskQuerySerializer(serializers.Serializer[Any]):
    """Whose tasks, of which post; done ones or those to be done."""

    mine = serializers.BooleanField(default=False)
    planned = serializers.IntegerField(required=False, **NUMBER)
    is_done = serializers.BooleanField(default=False)


class TaskSerializer(serializers.Serializer[Any]):
    """The same as it is kept."""

    id = serializers.IntegerField(source="pk")
    text = serializers.CharField()
    person = serializers.IntegerField(source="person_id")
    person_name = serializers.CharField(source="person.name")
    due_on = serializers.DateField(allow_null=True)
    done_at = serializers.DateTimeField(allow_null=True)
    planned = serializers.IntegerField(source="planned_post_id", allow_null=True)
    planned_title = serializers.CharField(source="planned_post.title", default="")
    campaign = serializers.IntegerField(source="campaign_id", allow_null=True)
    campaign_name = serializers.CharField(source="campaign.name", default="")


class TaskDoneSerializer(serializers.Serializer[Any]):
    """Whether it is done."""

    is_done = serializers.BooleanField()


class GuestInputSerializer(serializers.Serializer[Any]):
    """A link for somebody without an account: what they see, what they may do, and until when."""

    name = serializers.CharField(max_length=80)
    may = serializers.ChoiceField(choices=Guest.May.values)
    campaigns = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=50, default=list)
    first_day = serializers.DateField(allow_null=True, default=None)
    last_day = serializers.DateField(allow_null=True, default=None)
    until = serializers.DateTimeField()


class GuestSerializer(serializers.Serializer[Any]):
    """A guest's link, without what it opens with."""

    id = serializers.IntegerField(source="pk")
    name = serializers.CharField()
    may = serializers.ChoiceField(choices=Guest.May.values)
    campaigns = serializers.SerializerMethodField()
    first_day = serializers.DateField(allow_null=True)
    last_day = serializers.DateField(allow_null=True)
    until = serializers.DateTimeField()
    revoked_at = serializers.DateTimeField(allow_null=True)
    seen_at = serializers.DateTimeField(allow_null=True)

    def get_campaigns(self, guest: Guest) -> list[str]:
        """Names of those that are shown."""
        return [campaign.name for campaign in guest.campaigns.all()]


class InvitedSerializer(serializers.Serializer[Any]):
    """A new link: its address is told once."""

    guest = GuestSerializer()
    address = serializers.CharField()


class GuestKeySerializer(serializers.Serializer[Any]):
    """What a link opens with."""

    key = serializers.CharField(max_length=100)


class GuestPostSerializer(serializers.Serializer[Any]):
    """A post in a guest's list."""

    id = serializers.IntegerField()
    title = serializers.CharField(allow_blank=True)
    text = serializers.CharField(allow_blank=True)
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    at = serializers.DateTimeField(allow_null=True)
    networks = serializers.ListField(child=serializers.CharField())
    picture = serializers.IntegerField(allow_null=True)
    waits = serializers.BooleanField(help_text="for this guest's yes")


class GuestPageSerializer(serializers.Serializer[Any]):
    """What a guest sees."""

    brand = serializers.CharField()
    zone = serializers.CharField()
    name = serializers.CharField()
    may = serializers.ChoiceField(choices=Guest.May.values)
    until = serializers.DateTimeField()
    networks = serializers.DictField(child=serializers.CharField(), help_text="names by key")
    posts = GuestPostSerializer(many=True)


class LogEntrySerializer(serializers.Serializer[Any]):
    """What somebody did with a post, or the worker sent. at: the time that was set."""

    when = serializers.DateTimeField()
    who = serializers.CharField(allow_blank=True)
    is_guest = serializers.BooleanField()
    action = serializers.CharField()
    at = serializers.DateTimeField(allow_null=True)
    network = serializers.CharField(allow_blank=True)
