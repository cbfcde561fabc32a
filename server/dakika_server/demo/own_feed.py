"""The demo's feed of its own: three posts of the last weeks that also stand there, seen by some people a day."""

from datetime import datetime, timedelta
from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.links.actions import Draft, make_link
from dakika_server.plan.models import OwnFeedItem, OwnFeedSeen
from dakika_server.plan.own_feed.keeping import hour_of, set_own_feed
from dakika_server.plan.own_feed.putting_up import FEED_MEDIUM
from dakika_server.sources.models import Post

SITE = "https://orreryhouse.example/"
# How many people see an item in the hours after it came out, by the day.
SEEN = (46, 31, 22, 15, 11, 8, 6)


def load_own_feed(editor: Any, brand: Brand, now: datetime) -> None:
    """Set it up, and put three posts into it as if they had been meant for it."""
    set_own_feed(editor, brand, is_on=True, title=f"{brand.name}: news", site=SITE, edition=0)
    posts = Post.objects.filter(brand=brand, profile__kind="own", profile__network="commons", language="en")
    for post in posts.filter(published_at__lt=now - timedelta(days=2)).order_by("-published_at")[:3]:
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
