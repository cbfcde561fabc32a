"""What channels, campaigns and posts are called."""

from dakika_core.values.numbers import whole_number

from dakika_server.brands.models import Brand, Campaign
from dakika_server.networks.definitions import all_networks
from dakika_server.site.attribution import OWN, WORD
from dakika_server.sources.models import Post

LONGEST_NAME = 120


def names_of(brand: Brand, by: str, keys: list[str]) -> dict[str, str]:
    """What channels, campaigns and posts are called."""
    if by in ("channel", "network"):
        networks = all_networks()
        return {key: networks[key].name if key in networks else key for key in keys}
    if by == "campaign":
        numbers = [n for key in keys if (n := whole_number(key.removeprefix(OWN))) is not None]
        known = dict(Campaign.objects.filter(brand=brand, pk__in=numbers).values_list("pk", "name"))
        return {
            key: key.removeprefix(WORD) if key.startswith(WORD) else known.get(
                whole_number(key.removeprefix(OWN)) or 0, key
            )
            for key in keys
        }  # fmt: skip
    numbers = [n for key in keys if (n := whole_number(key)) is not None]
    posts = Post.objects.filter(profile__brand=brand, pk__in=numbers).values_list("pk", "text")
    return {str(pk): text[:LONGEST_NAME] for pk, text in posts}
