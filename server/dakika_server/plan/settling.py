"""What did not go out is settled by somebody: sent now, said again, or left."""

from typing import Any

from dakika_core.plan.states import State
from django.db import transaction

from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.plan.actions import require_publishable
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.reviewing import require_allowed
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict

NOT_OUT = (State.FAILED.value, State.MISSED.value)


def settle_version(actor: Any, version: Version, what: str) -> None:
    """Send a version now with the key that it has, write its first comment again, or leave it as a draft.

    Raises Conflict where there is nothing of the kind to settle any more: somebody else did.
    """
    require(actor, version.planned_post.brand, "plan.publish")
    with transaction.atomic():
        # The post first, then its versions: as everybody locks them who changes both.
        planned = PlannedPost.objects.select_for_update().get(pk=version.planned_post_id)
        version = Version.objects.select_for_update(of=("self",)).select_related("profile").get(pk=version.pk)
        if what == "say_again":
            _say_again(version)
        elif version.state not in (*NOT_OUT, State.BY_HAND.value) and not (
            what == "leave" and version.first_comment_state == Version.Said.FAILED
        ):
            raise Conflict("settled", "This is settled already.")
        elif what == "send":
            require_publishable(planned)
            require_allowed(planned)
            version.state, version.due_at, version.attempts = State.SCHEDULED.value, clock.now(), 0
            version.error, version.remedy = "", ""
            version.save()
            ask("plan.publish", version_id=version.pk)
        elif version.first_comment_state == Version.Said.FAILED:
            version.first_comment_state, version.first_comment_error = Version.Said.NONE, ""
            version.save()
        else:
            version.state, version.error, version.remedy = State.DRAFT.value, "", ""
            version.save()
        planned.settle()
        planned.save(update_fields=["state"])
        audit.record(actor, "settle_version", planned, brand_id=planned.brand_id, version=version.pk, what=what)


def _say_again(version: Version) -> None:
    if version.first_comment_state != Version.Said.FAILED:
        raise Conflict("settled", "This is settled already.")
    version.first_comment_state, version.first_comment_error = Version.Said.WAITING, ""
    version.save(update_fields=["first_comment_state", "first_comment_error"])
    ask("plan.say_first", version_id=version.pk)
