"""The area demo."""

from dakika_server.shared import areas


class DemoConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.demo"
