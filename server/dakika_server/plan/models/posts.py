"""Planned posts and their versions, and what holds them back."""

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
    from_idea = models.ForeignKey("plan.Idea", on_delete=models.SET_NULL, null=True, related_name="posts")
    repetition = models.ForeignKey("plan.Repetition", on_delete=models.SET_NULL, null=True, related_name="posts")
    state = models.CharField(max_length=12, choices=STATES, default=State.DRAFT.value)
    scheduled_at = models.DateTimeField(null=True)
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, related_name="planned_posts")
    link = models.ForeignKey(TrackedLink, on_delete=models.SET_NULL, null=True, related_name="planned_posts")
    text = models.TextField(blank=True, default="", db_default="", help_text="what its versions have in common")
    headline = models.CharField(max_length=300, blank=True, default="", db_default="")
    first_comment = models.TextField(blank=True, default="", db_default="")
    media = ArrayField(models.BigIntegerField(), default=list, db_default=[], help_text="assets, in their order")
    in_own_feed = models.BooleanField(default=False, db_default=False, help_text="also an item of the brand's own feed")
    as_push = models.BooleanField(default=False, db_default=False, help_text="also a message to browsers")
    tags = ArrayField(models.BigIntegerField(), default=list, db_default=[], help_text="tags it is to have when out")
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
    narrowest = models.FloatField(null=True, help_text="width divided by height of its pictures and videos, at least")
    widest = models.FloatField(null=True)
    largest_picture_mb = models.FloatField(null=True)
    largest_video_mb = models.FloatField(null=True)

    def __str__(self) -> str:
        return f"rules of {self.profile_id}"
