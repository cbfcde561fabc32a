"""What tests of competitors share: rivals with posts whose figures can be worked out by hand."""

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import START, fill
from dakika_server.sources.models import Competitor, PeerSet, Profile

QUERY = "first=2026-10-01&last=2026-10-30&age=72"
HOME = "/api/brands/orrery-house/competitors"


def rival(brand: Brand, name: str = "Halfmoon", network: str = "commons") -> Profile:
    """A competitor's profile without anything; the same name again is the same competitor."""
    competitor, _ = Competitor.objects.get_or_create(brand=brand, name=name)
    return Profile.objects.create(
        brand=brand, competitor=competitor, network=network, external_id=f"{name}-{network}", handle=name.lower(),
        name=name, kind="competitor", added_at=START,
    )  # fmt: skip


def field_of(brand: Brand, rivals: int = 7) -> list[Profile]:
    """Rivals whose reaction grows from one to the next, thirty posts each."""
    return [
        fill(rival(brand, f"Rival {i}"), 30, lambda n, i=i: {"counts": {"reactions": 10 + 5 * i + n % 4}})  # type: ignore[misc]
        for i in range(rivals)
    ]


def a_set(brand: Brand, *profiles: Profile, name: str = "Museums") -> PeerSet:
    """A peer set of profiles."""
    made = PeerSet.objects.create(brand=brand, name=name, made_at=START)
    made.profiles.set(profiles)
    return made


def other_brand() -> Brand:
    """A brand that nobody of the tests' people is of."""
    return Brand.objects.create(name="Elsewhere", slug="elsewhere", time_zone="UTC")
