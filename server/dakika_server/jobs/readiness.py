"""Whether an installation can do its work now: what a proxy or a watcher asks."""

import shutil
from pathlib import Path

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, JsonResponse

# A worker says every few seconds that it lives; what was to be done and is not begun for so long stands in a jam.
WORKER_SILENT_SECONDS, JAM_SECONDS = 120, 1800
LEAST_FREE_BYTES = 500 * 1000 * 1000
_WORKER = "SELECT max(last_heartbeat) > now() - make_interval(secs => %s) FROM procrastinate_workers"
_JAMMED = """
SELECT EXISTS (SELECT 1 FROM procrastinate_jobs j WHERE status = 'todo' AND attempts = 0
    AND COALESCE(scheduled_at, (SELECT min(at) FROM procrastinate_events e WHERE e.job_id = j.id))
        < now() - make_interval(secs => %s))
"""


def failing() -> list[str]:
    """What fails, by name: database, worker (none says that it lives), queue (jobs wait for long), disk."""
    found = []
    try:
        with connection.cursor() as cursor:
            cursor.execute(_WORKER, [WORKER_SILENT_SECONDS])
            if not cursor.fetchone()[0]:
                found.append("worker")
            cursor.execute(_JAMMED, [JAM_SECONDS])
            if cursor.fetchone()[0]:
                found.append("queue")
    except DatabaseError:
        return ["database"]
    folder = Path(str(settings.STORAGES["media"]["OPTIONS"].get("location", "/")))
    while not folder.exists():
        folder = folder.parent
    if shutil.disk_usage(folder).free < LEAST_FREE_BYTES:
        found.append("disk")
    return found


def ready(request: HttpRequest) -> JsonResponse:
    """200 where all is well, else 503 with what fails. Names alone: anybody may ask."""
    del request
    found = failing()
    return JsonResponse({"ok": not found, "failing": found}, status=503 if found else 200)
