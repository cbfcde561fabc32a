"""The area brands."""

from django.apps import AppConfig


class BrandsConfig(AppConfig):
    """Django's handle."""

    name = "dakika_server.brands"

    def ready(self) -> None:
        """Sessions show the brands of a person; accounts stand below and cannot ask themselves."""
        from dakika_server.accounts.queries import register_brands
        from dakika_server.brands.queries import brands_of

        register_brands(brands_of)
