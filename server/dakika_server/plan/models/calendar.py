"""What stands in the calendar beside the posts."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand


class Note(models.Model):
    """A day of one's own in the calendar: an opening, a closure, something to keep in mind."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="notes", db_index=False)
    first = models.DateField()
    last = models.DateField()
    text = models.CharField(max_length=200)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=Q(last__gte=models.F("first")), name="notes_end_after_they_begin")
        ]
        indexes = [models.Index(fields=["brand", "last"], name="note_by_brand_day")]

    def __str__(self) -> str:
        return self.text


class FollowedCalendar(models.Model):
    """A calendar of somebody else, shown beside the plan; asked for anew some times a day."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="followed_calendars", db_index=False)
    address = models.URLField(max_length=2000)
    name = models.CharField(max_length=200)
    etag = models.CharField(max_length=300, blank=True)
    fetched_at = models.DateTimeField(null=True)
    next_at = models.DateTimeField(null=True, db_index=True)
    failures = models.PositiveIntegerField(default=0)
    message = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "address"], name="one_followed_calendar_each")]

    def __str__(self) -> str:
        return self.name


class CalendarEvent(models.Model):
    """An event of a followed calendar, as it stood when it was last asked for. at: None takes whole days."""

    calendar = models.ForeignKey(FollowedCalendar, on_delete=models.CASCADE, related_name="events", db_index=False)
    first = models.DateField()
    last = models.DateField()
    at = models.DateTimeField(null=True)
    text = models.CharField(max_length=200)

    class Meta:
        indexes = [models.Index(fields=["calendar", "last"], name="event_by_calendar_day")]

    def __str__(self) -> str:
        return self.text


class CalendarKey(models.Model):
    """A person's address at which the plan can be subscribed to; only a digest of its key is kept."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    digest = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "person"], name="one_calendar_key_each")]

    def __str__(self) -> str:
        return f"{self.person_id} for {self.brand_id}"
