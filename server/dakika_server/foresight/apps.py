"""The area foresight."""

from dakika_server.shared import areas


class ForesightConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.foresight"
