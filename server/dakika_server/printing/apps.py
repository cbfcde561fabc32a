"""The area printing."""

from dakika_server.shared import areas


class PrintingConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.printing"
