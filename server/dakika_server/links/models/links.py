"""Tracked links: what they lead to, by which rules they are made, where they stand."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand, Campaign
from dakika_server.sources.models import Post


class LinkSettings(models.Model):
    """A brand's rules for its links, and how it shows itself when one is over."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, related_name="link_settings")
    rules = models.JSONField(default=dict, help_text="templates of the UTM parameters; see core links/utm.py")
    home = models.CharField(max_length=2048, blank=True, help_text="where visitors of a link that is over can go")
    over_words = models.CharField(max_length=500, blank=True)

    def __str__(self) -> str:
        return f"links of {self.brand_id}"


class LinkDomain(models.Model):
    """A host of the brand's own that short addresses stand on."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="link_domains")
    host = models.CharField(max_length=253, unique=True)
    is_chosen = models.BooleanField(default=False, help_text="new links stand on it")
    created_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand"], condition=Q(is_chosen=True), name="one_chosen_domain_per_brand")
        ]

    def __str__(self) -> str:
        return self.host


class TrackedLink(models.Model):
    """A short address that leads to a stored one, with its UTM parameters."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="links", db_index=False)
    code = models.CharField(max_length=32, unique=True)
    domain = models.ForeignKey(LinkDomain, on_delete=models.SET_NULL, null=True, related_name="links")
    name = models.CharField(max_length=200)
    destination = models.CharField(max_length=2048, help_text="as typed, cleaned")
    target = models.CharField(max_length=3000, help_text="with UTM parameters: where clicks are sent")
    utm = models.JSONField(default=dict)
    network = models.CharField(max_length=40, blank=True)
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, related_name="links")
    is_paused = models.BooleanField(default=False)
    ends_at = models.DateTimeField(null=True)
    keeps_query = models.BooleanField(default=True, help_text="what a visitor's address brings along is passed on")
    is_paid = models.BooleanField(
        default=False, db_default=False, help_text="stands in a boost: who comes by it was paid for"
    )
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()

    class Meta:
        indexes = [
            models.Index(fields=["brand", "-created_at"], name="link_by_brand_time"),
            models.Index(fields=["brand"], name="link_paid", condition=Q(is_paid=True)),
        ]

    def __str__(self) -> str:
        return f"{self.code} {self.name}"


class FormerTarget(models.Model):
    """What a link led to before it was changed: until when, and who changed it."""

    link = models.ForeignKey(TrackedLink, on_delete=models.CASCADE, related_name="former_targets")
    destination = models.CharField(max_length=2048)
    target = models.CharField(max_length=3000)
    until = models.DateTimeField()
    changed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        ordering = ["-until"]

    def __str__(self) -> str:
        return f"{self.link_id} until {self.until}"


class LinkUse(models.Model):
    """A post whose text carries the link. A link may stand in any number of posts."""

    link = models.ForeignKey(TrackedLink, on_delete=models.CASCADE, related_name="uses", db_index=False)
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="link_uses")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["link", "post"], name="link_once_per_post")]

    def __str__(self) -> str:
        return f"{self.link_id} in {self.post_id}"


class LinkPage(models.Model):
    """A page of a brand's current links, for networks that allow none in their texts."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="link_pages")
    slug = models.CharField(max_length=60, unique=True)
    title = models.CharField(max_length=120)
    words = models.CharField(max_length=500, blank=True)
    is_shown = models.BooleanField(default=True)
    created_at = models.DateTimeField()

    def __str__(self) -> str:
        return self.slug


class LinkPageEntry(models.Model):
    """One link on a page, in its place."""

    page = models.ForeignKey(LinkPage, on_delete=models.CASCADE, related_name="entries", db_index=False)
    link = models.ForeignKey(TrackedLink, on_delete=models.CASCADE, related_name="page_entries")
    title = models.CharField(max_length=120)
    position = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ["position", "pk"]
        constraints = [models.UniqueConstraint(fields=["page", "link"], name="link_once_per_page")]

    def __str__(self) -> str:
        return self.title
