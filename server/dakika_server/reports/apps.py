"""The area reports."""

from dakika_server.shared import areas


class ReportsConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.reports"
