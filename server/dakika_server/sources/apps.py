"""The area sources."""

from dakika_server.shared import areas


class SourcesConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.sources"
