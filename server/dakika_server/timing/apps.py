"""The area timing."""

from dakika_server.shared import areas


class TimingConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.timing"
