"""The area plan."""

from dakika_server.shared import areas


class PlanConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.plan"
