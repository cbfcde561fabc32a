"""Saying yes: rules, guests, what is said, votes, tasks."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand, Campaign
from dakika_server.plan.models.posts import PlannedPost
from dakika_server.sources.models import Profile


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
