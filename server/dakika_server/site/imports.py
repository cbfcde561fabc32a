"""Conversions that a file brings: each belongs to a goal of the brand."""

import uuid
from typing import Any

from dakika_core.sources.files.rows import RowProblem

from dakika_server.site.actions.conversions import ConversionIn, store_conversions
from dakika_server.site.models import Goal
from dakika_server.sources.files.rows_in import Batch, BatchIn, Places, days_of
from dakika_server.sources.models import Import


def take_conversions_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Conversions by goal and key. A known key adds nothing, but a stage that the row names is set.

    Amounts keep the currency that the file says, else are of the goal's; a refund is negative.
    """
    del cursor, places
    goals = {goal.name.lower(): goal for goal in Goal.objects.filter(brand_id=item.brand_id, is_archived=False)}
    column = item.header[item.mapping["goal"][0]] if "goal" in item.mapping else ""
    taken, problems, notes = [], [], []
    amount = item.header[item.mapping["amount"][0]] if item.mapping.get("amount") else ""
    for row, v in batch:
        if str(v["goal"]).lower() not in goals:
            known = ", ".join(goal.name for goal in goals.values()) or "none"
            problems.append(
                RowProblem(row=row, column=column, message=f"is no goal of the brand; its goals are: {known}")
            )
            continue
        goal = goals[str(v["goal"]).lower()]
        currency = str(v["currency"] or "")
        if v["amount"] is None:
            notes.append((amount, "rows without an amount are worth what their goal is worth", row))
        elif not currency:
            notes.append((amount, f"amounts without a currency are in {goal.currency}, as their goal is", row))
        elif currency != goal.currency:
            notes.append((amount, f"amounts in {currency} are kept apart from the goal's {goal.currency}", row))
        if v["amount"] is not None and v["amount"] < 0:
            notes.append((amount, "amounts below nought are refunds: they lower the value", row))
        taken.append(ConversionIn(
            key=str(v["key"])[:120], goal=str(v["goal"]), at=v["at"], click=_click(str(v["click"] or "")),
            cents=None if v["amount"] is None else round(v["amount"] * 100), currency=currency,
            contact=str(v["contact"] or "")[:120],
            stage=str(v["stage"] or "")[:40],
        ))  # fmt: skip
    added, _ = store_conversions(None, item.brand, taken, goals, import_id=item.pk)
    return BatchIn(added=added, problems=problems, notes=notes, days=days_of((v["at"] for _, v in batch), item))


def _click(given: str) -> uuid.UUID | None:
    try:
        return uuid.UUID(given)
    except ValueError:
        return None
