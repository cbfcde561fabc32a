"""Profiles, posts and their readings, and the runs and files that brought them.

Readings carry brand_id and are keyed by post and instant: the same observation cannot be stored
twice, whoever brings it, and the table can be split by brand or month later.
"""

from dakika_core.networks.definition import Format
from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand, Campaign

FORMATS = [(f.value, f.value.replace("_", " ")) for f in Format]


class Competitor(models.Model):
    """Somebody else's presence: its profiles stand together under its name."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="competitors")
    name = models.CharField(max_length=120)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="competitor_name_once")]

    def __str__(self) -> str:
        return self.name


class Credential(models.Model):
    """An authorisation at a network; the tokens are encrypted."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="credentials")
    network = models.CharField(max_length=40)
    access = models.BinaryField()
    refresh = models.BinaryField()
    expires_at = models.DateTimeField()
    is_lapsed = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"{self.network} {self.pk}"


class Profile(models.Model):
    """One account on a network, one's own or a competitor's."""

    class Kind(models.TextChoices):
        """Whose it is."""

        OWN = "own"
        COMPETITOR = "competitor"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="profiles")
    competitor = models.ForeignKey(Competitor, on_delete=models.CASCADE, null=True, related_name="profiles")
    credential = models.ForeignKey(Credential, on_delete=models.SET_NULL, null=True, related_name="profiles")
    network = models.CharField(max_length=40)
    external_id = models.CharField(max_length=200)
    handle = models.CharField(max_length=200)
    name = models.CharField(max_length=200)
    kind = models.CharField(max_length=12, choices=Kind.choices)
    picture = models.CharField(max_length=500, blank=True)
    is_followed = models.BooleanField(default=True)
    added_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "network", "external_id"], name="profile_once_per_brand"),
            models.CheckConstraint(
                condition=Q(kind="own", competitor__isnull=True) | Q(kind="competitor", competitor__isnull=False),
                name="competitors_profiles_have_one",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.handle} on {self.network}"


class Post(models.Model):
    """What was published on a profile. Removed posts are marked, never erased."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="posts")
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, related_name="posts")
    external_id = models.CharField(max_length=200)
    published_at = models.DateTimeField()
    format = models.CharField(max_length=12, choices=FORMATS)
    text = models.TextField(blank=True)
    url = models.CharField(max_length=2000, blank=True)
    hashtags = ArrayField(models.CharField(max_length=100), default=list)
    removed_at = models.DateTimeField(null=True)
    first_import = models.ForeignKey("Import", on_delete=models.SET_NULL, null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "external_id"], name="post_once_per_profile")]
        indexes = [
            models.Index(fields=["brand", "published_at"], name="post_by_brand_time"),
            models.Index(fields=["profile", "published_at"], name="post_by_profile_time"),
        ]

    def __str__(self) -> str:
        return f"{self.external_id} {self.text[:40]}"


class PostReading(models.Model):
    """One dated observation of a post's counters. NULL is missing, never zero."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="readings")
    taken_at = models.DateTimeField()
    impressions = models.BigIntegerField(null=True)
    reach = models.BigIntegerField(null=True)
    reactions = models.BigIntegerField(null=True)
    comments = models.BigIntegerField(null=True)
    shares = models.BigIntegerField(null=True)
    saves = models.BigIntegerField(null=True)
    link_clicks = models.BigIntegerField(null=True)
    video_views = models.BigIntegerField(null=True)
    negative = models.BigIntegerField(null=True)
    raw = models.JSONField(null=True, help_text="what the network said, in its own words")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "taken_at"], name="reading_once_per_instant")]

    def __str__(self) -> str:
        return f"{self.post_id} {self.taken_at}"


class ProfileReading(models.Model):
    """A profile's followers at the end of a day (the brand's), gained and lost on it where reported."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="readings")
    day = models.DateField()
    taken_at = models.DateTimeField()
    followers = models.BigIntegerField(null=True)
    gained = models.BigIntegerField(null=True)
    lost = models.BigIntegerField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "day"], name="profile_reading_once_per_day")]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.day}"


class PresenceReading(models.Model):
    """When a profile's audience was online: 168 values by hour of the UTC week, and its zones with their shares."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="presence_readings")
    day = models.DateField()
    hours_utc = ArrayField(models.IntegerField(), size=168)
    zones = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "day"], name="presence_once_per_day")]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.day}"


class CollectionRun(models.Model):
    """One job that brings what a network says of a profile."""

    class State(models.TextChoices):
        """How it stands. A partial run says in `message` what is missing."""

        WAITING = "waiting"
        RUNNING = "running"
        COMPLETE = "complete"
        PARTIAL = "partial"
        FAILED = "failed"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="runs")
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    asked_at = models.DateTimeField()
    started_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    posts_seen = models.IntegerField(default=0)
    posts_new = models.IntegerField(default=0)
    readings_new = models.IntegerField(default=0)
    requests = models.IntegerField(default=0)
    calls_left = models.IntegerField(null=True)
    message = models.CharField(max_length=500, blank=True)

    class Meta:
        indexes = [models.Index(fields=["brand", "-asked_at"], name="run_by_brand_time")]
        constraints = [
            models.UniqueConstraint(
                fields=["profile"], condition=Q(state__in=["waiting", "running"]), name="one_open_run_per_profile"
            )
        ]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.state}"


class Connection(models.Model):
    """A consent on its way: the secret state, and afterwards the accounts that are offered."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    network = models.CharField(max_length=40)
    state = models.CharField(max_length=64, unique=True)
    verifier = models.BinaryField()
    credential = models.ForeignKey(Credential, on_delete=models.SET_NULL, null=True)
    offered = models.JSONField(default=list)
    created_at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.network} {self.pk}"


class Import(models.Model):
    """A file of posts: its rows wait until the mapping is confirmed, and are thrown away once they are read."""

    class State(models.TextChoices):
        """How it stands."""

        WAITING = "waiting"
        DONE = "done"
        DISCARDED = "discarded"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.SET_NULL, null=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()
    file_name = models.CharField(max_length=255)
    digest = models.CharField(max_length=64)
    encoding = models.CharField(max_length=20, blank=True)
    delimiter = models.CharField(max_length=1, blank=True)
    header = models.JSONField(default=list)
    rows = models.JSONField(default=list)
    row_count = models.IntegerField(default=0)
    mapping = models.JSONField(default=dict)
    is_day_first = models.BooleanField(default=True)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    accepted = models.IntegerField(default=0)
    refused = models.IntegerField(default=0)
    added = models.IntegerField(default=0)

    class Meta:
        indexes = [models.Index(fields=["brand", "-created_at"], name="import_by_brand_time")]

    def __str__(self) -> str:
        return self.file_name
