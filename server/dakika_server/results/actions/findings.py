"""What people do with findings."""

from typing import Any

from django.db import transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require_editor
from dakika_server.results.models import Finding
from dakika_server.shared import audit


def set_finding_state(actor: Any, brand: Brand, finding_id: int, *, state: str) -> Finding:
    """Pin a finding, dismiss it, or take either back. Dismissed ones stay so when they are found again."""
    require_editor(actor, brand)
    with transaction.atomic():
        finding = Finding.objects.select_for_update().filter(brand=brand, pk=finding_id).first()
        if finding is None:
            raise Http404
        finding.state, finding.state_by = state, actor
        finding.save(update_fields=["state", "state_by"])
        audit.record(actor, "set_finding_state", finding, brand_id=brand.pk, state=state)
    return finding
