"""The area accounts."""

from django.apps import AppConfig


class AccountsConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.accounts"
