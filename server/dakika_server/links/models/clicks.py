"""Clicks, and what is summed up of them.

The sums are kept by the database itself (triggers of migration 0004), so that they are right
whoever brings clicks or takes them out: the redirect's journal, a file, the search for bursts.
"""

from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand
from dakika_server.links.models.links import LinkPage, TrackedLink


class Click(models.Model):
    """One request for a short link. bot_reason is empty for people's clicks."""

    id = models.BigAutoField(primary_key=True)
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    link = models.ForeignKey(TrackedLink, on_delete=models.CASCADE, related_name="clicks", db_index=False)
    page = models.ForeignKey(
        LinkPage, on_delete=models.SET_NULL, null=True, db_index=False, help_text="came through it"
    )
    key = models.UUIDField(help_text="the identifier that the destination is given")
    at = models.DateTimeField()
    referrer = models.CharField(max_length=255, blank=True, help_text="host only")
    device = models.CharField(max_length=10)
    browser = models.CharField(max_length=40, db_default="", blank=True)
    language = models.CharField(max_length=3, db_default="", blank=True, help_text="ISO 639, the one liked best")
    country = models.CharField(max_length=2, db_default="", blank=True, help_text="ISO 3166-1")
    visitor = models.BinaryField(max_length=16)
    bot_reason = models.CharField(max_length=10, blank=True)
    is_over = models.BooleanField(db_default=False, help_text="the link had ended or was paused")
    import_id = models.BigIntegerField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["key", "at", "brand"], name="click_once")]
        indexes = [
            models.Index(fields=["import_id"], name="click_by_import", condition=Q(import_id__isnull=False)),
            models.Index(fields=["link", "at"], name="click_by_link_time"),
            models.Index(fields=["brand", "at"], name="click_by_brand_time", include=["link", "bot_reason"]),
            models.Index(fields=["page", "at"], name="click_by_page_time", condition=Q(page__isnull=False)),
        ]

    def __str__(self) -> str:
        return f"{self.link_id} {self.at}"


class ClickHour(models.Model):
    """Clicks of one hour, on one link or (link_id 0) on all of the brand; hours as the brand's clocks have them."""

    id = models.BigAutoField(primary_key=True)
    brand_id = models.BigIntegerField()
    link_id = models.BigIntegerField()
    hour = models.DateTimeField()
    people = models.IntegerField(db_default=0)
    bots = models.IntegerField(db_default=0)
    over = models.IntegerField(db_default=0, help_text="people's, after the link had ended")

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand_id", "link_id", "hour"], name="click_hour_once", include=["people", "bots", "over"]
            )
        ]

    def __str__(self) -> str:
        return f"{self.link_id} {self.hour}"


class ClickDay(models.Model):
    """A link's clicks of one day of the brand's time zone."""

    id = models.BigAutoField(primary_key=True)
    brand_id = models.BigIntegerField()
    day = models.DateField()
    link_id = models.BigIntegerField()
    people = models.IntegerField(db_default=0)
    bots = models.IntegerField(db_default=0)
    over = models.IntegerField(db_default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand_id", "day", "link_id"], name="click_day_once", include=["people", "bots", "over"]
            )
        ]

    def __str__(self) -> str:
        return f"{self.link_id} {self.day}"


class ClickTotal(models.Model):
    """A link's clicks since it was made."""

    link = models.OneToOneField(TrackedLink, on_delete=models.CASCADE, primary_key=True, related_name="total")
    people = models.IntegerField(db_default=0)
    bots = models.IntegerField(db_default=0)
    over = models.IntegerField(db_default=0)
    last_at = models.DateTimeField(null=True, help_text="of people")

    def __str__(self) -> str:
        return f"{self.link_id}: {self.people}"


class ClickSpread(models.Model):
    """How a day's clicks spread over a dimension; link_id 0 stands for all links of the brand together."""

    id = models.BigAutoField(primary_key=True)
    brand_id = models.BigIntegerField()
    link_id = models.BigIntegerField()
    dimension = models.CharField(
        max_length=10, help_text="referrer, device, browser, language, country; reason of bots"
    )
    day = models.DateField(help_text="of the brand's time zone")
    value = models.CharField(max_length=255, blank=True)
    count = models.IntegerField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand_id", "link_id", "dimension", "day", "value"], name="click_spread_once", include=["count"]
            )
        ]

    def __str__(self) -> str:
        return f"{self.link_id} {self.day} {self.dimension}"


class ClickPeople(models.Model):
    """Different visitors of a day (UTC, as the salts have it), kept once the day is over; link_id 0 as above."""

    id = models.BigAutoField(primary_key=True)
    brand_id = models.BigIntegerField()
    link_id = models.BigIntegerField()
    day = models.DateField()
    people = models.IntegerField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand_id", "link_id", "day"], name="click_people_once", include=["people"])
        ]

    def __str__(self) -> str:
        return f"{self.link_id} {self.day}"


class PageView(models.Model):
    """How often a page of links was opened in a quarter of an hour, which no zone's day cuts through."""

    id = models.BigAutoField(primary_key=True)
    brand_id = models.BigIntegerField()
    page = models.ForeignKey(LinkPage, on_delete=models.CASCADE, related_name="views")
    at = models.DateTimeField(help_text="the quarter's first instant")
    people = models.IntegerField(db_default=0)
    bots = models.IntegerField(db_default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand_id", "at", "page"], name="page_view_once", include=["people", "bots"]
            )
        ]

    def __str__(self) -> str:
        return f"{self.page_id} {self.at}"


class UnseenClicks(models.Model):
    """From when to when the clicks of a batch were that no round of bursts has looked at; written by the database."""

    id = models.BigAutoField(primary_key=True)
    brand_id = models.BigIntegerField()
    first_at = models.DateTimeField()
    last_at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.brand_id}: {self.first_at} to {self.last_at}"


class Journal(models.Model):
    """How far a segment of the redirect's journal is taken in (bytes): moved in the transaction of its clicks."""

    name = models.CharField(max_length=80, primary_key=True)
    taken = models.BigIntegerField()
    moved_at = models.DateTimeField()

    def __str__(self) -> str:
        return self.name


class ClickHorizon(models.Model):
    """Before it a brand's single clicks are gone by their age; sums of before stand as they were then."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, primary_key=True, related_name="+")
    since = models.DateTimeField()
    day = models.DateField(help_text="the day that begins there, as the brand's zone was")

    def __str__(self) -> str:
        return f"{self.brand_id} since {self.since}"


class VisitorSalt(models.Model):
    """The key of one day's visitor hashes; thrown away the day after, and the hashes cannot be undone."""

    day = models.DateField(unique=True)
    salt = models.BinaryField(max_length=32)

    def __str__(self) -> str:
        return str(self.day)
