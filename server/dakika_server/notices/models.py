"""What goes out: notifications, letters, and when something is due."""

from datetime import time

from django.conf import settings
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand


class Notification(models.Model):
    """Something that a person is told of a brand, in the application. The same key is told once."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="notifications", db_index=False
    )
    at = models.DateTimeField()
    key = models.CharField(max_length=160)
    kind = models.SlugField(max_length=40)
    text = models.CharField(max_length=400)
    detail = models.CharField(max_length=600, blank=True)
    path = models.CharField(max_length=400, blank=True, help_text="where it leads, below the brand")
    read_at = models.DateTimeField(null=True)
    is_shown = models.BooleanField(default=True, db_default=True, help_text="in the application")
    letter = models.TextField(blank=True, default="", db_default="", help_text="what a letter says in place of it")
    mail_at = models.DateTimeField(null=True, help_text="when a letter is to tell of it; none does where it is empty")
    mailed_at = models.DateTimeField(null=True)
    push_at = models.DateTimeField(null=True, help_text="when browsers are to show it; none do where it is empty")
    pushed_at = models.DateTimeField(null=True)
    push_tries = models.PositiveSmallIntegerField(default=0, db_default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "person", "key"], name="told_once"),
            # The list of a person, the newest first, page by page.
            models.UniqueConstraint(fields=["person", "brand", "at", "id"], name="notification_in_order"),
        ]
        indexes = [
            models.Index(
                fields=["push_at"], name="notification_push_due", condition=Q(push_at__isnull=False, pushed_at=None)
            ),
            models.Index(
                fields=["mail_at"], name="notification_mail_due", condition=Q(mail_at__isnull=False, mailed_at=None)
            ),
        ]

    def __str__(self) -> str:
        return self.text


class PushKey(models.Model):
    """With which this installation names itself to push services (RFC 8292): one row, made when it is needed."""

    public_key = models.CharField(max_length=100)
    private_key = models.BinaryField()

    def __str__(self) -> str:
        return self.public_key


class NoticeBrowser(models.Model):
    """A browser of a person's that shows their notices: where its push service takes them, and its keys."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="browsers")
    endpoint = models.CharField(max_length=1000, unique=True)
    p256dh = models.CharField(max_length=100)
    auth = models.CharField(max_length=40)
    device = models.CharField(max_length=120)
    since = models.DateTimeField()

    def __str__(self) -> str:
        return self.device


class NoticeChoice(models.Model):
    """How a person wants to be told of a kind of thing in a brand; where none is kept, as the kind says."""

    class ByMail(models.TextChoices):
        """When a letter tells of it."""

        NEVER = "never"
        SOON = "soon"
        DAILY = "daily"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+", db_index=False)
    kind = models.SlugField(max_length=40)
    is_shown = models.BooleanField(default=True)
    by_mail = models.CharField(max_length=5, choices=ByMail, default=ByMail.NEVER)
    by_push = models.BooleanField(default=False, db_default=False, help_text="as a message to their browsers")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["person", "brand", "kind"], name="one_choice_per_kind")]

    def __str__(self) -> str:
        return f"{self.kind} for {self.person_id}"


class NoticeHours(models.Model):
    """When a person wants no letters, and when the day's letter comes; by their own clock, else by the brand's."""

    person = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    quiet_from = models.TimeField(null=True)
    quiet_to = models.TimeField(null=True)
    digest_at = models.TimeField(default=time(8))

    def __str__(self) -> str:
        return f"of {self.person_id}"


class MailFile(models.Model):
    """A file that goes with letters: kept once, however many it goes with."""

    name = models.CharField(max_length=120)
    media_type = models.CharField(max_length=80)
    content = models.BinaryField()
    made_at = models.DateTimeField()

    def __str__(self) -> str:
        return self.name


class Mail(models.Model):
    """A letter in the outbox. It stands in the transaction of what it tells of, and goes out once at most.

    Whoever sends it first writes that it is being sent. What broke off between that and the server's answer may have
    arrived: it is never sent again by itself, but told.
    """

    class State(models.TextChoices):
        """Whereabouts it is."""

        WAITING = "waiting"
        SENDING = "sending"
        SENT = "sent"
        FAILED = "failed"
        UNSURE = "unsure"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", null=True)
    key = models.CharField(max_length=200, unique=True, help_text="the same letter is written once")
    to = models.EmailField()
    subject = models.CharField(max_length=200)
    text = models.TextField()
    message_id = models.CharField(max_length=200)
    headers = models.JSONField(default=dict, db_default={}, help_text="header fields beyond the usual, by name")
    is_confidential = models.BooleanField(
        default=False, db_default=False, help_text="a key stands in it: its text is not kept once it has gone out"
    )
    file = models.ForeignKey(MailFile, on_delete=models.SET_NULL, null=True, related_name="letters")
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    attempts = models.PositiveSmallIntegerField(default=0)
    detail = models.CharField(max_length=300, blank=True, help_text="why it did not go out")
    made_at = models.DateTimeField()
    next_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)

    class Meta:
        # The sweeper looks for what is due, and for what broke off.
        indexes = [
            models.Index(fields=["next_at"], name="mail_due", condition=Q(state__in=["waiting", "sending"])),
        ]

    def __str__(self) -> str:
        return self.subject


class Schedule(models.Model):
    """When something of a brand is due, by its own clock: a rule of RFC 5545 from a local beginning."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="schedules", db_index=False)
    name = models.SlugField(max_length=60)
    rule = models.CharField(max_length=200, help_text="RRULE, RFC 5545")
    begins = models.DateTimeField(help_text="local, kept without a zone: 07:00 stays 07:00 when the clocks change")
    next_at = models.DateTimeField(null=True, db_index=True)
    last_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "name"], name="schedule_once")]

    def __str__(self) -> str:
        return f"{self.brand_id} {self.name}"
