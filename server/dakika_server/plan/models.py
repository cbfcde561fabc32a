"""Planned posts and their versions."""

import uuid

from dakika_core.plan.states import State, overall
from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand, Campaign
from dakika_server.links.models import TrackedLink
from dakika_server.sources.models import Post, Profile

STATES = [(s.value, s.value.replace("_", " ")) for s in State]


class PlannedPost(models.Model):
    """What is to be published. `edition` counts changes, so that nobody writes over another's unseen.

    text, headline, first_comment and media are what its versions have in common; addresses in the texts are those of
    the pages, each version shows its own tracked link instead.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="planned_posts", db_index=False)
    title = models.CharField(max_length=200, blank=True)
    note = models.TextField(blank=True, default="", db_default="", help_text="what it is about, for the team alone")
    from_post = models.ForeignKey(
        Post, on_delete=models.SET_NULL, null=True, related_name="+", help_text="the post that gave the idea"
    )
    state = models.CharField(max_length=12, choices=STATES, default=State.DRAFT.value)
    scheduled_at = models.DateTimeField(null=True)
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, related_name="planned_posts")
    link = models.ForeignKey(TrackedLink, on_delete=models.SET_NULL, null=True, related_name="planned_posts")
    text = models.TextField(blank=True, default="", db_default="", help_text="what its versions have in common")
    headline = models.CharField(max_length=300, blank=True, default="", db_default="")
    first_comment = models.TextField(blank=True, default="", db_default="")
    media = ArrayField(models.BigIntegerField(), default=list, db_default=[], help_text="assets, in their order")
    edition = models.PositiveIntegerField(default=1)
    approved = models.CharField(
        max_length=64, blank=True, default="", db_default="", help_text="digest of what was said yes to by all"
    )
    submitted_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    submitted_at = models.DateTimeField(null=True)
    reminded_at = models.DateTimeField(null=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()

    class Meta:
        indexes = [
            models.Index(fields=["brand", "scheduled_at"], name="planned_by_brand_time"),
            models.Index(
                fields=["scheduled_at"],
                name="planned_in_review_by_time",
                condition=Q(state__in=["in_review", "approved"]),
            ),
        ]
        constraints = [
            models.CheckConstraint(
                condition=~Q(state__in=["scheduled", "publishing", "published"]) | Q(scheduled_at__isnull=False),
                name="scheduled_posts_have_a_time",
            )
        ]

    def __str__(self) -> str:
        return self.title or f"planned post {self.pk}"

    def settle(self) -> None:
        """Its state follows from its versions'; to be saved by who holds its row."""
        self.state = overall([State(state) for state in self.versions.values_list("state", flat=True)]).value


class Version(models.Model):
    """A planned post's form for one profile, and what became of it.

    The idempotency key is made once, when the version is made: whatever crashes, the network is
    asked with the same key and publishes once. text to media are whole, as they are to be sent; own names those that
    differ from what is common. due_at is its minute: its own where "time" is among own, else the planned post's.
    """

    class Remedy(models.TextChoices):
        """What helps a version that was not published."""

        LATER = "later"
        CHANGE = "change"
        AUTHORISE = "authorise"
        CHECK = "check"

    class Said(models.TextChoices):
        """Where its first comment stands."""

        NONE = ""
        WAITING = "waiting"
        DONE = "done"
        FAILED = "failed"

    planned_post = models.ForeignKey(PlannedPost, on_delete=models.CASCADE, related_name="versions", db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="versions")
    text = models.TextField(blank=True)
    headline = models.CharField(max_length=300, blank=True, default="", db_default="")
    first_comment = models.TextField(blank=True, default="", db_default="")
    media = ArrayField(models.BigIntegerField(), default=list, db_default=[], help_text="assets, in their order")
    options = models.JSONField(default=dict, db_default={}, help_text="the network's own, such as a board")
    own = ArrayField(models.CharField(max_length=16), default=list, db_default=[])
    due_at = models.DateTimeField(null=True)
    link = models.ForeignKey(TrackedLink, on_delete=models.SET_NULL, null=True, related_name="versions")
    state = models.CharField(max_length=12, choices=STATES, default=State.DRAFT.value)
    idempotency_key = models.UUIDField(default=uuid.uuid4, unique=True)
    attempts = models.PositiveIntegerField(default=0)
    published_at = models.DateTimeField(null=True)
    external_id = models.CharField(max_length=200, blank=True)
    error = models.CharField(max_length=500, blank=True)
    remedy = models.CharField(max_length=10, choices=Remedy.choices, blank=True, default="", db_default="")
    first_comment_state = models.CharField(max_length=8, choices=Said.choices, blank=True, default="", db_default="")
    first_comment_error = models.CharField(max_length=300, blank=True, default="", db_default="")
    post = models.OneToOneField(Post, on_delete=models.SET_NULL, null=True, related_name="version")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["planned_post", "profile"], name="one_version_per_profile")]
        indexes = [models.Index(fields=["state", "due_at"], name="version_by_state_and_minute")]

    def __str__(self) -> str:
        return f"{self.planned_post_id} for {self.profile_id}"


