"""Ideas: what could be written, where it came from, and forms to begin from."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.plan.models.posts import PlannedPost
from dakika_server.sources.models import FeedItem


class IdeaGroup(models.Model):
    """Ideas that belong together, in an order of the team's own."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="idea_groups", db_index=False)
    name = models.CharField(max_length=80)
    place = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="one_idea_group_per_name")]

    def __str__(self) -> str:
        return self.name


class Idea(models.Model):
    """What an idea is beside its title, note, pictures and campaign, which stand in the planned post.

    figures: what was known of where it came from on the day it was kept, as (name, value, words); they do not change
    with later readings. posts: the drafts that were written from it. It is shut when nothing more is to come of it.
    """

    class Origin(models.TextChoices):
        """Where it came from."""

        OWN = "own"
        POST = "post"
        FEED = "feed"
        PAGE = "page"
        DAY = "day"
        FINDING = "finding"
        HOUR = "hour"

    planned_post = models.OneToOneField(PlannedPost, on_delete=models.CASCADE, primary_key=True, related_name="idea")
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="ideas", db_index=False)
    group = models.ForeignKey(IdeaGroup, on_delete=models.SET_NULL, null=True, related_name="ideas")
    page = models.CharField(max_length=2000, blank=True, help_text="the page it is about")
    wishes = ArrayField(models.BigIntegerField(), default=list, help_text="profiles it is meant for")
    origin = models.CharField(max_length=8, choices=Origin.choices, default=Origin.OWN)
    view = models.CharField(max_length=500, blank=True, help_text="the view of ours that it came from")
    item = models.ForeignKey(FeedItem, on_delete=models.SET_NULL, null=True, related_name="+")
    day = models.DateField(null=True, help_text="the day of the year that it is for")
    figures = models.JSONField(default=list)
    kept_at = models.DateTimeField()
    shut_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "item"], name="one_idea_each_item")]
        indexes = [models.Index(fields=["brand", "-kept_at", "-planned_post"], name="idea_by_brand_time")]

    def __str__(self) -> str:
        return f"{self.origin} {self.planned_post_id}"


class Template(models.Model):
    """A text with places to fill in, each a name in braces: one form for what is written again and again."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="templates", db_index=False)
    name = models.CharField(max_length=80)
    text = models.TextField()
    headline = models.CharField(max_length=300, blank=True)
    first_comment = models.TextField(blank=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="one_template_per_name")]

    def __str__(self) -> str:
        return self.name
