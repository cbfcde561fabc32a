"""The area networks."""

from dakika_server.shared import areas


class NetworksConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.networks"
