"""What people do with findings."""

from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404
from procrastinate.contrib.django.models import ProcrastinateJob

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.results.models import Finding
from dakika_server.shared import audit
from dakika_server.shared.locks import Lock, wait_within_transaction


def set_finding_state(actor: Any, brand: Brand, finding_id: int, *, state: str) -> Finding:
    """Pin a finding, dismiss it, or take either back. Dismissed ones stay so when they are found again."""
    require(actor, brand, "results.findings")
    with transaction.atomic():
        finding = Finding.objects.select_for_update().filter(brand=brand, pk=finding_id).first()
        if finding is None:
            raise Http404
        finding.state, finding.state_by = state, actor
        finding.save(update_fields=["state", "state_by"])
        audit.record(actor, "set_finding_state", finding, brand_id=brand.pk, state=state)
    return finding


def look_again(actor: Any, brand: Brand) -> None:
    """Have a brand's findings computed soon by the worker; where they are about to be, that is enough."""
    require(actor, brand, "results.findings")
    with transaction.atomic():
        wait_within_transaction(Lock.FINDINGS_ASKED, brand.pk)
        # Somebody looks on, and does not wait for the brands of a morning and the figures of a night.
        if not _jobs_of(brand).filter(status="todo", queue_name="files").exists():
            ask("results.find", queue="files", brand_id=brand.pk)


def is_looking(brand: Brand) -> bool:
    """Whether a brand's findings are being computed, or about to be."""
    return _jobs_of(brand).filter(status__in=["todo", "doing"]).exists()


def _jobs_of(brand: Brand) -> "QuerySet[ProcrastinateJob]":
    jobs: QuerySet[ProcrastinateJob] = ProcrastinateJob.objects.filter(
        task_name="results.find", args__brand_id=brand.pk
    )
    return jobs
