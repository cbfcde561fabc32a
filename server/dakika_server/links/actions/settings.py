"""A brand's rules for its links."""

from typing import Any

from dakika_core.links.utm import Existing, RuleError, UtmRules
from dakika_core.values.addresses import AddressError, clean_destination
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.links.models import LinkSettings
from dakika_server.shared import audit
from dakika_server.shared.errors import field_errors


def checked_rules(rules: dict[str, Any]) -> UtmRules:
    """Rules as they were sent; ValidationError by field ("templates.source") for what cannot be filled."""
    try:
        return UtmRules(**{**rules, "existing": Existing(rules.get("existing", Existing.KEEP.value))})
    except RuleError as error:
        raise field_errors({f"rules.{error.part}": str(error)}) from None


def save_settings(actor: Any, brand: Brand, *, rules: dict[str, Any], home: str, over_words: str) -> LinkSettings:
    """Keep a brand's rules, its home address and its words for links that are over."""
    require(actor, brand, "links.rules")
    checked_rules(rules)
    try:
        cleaned = clean_destination(home) if home.strip() else ""
    except AddressError as error:
        raise field_errors({"home": str(error)}) from None
    with transaction.atomic():
        kept, _ = LinkSettings.objects.update_or_create(
            brand=brand, defaults={"rules": rules, "home": cleaned, "over_words": over_words.strip()}
        )
        audit.record(actor, "save_link_settings", kept, brand_id=brand.pk)
    return kept
