"""Conversions that are told by people, files or programs."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.site.models import Conversion, ConversionStage, Goal, Visit

MOST_CONVERSIONS = 1000


@dataclass(frozen=True, kw_only=True)
class ConversionIn:
    """A conversion that a file or a program tells of. Without cents it is worth what its goal is, in its currency."""

    key: str
    goal: str
    at: datetime
    cents: int | None = None
    currency: str = ""
    click: UUID | None = None
    contact: str = ""
    stage: str = ""


def take_conversions(actor: Any, brand: Brand, rows: Sequence[ConversionIn]) -> tuple[int, int]:
    """Take conversions in; returns how many are new, and how many stages were set on known ones.

    The key makes each unique: telling it again adds nothing, but a stage that it names is set.
    Raises ValidationError with "row N" for goals that there are not; nothing comes in then.
    """
    require(actor, brand, "site.conversions")
    if len(rows) > MOST_CONVERSIONS:
        raise field_errors({"rows": f"At most {MOST_CONVERSIONS} conversions at once."})
    goals = {goal.name.lower(): goal for goal in Goal.objects.filter(brand=brand, is_archived=False)}
    errors = {
        f"row {i}": f"There is no goal “{row.goal}”." for i, row in enumerate(rows, 1) if row.goal.lower() not in goals
    }
    if errors:
        raise field_errors(errors)
    with transaction.atomic():
        added, stages = store_conversions(actor, brand, rows, goals)
        audit.record(actor, "take_conversions", brand, brand_id=brand.pk, rows=len(rows))
    return added, stages


def store_conversions(
    actor: Any, brand: Brand, rows: Sequence[ConversionIn], goals: Mapping[str, Goal], import_id: int | None = None
) -> tuple[int, int]:
    """Store conversions whose goals are known, inside the caller's transaction; how many are new, stages set."""
    clicks = [row.click for row in rows if row.click]
    visits = {v.click_key: v for v in Visit.objects.filter(brand=brand, click_key__in=clicks)}
    known = set(Conversion.objects.filter(brand=brand, key__in=[row.key for row in rows]).values_list("key", flat=True))
    made = []
    for row in rows:
        goal, visit = goals[row.goal.lower()], visits.get(row.click)
        made.append(Conversion(
            brand=brand, goal=goal, visit=visit, visitor=visit.visitor if visit else None, key=row.key, at=row.at,
            cents=goal.cents if row.cents is None else row.cents, currency=row.currency or goal.currency,
            contact=row.contact,
            import_id=import_id,
        ))  # fmt: skip
    Conversion.objects.bulk_create(made, ignore_conflicts=True)
    return len({row.key for row in rows} - known), _set_stages(actor, brand, rows)


def _set_stages(actor: Any, brand: Brand, rows: Sequence[ConversionIn]) -> int:
    wanted = {row.key: row for row in rows if row.stage}
    count = 0
    for conversion in Conversion.objects.select_for_update().filter(brand=brand, key__in=wanted):
        count += set_stage(actor, conversion, wanted[conversion.key].stage, wanted[conversion.key].at)
    return count


def set_stage(actor: Any, conversion: Conversion, stage: str, at: datetime) -> bool:
    """Note that a contact reached a stage; False when it is there already."""
    if conversion.stage == stage:
        return False
    ConversionStage.objects.create(conversion=conversion, stage=stage, at=at, by=actor)
    conversion.stage = stage
    conversion.save(update_fields=["stage"])
    return True


def change_stage(actor: Any, brand: Brand, pk: int, stage: str) -> Conversion:
    """Set a contact's stage by hand. Conversion.DoesNotExist."""
    require(actor, brand, "site.conversions")
    with transaction.atomic():
        conversion = Conversion.objects.select_for_update().get(brand=brand, pk=pk)
        if set_stage(actor, conversion, stage.strip(), clock.now()):
            audit.record(actor, "change_stage", conversion, brand_id=brand.pk, stage=stage.strip())
    return conversion
