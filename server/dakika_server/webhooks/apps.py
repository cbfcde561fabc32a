"""The area webhooks."""

from dakika_server.shared import areas


class WebhooksConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.webhooks"
