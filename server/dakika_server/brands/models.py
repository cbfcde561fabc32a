"""Brands, and who may do what with them."""

from zoneinfo import ZoneInfo

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.accounts.permissions import Role


class Brand(models.Model):
    """Whose presence is looked after."""

    name = models.CharField(max_length=120)
    slug = models.SlugField(unique=True)
    time_zone = models.CharField(max_length=64, default="UTC")
    first_weekday = models.PositiveSmallIntegerField(default=0, help_text="0 = Monday (ISO 8601)")
    # Its figures are invented, for looking around: nothing of it is collected, published or told by letter.
    is_demo = models.BooleanField(default=False, db_default=False)
    picture = models.CharField(max_length=500, blank=True)
    # The profile whose picture is the brand's; sources stands above brands, so it is a plain number here.
    picture_from = models.BigIntegerField(null=True)

    def __str__(self) -> str:
        return self.name

    @property
    def zone(self) -> ZoneInfo:
        """The time zone in which the brand's days begin."""
        return ZoneInfo(self.time_zone)


class Membership(models.Model):
    """A person's role with a brand."""

    user = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships", db_index=False
    )
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=[(role.value, role.value) for role in Role])

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "brand"], name="one_role_per_brand")]

    def __str__(self) -> str:
        return f"{self.user} {self.role} {self.brand}"


class Invitation(models.Model):
    """Somebody who is asked to come to a brand, by letter. Of the key in that letter a digest is kept."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="invitations", db_index=False)
    email = models.EmailField()
    role = models.CharField(max_length=10, choices=[(role.value, role.value) for role in Role])
    digest = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()
    until = models.DateTimeField()
    taken_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    taken_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "email"], condition=models.Q(taken_at=None), name="invited_once_at_a_time"
            )
        ]
        indexes = [models.Index(fields=["brand", "-made_at"], name="invitation_by_brand")]

    def __str__(self) -> str:
        return f"{self.email} to {self.brand_id}"


class ApiToken(models.Model):
    """A key with which a program acts as somebody: within their role, and within what the token itself may.

    brand: the only one that it opens; all of the person's where it is empty. hint: how it ends, to know it again.
    """

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="tokens")
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="tokens", null=True)
    name = models.CharField(max_length=80)
    digest = models.CharField(max_length=64, unique=True)
    hint = models.CharField(max_length=8)
    scopes = ArrayField(models.CharField(max_length=40), help_text="permissions, by name")
    made_at = models.DateTimeField()
    until = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    used_from = models.CharField(max_length=45, blank=True)
    revoked_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.name


class KeptAnswer(models.Model):
    """What a program was answered under a key of its own, so that asking once more does nothing once more.

    status is empty while it is being answered. The body is sealed: some answers hold what is told once.
    """

    token = models.ForeignKey(ApiToken, on_delete=models.CASCADE, related_name="answers", db_index=False)
    key = models.CharField(max_length=200)
    asked = models.CharField(max_length=64, help_text="digest of method, address and body")
    at = models.DateTimeField(db_index=True)
    status = models.PositiveSmallIntegerField(null=True)
    sealed = models.BinaryField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["token", "key"], name="answered_once")]

    def __str__(self) -> str:
        return f"{self.key}: {self.status}"


class Campaign(models.Model):
    """Posts that belong together, with dates, a colour (a number of the palette) and perhaps a goal.

    utm_campaign stands in its links' parameters instead of its name.
    """

    class Goal(models.TextChoices):
        """What is to be reached."""

        POSTS = "posts"
        INTERACTIONS = "interactions"
        CLICKS = "clicks"
        CONVERSIONS = "conversions"
        VALUE = "value"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="campaigns", db_index=False)
    name = models.CharField(max_length=120)
    first_day = models.DateField()
    last_day = models.DateField()
    colour = models.PositiveSmallIntegerField(default=1)
    goal_metric = models.CharField(max_length=20, choices=Goal.choices, blank=True, default="", db_default="")
    goal_amount = models.FloatField(null=True)
    # Profiles stand above brands, so these are plain numbers here: none are all.
    profiles = ArrayField(models.BigIntegerField(), default=list, db_default=[])
    utm_campaign = models.CharField(max_length=100, blank=True, default="", db_default="")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "name"], name="campaign_name_once"),
            models.CheckConstraint(condition=models.Q(last_day__gte=models.F("first_day")), name="campaign_ends_later"),
        ]

    def __str__(self) -> str:
        return self.name


class Preference(models.Model):
    """What a person chose to see of a brand: metrics shown, columns. Kept for them alone."""

    membership = models.ForeignKey(Membership, on_delete=models.CASCADE, related_name="preferences", db_index=False)
    name = models.SlugField(max_length=40)
    value = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["membership", "name"], name="preference_once")]

    def __str__(self) -> str:
        return self.name
