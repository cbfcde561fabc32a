"""The areas of this installation, in the order of their rooms. Their area.py is all that is known of them."""

from django.apps import apps

from dakika_server.shared.areas import Area, AreaConfig, area_in

AREAS: list[Area] = [area_in(config.name) for config in apps.get_app_configs() if isinstance(config, AreaConfig)]
