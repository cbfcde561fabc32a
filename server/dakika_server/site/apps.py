"""The area site."""

from dakika_server.shared import areas


class SiteConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.site"
