"""The area brands."""

from dakika_server.shared import areas


class BrandsConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.brands"
