"""Write the description of the API, each area's part into its room."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError
from drf_spectacular.drainage import GENERATOR_STATS
from drf_spectacular.generators import SchemaGenerator
from drf_spectacular.validation import validate_schema

from dakika_server.shared.describing import NAME, ROOMS, Description, committed, parts_of, written


def described() -> Description:
    """The whole description. Raises CommandError for whatever the generator could not tell for sure."""
    with GENERATOR_STATS.silence():
        GENERATOR_STATS.reset()
        generator: Any = SchemaGenerator()  # type: ignore[no-untyped-call]
        whole: Description = generator.get_schema(request=None, public=True)
    if GENERATOR_STATS:
        raise CommandError("The description is not sure of everything; `manage.py spectacular` tells of what.")
    validate_schema(whole)  # type: ignore[no-untyped-call]
    return whole


class Command(BaseCommand):
    """manage.py describe_api, then `npm run types` in web/."""

    help = "Write each area's part of the API's description into its room."

    def handle(self, *args: Any, **options: Any) -> None:
        """Write what there is, and take away what no area has any more."""
        parts = parts_of(described())
        for area, part in parts.items():
            (ROOMS / area / NAME).write_text(written(part))
        for area, path in committed().items():
            if area not in parts:
                path.unlink()
        self.stdout.write(f"{len(parts)} areas, {sum(len(part['paths']) for part in parts.values())} addresses")
