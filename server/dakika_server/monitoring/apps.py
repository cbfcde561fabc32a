"""The area monitoring."""

from dakika_server.shared import areas


class MonitoringConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.monitoring"