class Pause(models.Model):
    """Nothing goes out of a brand, or of one profile, until somebody ends it. profile None: of all of them."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="pauses", db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, null=True, related_name="pauses")
    why = models.CharField(max_length=300, blank=True)
    begun_at = models.DateTimeField()
    begun_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "profile"], nulls_distinct=False, name="one_pause_each")
        ]

    def __str__(self) -> str:
        return f"pause of {self.profile_id or self.brand_id}"


class Writing(models.Model):
    """What a person is writing, as it stands: kept while they write, seen by who opens the same post."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+", db_index=False)
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+")
    planned_post = models.ForeignKey(PlannedPost, on_delete=models.CASCADE, null=True, related_name="writings")
    content = models.JSONField()
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["person", "brand", "planned_post"], nulls_distinct=False, name="one_writing_each"
            )
        ]

    def __str__(self) -> str:
        return f"{self.person_id} at {self.planned_post_id or 'a new post'}"


class Note(models.Model):
    """A day of one's own in the calendar: an opening, a closure, something to keep in mind."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="notes", db_index=False)
    first = models.DateField()
    last = models.DateField()
    text = models.CharField(max_length=200)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=Q(last__gte=models.F("first")), name="notes_end_after_they_begin")
        ]
        indexes = [models.Index(fields=["brand", "last"], name="note_by_brand_day")]

    def __str__(self) -> str:
        return self.text


class ChannelRules(models.Model):
    """What a channel without a connection takes, as somebody of the brand said. None: nothing is known; 0: none."""

    profile = models.OneToOneField(Profile, on_delete=models.CASCADE, related_name="channel_rules")
    text_limit = models.PositiveIntegerField()
    title_limit = models.PositiveIntegerField(default=0)
    needs_text = models.BooleanField(default=False)
    most_hashtags = models.PositiveIntegerField(null=True)
    has_links = models.BooleanField(default=True)
    most_pictures = models.PositiveIntegerField(default=0)
    needs_picture = models.BooleanField(default=False)
    takes_videos = models.BooleanField(default=False)
    longest_seconds = models.PositiveIntegerField(null=True)
    takes_documents = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"rules of {self.profile_id}"


class FollowedCalendar(models.Model):
    """A calendar of somebody else, shown beside the plan; asked for anew some times a day."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="followed_calendars", db_index=False)
    address = models.URLField(max_length=2000)
    name = models.CharField(max_length=200)
    etag = models.CharField(max_length=300, blank=True)
    fetched_at = models.DateTimeField(null=True)
    next_at = models.DateTimeField(null=True, db_index=True)
    failures = models.PositiveIntegerField(default=0)
    message = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "address"], name="one_followed_calendar_each")]

    def __str__(self) -> str:
        return self.name


class CalendarEvent(models.Model):
    """An event of a followed calendar, as it stood when it was last asked for. at: None takes whole days."""

    calendar = models.ForeignKey(FollowedCalendar, on_delete=models.CASCADE, related_name="events", db_index=False)
    first = models.DateField()
    last = models.DateField()
    at = models.DateTimeField(null=True)
    text = models.CharField(max_length=200)

    class Meta:
        indexes = [models.Index(fields=["calendar", "last"], name="event_by_calendar_day")]

    def __str__(self) -> str:
        return self.text


class ReviewRules(models.Model):
    """Who has to say yes before a brand's posts go out: no step, one, or two, each a role."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, related_name="review_rules")
    steps = ArrayField(models.CharField(max_length=10), default=list)
    may_approve_own = models.BooleanField(default=False)
    remind_hours = models.PositiveIntegerField(default=24)

    def __str__(self) -> str:
        return f"{self.brand_id}: {', '.join(self.steps) or 'nobody'}"


class Guest(models.Model):
    """Somebody without an account, who sees what a link of their own shows. Only a digest of the link is kept.

    Campaigns or days bound what is shown; where neither is named, nothing is.
    """

    class May(models.TextChoices):
        """What a guest may do; each may what stands before it."""

        LOOK = "look"
        COMMENT = "comment"
        VOTE = "vote"
        APPROVE = "approve"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="guests", db_index=False)
    name = models.CharField(max_length=80)
    digest = models.CharField(max_length=64, unique=True)
    may = models.CharField(max_length=8, choices=May.choices)
    campaigns = models.ManyToManyField(Campaign, related_name="+")
    first_day = models.DateField(null=True)
    last_day = models.DateField(null=True)
    until = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)
    seen_at = models.DateTimeField(null=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    made_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["brand", "-made_at"], name="guest_by_brand")]

    def __str__(self) -> str:
        return self.name


class Said(models.Model):
    """By whom: a person of the team, or a guest."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    guest = models.ForeignKey(Guest, on_delete=models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=120, help_text="as they were called then")
    at = models.DateTimeField()

    class Meta:
        abstract = True


