"""The area figures."""

from dakika_server.shared import areas


class FiguresConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.figures"
