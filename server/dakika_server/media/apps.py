"""The area media."""

from dakika_server.shared import areas


class MediaConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.media"