class ReviewVerdict(Said):
    """A yes at a step, or a wish for a change, to what had a digest then."""

    planned_post = models.ForeignKey(PlannedPost, on_delete=models.CASCADE, related_name="verdicts")
    step = models.PositiveSmallIntegerField()
    is_yes = models.BooleanField()
    words = models.TextField(blank=True)
    digest = models.CharField(max_length=64)

    def __str__(self) -> str:
        return f"{self.name}: {'yes' if self.is_yes else 'change'}"


class Remark(Said):
    """What somebody says about a post, some words of it, a picture, or one of its versions."""

    planned_post = models.ForeignKey(PlannedPost, on_delete=models.CASCADE, related_name="remarks")
    profile = models.ForeignKey(Profile, on_delete=models.SET_NULL, null=True, related_name="+")
    quote = models.CharField(max_length=300, blank=True)
    asset = models.BigIntegerField(null=True)
    text = models.TextField()
    settled_at = models.DateTimeField(null=True)
    settled_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")

    def __str__(self) -> str:
        return self.text[:60]


class Vote(models.Model):
    """For (1) or against (-1) a post or an idea; one each."""

    planned_post = models.ForeignKey(PlannedPost, on_delete=models.CASCADE, related_name="votes", db_index=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="+")
    guest = models.ForeignKey(Guest, on_delete=models.CASCADE, null=True, related_name="+")
    value = models.SmallIntegerField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["planned_post", "person", "guest"], nulls_distinct=False, name="one_vote_each"
            ),
            models.CheckConstraint(condition=Q(value__in=[-1, 1]), name="votes_are_for_or_against"),
        ]

    def __str__(self) -> str:
        return f"{self.value} for {self.planned_post_id}"


class Look(models.Model):
    """What a post was like when somebody looked at it last, so that what changed since can be shown."""

    planned_post = models.ForeignKey(PlannedPost, on_delete=models.CASCADE, related_name="looks", db_index=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="+")
    guest = models.ForeignKey(Guest, on_delete=models.CASCADE, null=True, related_name="+")
    content = models.JSONField()
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["planned_post", "person", "guest"], nulls_distinct=False, name="one_look_each"
            )
        ]

    def __str__(self) -> str:
        return f"{self.planned_post_id} at {self.at}"


class Task(models.Model):
    """Something that somebody is to do, about a post, a campaign, or by itself."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="tasks", db_index=False)
    planned_post = models.ForeignKey(PlannedPost, on_delete=models.CASCADE, null=True, related_name="tasks")
    campaign = models.ForeignKey(Campaign, on_delete=models.CASCADE, null=True, related_name="tasks")
    text = models.CharField(max_length=300)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tasks")
    due_on = models.DateField(null=True)
    done_at = models.DateTimeField(null=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["brand", "person", "done_at", "due_on"], name="task_by_person")]

    def __str__(self) -> str:
        return self.text


class Batch(models.Model):
    """Many posts that came in one table, to be made together and taken back together."""

    class State(models.TextChoices):
        """Where it stands."""

        CHECKED = "checked"
        MAKING = "making"
        MADE = "made"
        UNDONE = "undone"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="batches", db_index=False)
    name = models.CharField(max_length=200)
    state = models.CharField(max_length=8, choices=State.choices, default=State.CHECKED)
    header = ArrayField(models.TextField(), default=list)
    columns = models.JSONField(default=dict, help_text="field to column")
    choices = models.JSONField(default=dict, help_text="order of dates, times, profiles, what becomes of them")
    left_out = models.PositiveIntegerField(default=0, help_text="rows beyond the most that are taken")
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    made_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["brand", "-made_at"], name="batch_by_brand")]

    def __str__(self) -> str:
        return self.name


class BatchRow(models.Model):
    """A row of it: its cells as they came, what was mended of them, and the post that was made of it."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="rows", db_index=False)
    number = models.PositiveIntegerField(help_text="as the file counts")
    cells = models.JSONField(default=list)
    mended = models.JSONField(default=dict)
    problem = models.CharField(max_length=500, blank=True, help_text="why no post was made of it")
    planned_post = models.ForeignKey(PlannedPost, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["batch", "number"], name="one_row_each")]

    def __str__(self) -> str:
        return f"row {self.number} of {self.batch_id}"


class CalendarKey(models.Model):
    """A person's address at which the plan can be subscribed to; only a digest of its key is kept."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    digest = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "person"], name="one_calendar_key_each")]

    def __str__(self) -> str:
        return f"{self.person_id} for {self.brand_id}"


class HashtagSet(models.Model):
    """Hashtags that are put into a text together."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="hashtag_sets", db_index=False)
    name = models.CharField(max_length=60)
    tags = ArrayField(models.CharField(max_length=100))

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="one_hashtag_set_per_name")]

    def __str__(self) -> str:
        return self.name
