"""The area links."""

from dakika_server.shared import areas


class LinksConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.links"
