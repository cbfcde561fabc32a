"""Estimates as they were worked out, rhythms that are kept, trials."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.sources.models import Profile


class Estimate(models.Model):
    """The answer to one question of hours, kept until the figures it rests on have changed, and while it is made anew.

    key: of the question, which stands in `asked`. is_standing: a profile's own, made anew by the worker whenever its
    figures change. hours: curves of 168 by name; covariance: of the logs, 168 x 168 float32. held: the check on newer
    weeks. facts: what it rests on.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    key = models.CharField(max_length=64)
    asked = models.JSONField()
    profiles = ArrayField(models.BigIntegerField())
    is_standing = models.BooleanField(default=False)
    is_stale = models.BooleanField(default=False)
    made_at = models.DateTimeField()
    hours = models.JSONField()
    covariance = models.BinaryField()
    held = models.JSONField(null=True)
    facts = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "key"], name="estimate_once")]
        indexes = [  # the sweeper's: what is to be made anew, the oldest first
            models.Index(fields=["made_at"], name="estimate_stale", condition=models.Q(is_stale=True, is_standing=True))
        ]

    def __str__(self) -> str:
        return f"{self.brand_id} {self.key[:8]}"


class Rhythm(models.Model):
    """The weekly times at which a profile publishes, by the clock of a zone. edition counts changes.

    proposed_gain: what the proposal that stands against it would gain by now, told once it is worth a change.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    profile = models.OneToOneField(Profile, on_delete=models.CASCADE, related_name="rhythm")
    zone = models.CharField(max_length=64)
    rules = models.JSONField(default=dict)
    edition = models.PositiveIntegerField(default=1)
    kept_at = models.DateTimeField()
    kept_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        indexes = [models.Index(fields=["brand"], name="rhythm_by_brand")]

    def __str__(self) -> str:
        return f"rhythm of {self.profile_id}"


class StandingSlot(models.Model):
    """One of the times of a rhythm: minutes from Monday 00:00. is_learning: taken to learn about its hour."""

    rhythm = models.ForeignKey(Rhythm, on_delete=models.CASCADE, related_name="slots", db_index=False)
    minute = models.PositiveSmallIntegerField()
    is_learning = models.BooleanField(default=False)

    class Meta:
        ordering = ["minute"]
        constraints = [
            models.UniqueConstraint(fields=["rhythm", "minute"], name="slot_once"),
            models.CheckConstraint(condition=models.Q(minute__lt=7 * 24 * 60), name="slot_within_week"),
        ]

    def __str__(self) -> str:
        return f"{self.rhythm_id} at {self.minute}"


class Trial(models.Model):
    """A planned comparison of two publishing times, or two rhythms: minutes of the week at each. See
    core/timing/trials.

    first, second: times that all its profiles share; empty where each has a rhythm of its own. starts: a Monday.
    outcome: the last look, as it was told. was_kept: its end was made the profiles' rhythm.
    """

    class State(models.TextChoices):
        """How far it is."""

        RUNNING = "running"
        STOPPED = "stopped"
        OVER = "over"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    name = models.CharField(max_length=120)
    profiles = models.ManyToManyField(Profile, through="TrialProfile", related_name="trials")
    first = ArrayField(models.PositiveSmallIntegerField())
    second = ArrayField(models.PositiveSmallIntegerField())
    zone = models.CharField(max_length=64)
    starts = models.DateField()
    pairs = models.PositiveSmallIntegerField()
    worth = models.FloatField(help_text="smallest ratio worth knowing")
    error = models.FloatField()
    state = models.CharField(max_length=8, choices=State.choices, default=State.RUNNING.value)
    outcome = models.JSONField(default=dict)
    was_kept = models.BooleanField(default=False)
    made_at = models.DateTimeField()
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["brand", "-made_at"], name="trial_by_brand_time")]

    def __str__(self) -> str:
        return self.name


class TrialProfile(models.Model):
    """A profile in a trial, with the seed by which its weeks were drawn.

    first, second: its own two rhythms, where the trial is of rhythms.
    """

    trial = models.ForeignKey(Trial, on_delete=models.CASCADE, related_name="members", db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE)
    seed = models.BigIntegerField()
    first = ArrayField(models.PositiveSmallIntegerField(), default=list)
    second = ArrayField(models.PositiveSmallIntegerField(), default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["trial", "profile"], name="profile_once_in_trial")]

    def __str__(self) -> str:
        return f"{self.profile_id} in {self.trial_id}"

    def minutes(self, *, is_second: bool) -> list[int]:
        """Its times of the week in the weeks of one of the two."""
        own, shared = (self.second, self.trial.second) if is_second else (self.first, self.trial.first)
        return own or shared
