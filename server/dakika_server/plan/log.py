"""Who did what with a planned post, and when it went out where."""

from typing import Any

from django.contrib.auth import get_user_model

from dakika_server.networks.definitions import network_name
from dakika_server.plan.models import PlannedPost
from dakika_server.shared.models import AuditEntry

MOST = 500


def log_of(planned: PlannedPost) -> list[dict[str, Any]]:
    """The newest first: what people did, and what the worker sent. Two queries beside the versions'.

    who: a person's name, a guest's as they were called then, empty for the worker and for somebody who is gone. at:
    the time that was set, for those that set one.
    """
    entries = list(
        AuditEntry.objects.filter(subject="PlannedPost", subject_id=planned.pk, brand_id=planned.brand_id)
        .order_by("-at", "-pk")[:MOST]
    )  # fmt: skip
    people = {entry.actor_id for entry in entries if entry.actor_id}
    names = dict(get_user_model().objects.filter(pk__in=people).values_list("pk", "name"))
    told = [
        {"when": entry.at, "who": names.get(entry.actor_id or 0, "") or str(entry.detail.get("by", "")),
         "is_guest": entry.actor_id is None and bool(entry.detail.get("by")), "action": entry.action,
         "at": entry.detail.get("at"), "network": ""}
        for entry in entries
    ]  # fmt: skip
    told += [
        {"when": version.published_at, "who": "", "is_guest": False, "action": "published", "at": None,
         "network": network_name(version.profile.network)}
        for version in planned.versions.select_related("profile") if version.published_at
    ]  # fmt: skip
    return sorted(told, key=lambda one: one["when"], reverse=True)
