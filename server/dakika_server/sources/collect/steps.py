"""The steps of a collection run. Each commits what it brings, knows what is done, and can be broken off anywhere."""

import secrets
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta

from dakika_core.networks.definition import NetworkDefinition
from dakika_core.sources.files.numbers import LARGEST_COUNT
from dakika_core.sources.schedule import next_reading_at
from django.conf import settings
from django.db.models import F, OuterRef, Subquery

from dakika_server.brands.models import Brand
from dakika_server.networks.connectors.base import Connector, NetworkError, NetworkPost, NotFound, Page, Target
from dakika_server.shared.vault import seal
from dakika_server.sources.intake import PostIn, clean_text, take_audience, take_comments, take_posts, take_profile_days
from dakika_server.sources.models import (
    CollectionRun,
    Comment,
    Post,
    PostReading,
    PresenceReading,
    Profile,
    ProfileReading,
)

HISTORY = timedelta(days=190)
# Before this no network had posts: an earlier date is a mistake, and would stand first in every list.
EARLIEST = datetime(1990, 1, 1, tzinfo=UTC)
# What a network says of a day can change for some days after it.
DAYS_READ_AGAIN = 3
PROFILE_EVERY = timedelta(hours=6)
AUDIENCE_EVERY = timedelta(days=7)
COMMENTS_SINCE = timedelta(days=90)
WALK_AGAIN_EVERY = timedelta(days=7)
CALLS_PER_TURN = 40
# Left for publishing and for people who wait in front of a screen.
CALLS_KEPT_BACK = 5


class Pause(Exception):
    """The run lies down: others have their turn, or the network's limit is reached. It goes on where it stopped."""

    def __init__(self, seconds: float, message: str = "") -> None:
        super().__init__(message)
        self.seconds, self.message = seconds, message


@dataclass
class Work:
    """A run under way: the network, what was seen, and when to stop for others' sake."""

    network: Connector
    definition: NetworkDefinition
    run: CollectionRun
    profile: Profile
    now: datetime
    requests_before: int = 0
    refused_before: int = 0
    slow_before: int = 0
    read: set[str] = field(default_factory=set)
    impossible: int = 0

    @property
    def is_own(self) -> bool:
        """Whether more than what is public can be read."""
        return self.profile.kind == Profile.Kind.OWN

    @property
    def target(self) -> Target:
        """The profile as connectors need it."""
        return Target(handle=self.profile.handle, external_id=self.profile.external_id, is_own=self.is_own)

    def begin(self, step: str) -> None:
        """Say what is being done."""
        self.run.step = step
        self.run.save(update_fields=["step"])

    def tell(self) -> None:
        """Write progress down, for whoever watches. Lies down when the turn or the network's limit is used up."""
        run = self.run
        run.requests = self.requests_before + self.network.requests
        run.slow, run.refused = self.slow_before + self.network.slow, self.refused_before + self.network.refused
        run.calls_left = self.network.calls_left
        run.save(
            update_fields=["posts_seen", "posts_new", "readings_new", "comments_new", "requests", "slow", "refused",
                           "calls_left"]
        )  # fmt: skip
        if run.calls_left is not None and run.calls_left <= CALLS_KEPT_BACK:
            raise Pause(60.0, f"{self.definition.name}'s limit for this minute is reached.")
        if self.network.requests >= CALLS_PER_TURN:
            raise Pause(0.0, "Others have their turn.")

    def take(self, posts: Sequence[NetworkPost]) -> None:
        """Store posts with their readings and when each is due again."""
        possible = [post for post in posts if EARLIEST <= post.published_at <= self.now + timedelta(days=1)]
        self.impossible += len(posts) - len(possible)
        taken = take_posts(self.profile, [self._post_in(post) for post in possible])
        self.run.posts_seen += len({post.external_id for post in posts} - self.read)
        self.read |= {post.external_id for post in posts}
        self.run.posts_new += taken.posts_new
        self.run.readings_new += taken.readings_new

    def _post_in(self, post: NetworkPost) -> PostIn:
        metrics, half_life = self.plausible(post.metrics), self.definition.half_life_hours
        return PostIn(
            external_id=post.external_id[:200], published_at=post.published_at, format=post.format.value,
            text=post.text, url=post.url, readings=[(post.as_of, metrics, post.raw)] if metrics else (),
            next_reading_at=next_reading_at(post.published_at, post.as_of if metrics else None, half_life),
            language=post.language, is_boosted=post.is_boosted, picture=post.picture,
        )  # fmt: skip

    def plausible(self, metrics: Mapping[str, int]) -> dict[str, int]:
        """Counters without those that cannot be right: negative, or more than any count can be. How many is said."""
        kept = {name: value for name, value in metrics.items() if 0 <= value <= LARGEST_COUNT}
        self.impossible += len(metrics) - len(kept)
        return kept


