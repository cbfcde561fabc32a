"""The demo's peer sets, who reads their digest, and a target to follow."""

from datetime import timedelta

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand
from dakika_server.competitors.actions import keep_set, read_digest
from dakika_server.results.models import Target
from dakika_server.results.targets import set_target
from dakika_server.shared import clock
from dakika_server.sources.models import Profile

# Brand to the sets that its team compares: a name, and the networks that they are of (all without any).
SETS = {
    "orrery": (("Museums and sky", ()), ("Pictures", ("pictor", "corkboard")), ("Words", ("commons", "brevi"))),
    "lantern": (("Ferries", ()),),
}


def compare_in_sets(brands: dict[str, Brand], editor: User, *, has_digest: bool = True) -> None:
    """Make the sets, and aim at a steadier pace."""
    for key, brand in brands.items():
        sets = SETS[key]
        for name, networks in sets:
            profiles = Profile.objects.filter(brand=brand)
            if networks:
                profiles = profiles.filter(network__in=networks)
            numbers = list(profiles.values_list("pk", flat=True))
            if len(numbers) > 1:
                kept = keep_set(editor, brand, name=name, profiles=numbers)
                if has_digest and name == sets[0][0]:
                    read_digest(editor, brand, kept)
    now = clock.now()
    target = set_target(
        editor, brands["orrery"], metric="posts_per_week", value=26, by=(now + timedelta(days=40)).date(),
        why="A steady presence in winter",
    )  # fmt: skip
    # It was set a month ago.
    Target.objects.filter(pk=target.pk).update(made_at=now - timedelta(days=30), start=20.5)
