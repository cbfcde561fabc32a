"""Profiles, who may read them for us, and what they are told to be day by day."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand

FROM_FILE = "file:"


class Competitor(models.Model):
    """Somebody else's presence: its profiles stand together under its name."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="competitors", db_index=False)
    name = models.CharField(max_length=120)
    website = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="competitor_name_once")]

    def __str__(self) -> str:
        return self.name


class Credential(models.Model):
    """An authorisation at a network; the tokens are encrypted. scopes are those that the person granted."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="credentials")
    network = models.CharField(max_length=40)
    access = models.BinaryField()
    refresh = models.BinaryField()
    expires_at = models.DateTimeField()
    scopes = ArrayField(models.CharField(max_length=100), default=list)
    is_lapsed = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"{self.network} {self.pk}"


class Profile(models.Model):
    """One account on a network, one's own or a competitor's.

    The network of an imported profile may be one that has no definition here. history_cursor is
    where bringing the history stopped; once history_done_at is set there is nothing older.
    """

    class Kind(models.TextChoices):
        """Whose it is."""

        OWN = "own"
        COMPETITOR = "competitor"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="profiles", db_index=False)
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
    next_run_at = models.DateTimeField(null=True)
    history_cursor = models.CharField(max_length=2000, blank=True)
    history_done_at = models.DateTimeField(null=True)
    hook_secret = models.BinaryField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "network", "external_id"], name="profile_once_per_brand"),
            models.CheckConstraint(
                condition=Q(kind="own", competitor__isnull=True) | Q(kind="competitor", competitor__isnull=False),
                name="competitors_profiles_have_one",
            ),
        ]
        indexes = [
            models.Index(fields=["next_run_at"], name="profile_due", condition=Q(is_followed=True)),
            models.Index(fields=["network", "external_id"], name="profile_by_account"),
        ]

    def __str__(self) -> str:
        return f"{self.handle} on {self.network}"

    @property
    def is_from_file(self) -> bool:
        """Whether its data come from files alone."""
        return self.external_id.startswith(FROM_FILE)


class ProfileReading(models.Model):
    """A profile's figures for a day (the brand's): followers at its end, the rest on it. NULL is missing."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="readings", db_index=False)
    day = models.DateField()
    taken_at = models.DateTimeField()
    followers = models.BigIntegerField(null=True)
    following = models.BigIntegerField(null=True)
    posts_total = models.BigIntegerField(null=True)
    gained = models.BigIntegerField(null=True)
    lost = models.BigIntegerField(null=True)
    reach = models.BigIntegerField(null=True)
    impressions = models.BigIntegerField(null=True)
    profile_visits = models.BigIntegerField(null=True)
    import_id = models.BigIntegerField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "day", "brand"], name="profile_reading_once_per_day")]
        indexes = [
            models.Index(fields=["import_id"], name="profile_reading_by_import", condition=Q(import_id__isnull=False))
        ]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.day}"


class PresenceReading(models.Model):
    """When a profile's audience was online: 168 values by hour of the UTC week, and its zones with their shares."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="presence_readings", db_index=False)
    day = models.DateField()
    hours_utc = ArrayField(models.IntegerField(), size=168)
    zones = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "day", "brand"], name="presence_once_per_day")]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.day}"


class AudienceReading(models.Model):
    """Who a profile's audience was on a day, by one dimension: segment to share (0 to 1)."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="audience_readings", db_index=False)
    day = models.DateField()
    dimension = models.CharField(max_length=20)
    segments = models.JSONField(default=dict)
    import_id = models.BigIntegerField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["profile", "dimension", "day", "brand"], name="audience_once_per_day"),
        ]
        indexes = [models.Index(fields=["import_id"], name="audience_by_import", condition=Q(import_id__isnull=False))]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.dimension} {self.day}"


class ProfileRebuild(models.Model):
    """How far the work is that follows from a profile's new rows: posts worked out, of how many. Told on the screen.

    asked_at is the latest wish, begun_at when it was taken up; it is done once ended_at is not before asked_at.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    profile = models.OneToOneField(Profile, on_delete=models.CASCADE, related_name="rebuild")
    asked_at = models.DateTimeField()
    begun_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    done = models.IntegerField(default=0)
    total = models.IntegerField(default=0)

    def __str__(self) -> str:
        return f"{self.profile_id}: {self.done} of {self.total}"

    @property
    def is_open(self) -> bool:
        """Whether figures are still being worked out."""
        return self.ended_at is None or self.ended_at < self.asked_at
