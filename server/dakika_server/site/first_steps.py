"""The first step of a site: its visits."""

from collections.abc import Sequence

from dakika_server.brands.first_steps import FirstStep
from dakika_server.brands.models import Brand
from dakika_server.site.models import Visit


def steps_of(brand: Brand) -> Sequence[FirstStep]:
    """Whether a visit was ever counted."""
    return (
        FirstStep(
            key="site", place=4, title="Put the script on your site, or bring its access log", path="site/sites",
            gives="What people do after the click: visits, goals, what they were worth.", permission="site.setup",
            is_done=Visit.objects.filter(brand=brand).exists(),
        ),
    )  # fmt: skip
