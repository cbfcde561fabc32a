"""The plan, as it hands itself in."""

from dakika_server.jobs.forgotten import WAITING
from dakika_server.plan import jobs
from dakika_server.plan.models import Version
from dakika_server.plan.queries import times_of
from dakika_server.shared.areas import Area
from dakika_server.sources.forget import posts_forgotten
from dakika_server.timing.planned import times_taken


def _forget_posts(post_ids: list[int]) -> None:
    Version.objects.filter(post_id__in=post_ids).update(post=None)


def _connect() -> None:
    for waiting in jobs.WAITING:
        WAITING.add(waiting.task, waiting)
    times_taken.add("plan", times_of)
    posts_forgotten.add("plan", _forget_posts)


AREA = Area(name="plan", urls="dakika_server.plan.urls", connect=_connect)