def read_profile(work: Work) -> None:
    """Name, picture, followers of today; for own profiles the days since the last reading."""
    profile, network, now = work.profile, work.network, work.now
    today = now.astimezone(profile.brand.zone).date()
    last = ProfileReading.objects.filter(profile=profile, import_id=None).order_by("-day").first()
    if last and last.day == today and now - last.taken_at < PROFILE_EVERY and last.taken_at <= now:
        return
    account = network.account(work.target)
    if work.is_own:
        newest_told = (
            ProfileReading.objects.filter(profile=profile, gained__isnull=False, import_id=None)
            .order_by("-day").values_list("day", flat=True).first()
        )  # fmt: skip
        since = newest_told - timedelta(days=DAYS_READ_AGAIN) if newest_told else today - HISTORY
        days = network.follower_days(work.target, since)
        take_profile_days(profile, [(d.day, d.followers, d.gained, d.lost) for d in days], taken_at=now)
    take_profile_days(profile, [(today, account.followers, None, None)], taken_at=now, posts_total=account.posts)
    changed = {"name": clean_text(account.name)[:200] or profile.handle, "picture": clean_text(account.picture)[:500]}
    Profile.objects.filter(pk=profile.pk).update(**changed)
    Brand.objects.filter(pk=profile.brand_id, picture_from=profile.pk).update(picture=account.picture[:500])
    work.tell()


def read_audience(work: Work) -> None:
    """Who the audience is (weekly) and when it is online (daily), where the network tells."""
    offer, profile = work.definition.offer, work.profile
    today = work.now.astimezone(profile.brand.zone).date()
    if not work.is_own:
        return
    if offer.has_presence and not PresenceReading.objects.filter(profile=profile, day=today).exists():
        told = work.network.presence(work.target)
        PresenceReading.objects.update_or_create(
            profile=profile, day=today,
            defaults={"brand_id": profile.brand_id, "hours_utc": told.hours_utc, "zones": told.zones},
        )  # fmt: skip
        work.tell()
    if offer.audience and not profile.audience_readings.filter(day__gt=today - AUDIENCE_EVERY).exists():
        take_audience(profile, today, work.network.audience(work.target))
        work.tell()


def ask_for_webhooks(work: Work) -> None:
    """Have the network tell of new comments, once. A network that will not is asked in vain and harms nothing."""
    profile = work.profile
    if not (work.is_own and work.definition.offer.has_webhooks and profile.hook_secret is None):
        return
    secret = secrets.token_urlsafe(32)
    address = f"{settings.PUBLIC_ADDRESS}/hooks/{profile.network}/{profile.pk}"
    # Stored first: a call may come before the answer does.
    Profile.objects.filter(pk=profile.pk).update(hook_secret=seal(secret))
    try:
        work.network.subscribe(work.target, address=address, secret=secret)
    except NetworkError:
        Profile.objects.filter(pk=profile.pk).update(hook_secret=None)
        raise


def read_new_posts(work: Work) -> None:
    """Pages from the newest on, until one that reaches into what is known. The first time: the newest page alone.

    As long as it has not got there, the history's cursor stands where it is: broken off, the
    history goes on from there, and nothing in between is skipped.
    """
    profile = work.profile
    known = set(
        Post.objects.filter(profile=profile).order_by("-published_at").values_list("external_id", flat=True)[:2000]
    )
    before = (profile.history_cursor, profile.history_done_at)
    cursor: str | None = None
    while True:
        page = work.network.page(work.target, cursor)
        work.take(page.posts)
        check_missing(work, page)
        oldest = min(page.posts, key=lambda p: p.published_at).external_id if page.posts else None
        if known and (oldest is None or oldest in known):
            if cursor is not None:
                _set_history(work, *before)
            work.tell()
            return
        if page.cursor is None:
            _set_history(work, "", work.now)
        else:
            _set_history(work, page.cursor, None)
        work.tell()
        if page.cursor is None or not known:
            return
        cursor = page.cursor


def read_due_counters(work: Work) -> None:
    """Counters of posts that are due by their age, in batches."""
    due = Post.objects.filter(profile=work.profile, next_reading_at__lte=work.now, removed_at__isnull=True)
    while True:
        part = list(due.exclude(external_id__in=work.read).order_by("-published_at")[: work.network.batch])
        if not part:
            return
        _read_counters(work, part)
        work.tell()


