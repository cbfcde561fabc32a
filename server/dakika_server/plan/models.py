"""Planned posts and their versions."""

import uuid

from dakika_core.plan.states import State
from django.conf import settings
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand, Campaign
from dakika_server.links.models import TrackedLink
from dakika_server.sources.models import Post, Profile

STATES = [(s.value, s.value.replace("_", " ")) for s in State]


class PlannedPost(models.Model):
    """What is to be published. `edition` counts changes, so that nobody writes over another's unseen."""

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
    edition = models.PositiveIntegerField(default=1)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["brand", "scheduled_at"], name="planned_by_brand_time")]
        constraints = [
            models.CheckConstraint(
                condition=~Q(state__in=["scheduled", "publishing", "published"]) | Q(scheduled_at__isnull=False),
                name="scheduled_posts_have_a_time",
            )
        ]

    def __str__(self) -> str:
        return self.title or f"planned post {self.pk}"


class Version(models.Model):
    """A planned post's form for one profile, and what became of it.

    The idempotency key is made once, when the version is made: whatever crashes, the network is
    asked with the same key and publishes once.
    """

    planned_post = models.ForeignKey(PlannedPost, on_delete=models.CASCADE, related_name="versions", db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="versions")
    text = models.TextField(blank=True)
    link = models.ForeignKey(TrackedLink, on_delete=models.SET_NULL, null=True, related_name="versions")
    state = models.CharField(max_length=12, choices=STATES, default=State.DRAFT.value)
    idempotency_key = models.UUIDField(default=uuid.uuid4, unique=True)
    attempts = models.PositiveIntegerField(default=0)
    published_at = models.DateTimeField(null=True)
    external_id = models.CharField(max_length=200, blank=True)
    error = models.CharField(max_length=500, blank=True)
    post = models.OneToOneField(Post, on_delete=models.SET_NULL, null=True, related_name="version")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["planned_post", "profile"], name="one_version_per_profile")]

    def __str__(self) -> str:
        return f"{self.planned_post_id} for {self.profile_id}"
