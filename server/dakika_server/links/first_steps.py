"""The first step of links: one that is tracked."""

from collections.abc import Sequence

from dakika_server.brands.first_steps import FirstStep
from dakika_server.brands.models import Brand
from dakika_server.links.models import TrackedLink


def steps_of(brand: Brand) -> Sequence[FirstStep]:
    """Whether there is one."""
    return (
        FirstStep(
            key="link", place=3, title="Make a tracked link", path="links",
            gives="Who clicks, from where and when, the moment it is used.", permission="links.make",
            is_done=TrackedLink.objects.filter(brand=brand).exists(),
        ),
    )  # fmt: skip
