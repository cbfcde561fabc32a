"""What sources tell of a brand at a glance: authorisations that lapsed, profiles and feeds that fail."""

from datetime import datetime

from dakika_server.brands.models import Brand
from dakika_server.brands.overview import GlancePart, Noted
from dakika_server.sources.health import FEW_FAILURES, lapsed_count
from dakika_server.sources.models import Feed
from dakika_server.sources.queries import profiles_of


def glance_of(brand: Brand, now: datetime) -> GlancePart:
    """The gravest first; each leads to the page that says what to do."""
    del now
    failing = sum(one.is_followed and getattr(one, "last_state", None) == "failed" for one in profiles_of(brand.pk))
    feeds = Feed.objects.filter(brand=brand, is_followed=True, failures__gte=FEW_FAILURES).count()
    told = [
        (lapsed_count(brand.pk), "authorisation has lapsed", "authorisations have lapsed"),
        (failing, "profile cannot be collected", "profiles cannot be collected"),
        (feeds, "feed cannot be read", "feeds cannot be read"),
    ]
    texts = [f"{count} {one if count == 1 else many}" for count, one, many in told if count]
    return GlancePart(hands=[Noted(text=text, path="sources/health") for text in texts])
