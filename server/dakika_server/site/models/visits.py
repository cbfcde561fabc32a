"""What people do on the brand's own site: visits, goals, conversions."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand, Campaign
from dakika_server.links.models.links import TrackedLink
from dakika_server.sources.models import Post


class Site(models.Model):
    """A web site of the brand that the page script stands on, or whose access logs are read."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="sites", db_index=False)
    name = models.CharField(max_length=120)
    hosts = models.JSONField(default=list, help_text="where the script may report from, such as orrery.example")
    key = models.CharField(
        max_length=40, unique=True, help_text="stands in the page; opens nothing but its own counting"
    )
    created_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="site_name_once")]

    def __str__(self) -> str:
        return self.name


class Goal(models.Model):
    """What the brand wants people to do. An archived goal keeps its conversions and takes no more."""

    class Kind(models.TextChoices):
        """How a goal is reached."""

        PAGE = "page"
        EVENT = "event"
        IMPORT = "import"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="goals", db_index=False)
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=6, choices=Kind.choices)
    pattern = models.CharField(
        max_length=300, blank=True, help_text="the page's path, * for any part; or the event's name"
    )
    cents = models.BigIntegerField(default=0, help_text="worth, where a conversion says nothing of its own")
    currency = models.CharField(max_length=3, default="EUR", help_text="ISO 4217")
    is_archived = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="goal_name_once")]

    def __str__(self) -> str:
        return self.name


class Visit(models.Model):
    """Pages that one visitor looked at without a long break, and where they came from."""

    id = models.BigAutoField(primary_key=True)
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    site = models.ForeignKey(Site, on_delete=models.SET_NULL, null=True, db_index=False)
    visitor = models.BinaryField(max_length=16, help_text="a hash; of the day alone, unless the person agreed to more")
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField()
    pages = models.IntegerField()
    paths = models.JSONField(default=list)
    channel = models.CharField(max_length=100)
    referrer = models.CharField(max_length=255, blank=True)
    source = models.CharField(max_length=100, blank=True)
    medium = models.CharField(max_length=100, blank=True)
    utm_campaign = models.CharField(max_length=100, blank=True)
    content = models.CharField(max_length=100, blank=True)
    click_key = models.UUIDField(null=True)
    link = models.ForeignKey(TrackedLink, on_delete=models.SET_NULL, null=True, db_index=False)
    post = models.ForeignKey(Post, on_delete=models.SET_NULL, null=True, db_index=False)
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, db_index=False)
    device = models.CharField(max_length=10, blank=True)
    browser = models.CharField(max_length=40, blank=True)
    language = models.CharField(max_length=3, blank=True)
    country = models.CharField(max_length=2, blank=True)
    origin = models.CharField(max_length=6, help_text="script, log or file")

    class Meta:
        constraints = [
            # The same log read again, or the same event told twice, makes no second visit.
            models.UniqueConstraint(fields=["brand", "visitor", "started_at"], name="visit_once")
        ]
        indexes = [
            models.Index(
                fields=["brand", "started_at"], name="visit_by_brand_time", include=["channel", "post", "campaign"]
            ),
            models.Index(fields=["click_key"], name="visit_by_click", condition=Q(click_key__isnull=False)),
            models.Index(fields=["post"], name="visit_by_post", condition=Q(post__isnull=False)),
            models.Index(fields=["link"], name="visit_by_link", condition=Q(link__isnull=False)),
        ]

    def __str__(self) -> str:
        return f"{self.channel} {self.started_at}"


class Conversion(models.Model):
    """A goal that was reached once. `key` makes it unique however often it is told."""

    id = models.BigAutoField(primary_key=True)
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    goal = models.ForeignKey(Goal, on_delete=models.CASCADE, related_name="conversions")
    visit = models.ForeignKey(Visit, on_delete=models.SET_NULL, null=True, related_name="conversions")
    visitor = models.BinaryField(max_length=16, null=True)
    key = models.CharField(max_length=120)
    at = models.DateTimeField()
    cents = models.BigIntegerField()
    currency = models.CharField(max_length=3)
    stage = models.CharField(max_length=40, blank=True, help_text="of a contact: such as lead, offer, customer")
    contact = models.CharField(max_length=120, blank=True, help_text="the brand's own word for whom it is about")
    import_id = models.BigIntegerField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "key"], name="conversion_once"),
            # It serves what is asked by time, and is the key by which the table can be parted by time.
            models.UniqueConstraint(fields=["brand", "at", "id"], name="conversion_by_time"),
        ]
        indexes = [
            models.Index(fields=["brand", "visitor"], name="conversion_by_visitor"),
            models.Index(fields=["import_id"], name="conversion_by_import", condition=Q(import_id__isnull=False)),
        ]

    def __str__(self) -> str:
        return f"{self.goal_id} {self.at}"


class ConversionStage(models.Model):
    """When a contact reached a stage, and who said so."""

    conversion = models.ForeignKey(Conversion, on_delete=models.CASCADE, related_name="stages")
    stage = models.CharField(max_length=40)
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        ordering = ["at"]

    def __str__(self) -> str:
        return f"{self.conversion_id} {self.stage}"
