"""What sources tell of a brand in overview: authorisations that lapsed, profiles and feeds that fail."""

from datetime import datetime

from dakika_server.brands.models import Brand
from dakika_server.brands.overview import Noted, OverviewPart
from dakika_server.sources.health import FEW_FAILURES, lapsed_count
from dakika_server.sources.models import Feed, Profile
from dakika_server.sources.queries import profiles_of


def part_of(brand: Brand, now: datetime) -> OverviewPart:
    """The gravest first; each leads to the page that says what to do."""
    del now
    failing = sum(_fails(one) for one in profiles_of(brand.pk))
    feeds = Feed.objects.filter(brand=brand, is_followed=True, failures__gte=FEW_FAILURES).count()
    told = [
        (lapsed_count(brand.pk), "authorisation has lapsed", "authorisations have lapsed"),
        (failing, "profile cannot be collected", "profiles cannot be collected"),
        (feeds, "feed cannot be read", "feeds cannot be read"),
    ]
    texts = [f"{count} {one if count == 1 else many}" for count, one, many in told if count]
    return OverviewPart(hands=[Noted(text=text, path="sources/health") for text in texts])


def _fails(profile: Profile) -> bool:
    """Whether it cannot be collected; one of ours whose authorisation lapsed is told by that already."""
    is_told = profile.kind == Profile.Kind.OWN and (profile.credential is None or profile.credential.is_lapsed)
    return profile.is_followed and getattr(profile, "last_state", None) == "failed" and not is_told
