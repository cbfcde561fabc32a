"""The first steps of sources: a file, and a public profile."""

from collections.abc import Sequence

from dakika_server.brands.first_steps import FirstStep
from dakika_server.brands.models import Brand
from dakika_server.sources.models import Feed, Import, Profile
from dakika_server.sources.models.profiles import FROM_FILE


def steps_of(brand: Brand) -> Sequence[FirstStep]:
    """Whether a file came in, and whether anybody is followed."""
    followed = Profile.objects.filter(brand=brand, is_followed=True).exclude(external_id__startswith=FROM_FILE)
    return (
        FirstStep(
            key="file", place=1, title="Bring in a file that a network gave you", path="sources/import",
            gives="Your posts of months or years, with their figures, in a minute.", permission="sources.files",
            is_done=Import.objects.filter(brand=brand, state=Import.State.DONE).exists(),
        ),
        FirstStep(
            key="profile", place=2, title="Follow a public profile or a feed", path="sources?open=competitor",
            gives="What somebody publishes from now on, over ActivityPub or a feed: yours or a competitor's.",
            permission="sources.follow",
            is_done=followed.exists() or Feed.objects.filter(brand=brand).exists(),
        ),
    )  # fmt: skip
