"""The area results."""

from dakika_server.shared import areas


class ResultsConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.results"