def _read_counters(work: Work, posts: Sequence[Post]) -> None:
    """Ask for counters by identifier; posts that the network no longer knows are marked as taken down."""
    said = work.network.counters_of(work.target, [post.external_id for post in posts])
    half_life = work.definition.half_life_hours
    found = []
    for post in posts:
        work.read.add(post.external_id)
        counts = said.by_post.get(post.external_id)
        if counts is None:
            Post.objects.filter(pk=post.pk).update(removed_at=work.now, next_reading_at=None)
            continue
        metrics, raw = work.plausible(counts[0]), counts[1]
        as_of = max(said.as_of, post.published_at)
        due = next_reading_at(post.published_at, as_of, half_life)
        found.append(
            PostIn(
                external_id=post.external_id, published_at=post.published_at, format=post.format, text=post.text,
                url=post.url, readings=[(as_of, metrics, raw)] if metrics else (), next_reading_at=due,
            )
        )  # fmt: skip
    taken = take_posts(work.profile, found)
    work.run.posts_seen += len(found)
    work.run.readings_new += taken.readings_new


def read_comments(work: Work) -> None:
    """Comments under own posts of the last months whose counter differs from when they were fetched last."""
    if not (work.is_own and work.definition.offer.has_comments):
        return
    newest = PostReading.objects.filter(post=OuterRef("pk"), comments__isnull=False).order_by("-taken_at")
    behind = (
        Post.objects.filter(profile=work.profile, removed_at__isnull=True, published_at__gt=work.now - COMMENTS_SINCE)
        .annotate(counter=Subquery(newest.values("comments")[:1]))
        .filter(counter__isnull=False)
        .exclude(comments_read=F("counter"))
        .exclude(counter=0, comments_read__isnull=True)
        .order_by("-published_at")
    )
    for post in list(behind):
        counter = getattr(post, "counter")  # noqa: B009 (annotated)
        # A counter that fell means that something was taken away: then all are asked for, to see which.
        grew = post.comments_read is not None and counter > post.comments_read
        last = Comment.objects.filter(post=post).order_by("-written_at").values_list("written_at", flat=True).first()
        since = last if grew else None
        try:
            told = work.network.comments(work.target, post.external_id, since)
        except NotFound:
            told = []
        work.run.comments_new += take_comments(post, told, now=work.now, since=since)
        Post.objects.filter(pk=post.pk).update(comments_read=counter)
        work.tell()


def read_history(work: Work) -> None:
    """Older pages, from where the last run stopped, to the oldest; again weekly, to see what was taken down."""
    profile = work.profile
    if profile.history_done_at is not None:
        if work.now - profile.history_done_at < WALK_AGAIN_EVERY:
            return
        _set_history(work, "", None)
    while profile.history_done_at is None:
        page = work.network.page(work.target, profile.history_cursor or None)
        work.take(page.posts)
        check_missing(work, page)
        _set_history(work, page.cursor or "", None if page.cursor else work.now)
        work.tell()


def _set_history(work: Work, cursor: str, done_at: datetime | None) -> None:
    """Where the history stands; written down at once, since the next call may be the last."""
    profile = work.profile
    profile.history_cursor, profile.history_done_at = cursor, done_at
    Profile.objects.filter(pk=profile.pk).update(history_cursor=cursor, history_done_at=done_at)


def check_missing(work: Work, page: Page) -> None:
    """Known posts from within the span of a page that are not on it: asked for by name, and marked if they are gone.

    A late page, or one that repeats the one before, leaves posts out that are still up; so nothing is
    marked on a page's word alone.
    """
    if len(page.posts) < 2:
        return
    instants = [post.published_at for post in page.posts]
    suspects = list(
        Post.objects.filter(
            profile=work.profile, published_at__gt=min(instants), published_at__lt=max(instants),
            removed_at__isnull=True, first_import=None,
        ).exclude(external_id__in=[post.external_id for post in page.posts]).order_by("-published_at")
    )  # fmt: skip
    for part in _parts([s for s in suspects if s.external_id not in work.read], work.network.batch):
        _read_counters(work, part)


def _parts(posts: Sequence[Post], size: int) -> Iterable[Sequence[Post]]:
    return (posts[i : i + size] for i in range(0, len(posts), size))


STEPS: tuple[tuple[str, Callable[[Work], None]], ...] = (
    ("profile", read_profile),
    ("audience", read_audience),
    ("webhooks", ask_for_webhooks),
    ("new posts", read_new_posts),
    ("counters", read_due_counters),
    ("history", read_history),
    ("comments", read_comments),
)
