"""The room of measures."""

from dakika_server.shared import areas


class MeasuresConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.measures"
