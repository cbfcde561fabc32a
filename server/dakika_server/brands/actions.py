"""Changes to brands and campaigns."""

from datetime import date
from typing import Any

from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require_editor
from dakika_server.shared import audit
from dakika_server.shared.errors import field_errors


def add_campaign(actor: Any, brand: Brand, *, name: str, first_day: date, last_day: date, colour: int) -> Campaign:
    """Make a campaign. Raises ValidationError when the name is taken."""
    require_editor(actor, brand)
    try:
        with transaction.atomic():
            campaign = Campaign.objects.create(
                brand=brand, name=name.strip(), first_day=first_day, last_day=last_day, colour=colour
            )
            audit.record(actor, "add_campaign", campaign, brand_id=brand.pk)
    except IntegrityError:
        raise field_errors({"name": "There is a campaign of this name already."}) from None
    return campaign
