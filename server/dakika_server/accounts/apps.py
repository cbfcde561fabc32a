"""The area accounts."""

from dakika_server.shared import areas


class AccountsConfig(areas.AreaConfig):
    """Django's handle."""

    name = "dakika_server.accounts"
