"""The area competitors."""

from dakika_server.shared import areas


class CompetitorsConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.competitors"
