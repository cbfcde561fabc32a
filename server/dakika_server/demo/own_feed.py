"""The demo's site as a channel: three posts of the last weeks stand in its feed, and came to browsers as messages."""

from datetime import datetime, timedelta
from typing import Any

from dakika_core.values.text import cut

from dakika_server.brands.models import Brand
from dakika_server.links.actions import Draft, make_link
from dakika_server.links.serializers.making import short_address
from dakika_server.plan.models import OwnFeedItem, OwnFeedSeen, PushMessage, PushSeen, PushSubscriber
from dakika_server.plan.own_feed.keeping import hour_of, set_own_feed
from dakika_server.plan.own_feed.putting_up import FEED_MEDIUM
from dakika_server.plan.web_push.keeping import set_push
from dakika_server.plan.web_push.sending import LONGEST_TEXT, LONGEST_TITLE, PUSH_MEDIUM
from dakika_server.sources.models import Post

SITE = "https://orreryhouse.example/"
# How many people see an item in the hours after it came out, by the day.
SEEN = (46, 31, 22, 15, 11, 8, 6)
# Of the browsers, how many showed a message in the hours after it was sent.
SHOWN = (14, 7, 4, 3, 2, 1, 1)


def load_own_feed(editor: Any, brand: Brand, now: datetime) -> None:
    """Set it up, and put three posts into it as if they had been meant for it."""
    set_own_feed(editor, brand, is_on=True, title=f"{brand.name}: news", site=SITE, edition=0)
    for post in _posts(brand, now):
        link = make_link(
            editor, brand, Draft(destination=f"{SITE}tickets", name=post.text[:80], utm={"medium": FEED_MEDIUM})
        )
        item = OwnFeedItem.objects.create(
            brand=brand, title=post.text[:120].split(". ")[0], text=post.text, link=link,
            published_at=post.published_at, updated_at=post.published_at,
        )  # fmt: skip
        hours = [(hour_of(post.published_at + timedelta(days=day, hours=9)), many) for day, many in enumerate(SEEN)]
        OwnFeedSeen.objects.bulk_create(
            OwnFeedSeen(brand=brand, item=item, hour=hour, views=many) for hour, many in hours if hour <= now
        )


def load_push(editor: Any, brand: Brand, browsers: list[dict[str, Any]], now: datetime) -> None:
    """Browsers that asked for messages half a year ago, and the same three posts as they were sent to them."""
    set_push(editor, brand, is_on=True, edition=0)
    PushSubscriber.objects.bulk_create(
        PushSubscriber(
            brand=brand, endpoint=one["endpoint"], p256dh=one["keys"]["p256dh"], auth=one["keys"]["auth"],
            since=now - timedelta(days=180),
        )
        for one in browsers
    )  # fmt: skip
    for post in _posts(brand, now):
        draft = Draft(destination=f"{SITE}tickets", name=post.text[:80], utm={"medium": PUSH_MEDIUM})
        link = make_link(editor, brand, draft)
        title, _, rest = post.text.partition(". ")
        message = PushMessage.objects.create(
            brand=brand, title=cut(title, LONGEST_TITLE), text=cut(rest, LONGEST_TEXT), link=link,
            address=short_address(link), made_at=post.published_at, asked=len(browsers), taken=len(browsers),
        )  # fmt: skip
        hours = [(hour_of(post.published_at + timedelta(hours=after)), many) for after, many in enumerate(SHOWN)]
        PushSeen.objects.bulk_create(
            PushSeen(brand=brand, message=message, hour=hour, views=many) for hour, many in hours if hour <= now
        )


def _posts(brand: Brand, now: datetime) -> list[Post]:
    posts = Post.objects.filter(brand=brand, profile__kind="own", profile__network="commons", language="en")
    return list(posts.filter(published_at__lt=now - timedelta(days=2)).order_by("-published_at")[:3])
