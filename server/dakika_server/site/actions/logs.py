"""Access logs by the browser: taken in as they are, read by a worker."""

from dataclasses import asdict
from typing import IO, Any, cast

from django.conf import settings
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.shared import audit, chunks, clock
from dakika_server.shared.errors import Problem
from dakika_server.shared.locks import Lock, tried
from dakika_server.site.logs import LogError, LogRead, is_log, lines_in, read_log
from dakika_server.site.models import AccessLog, Site

SHOWN = 12


def upload_log(actor: Any, brand: Brand, site_id: int, *, name: str, size: int, file: IO[bytes]) -> AccessLog:
    """Store a log and let a worker read it. Raises Site.DoesNotExist, and Problem for what is no access log."""
    require(actor, brand, "site.setup")
    site = Site.objects.get(brand=brand, pk=site_id)
    if size > settings.IMPORT_MAX_BYTES:
        most = settings.IMPORT_MAX_BYTES // 2**20
        raise Problem(
            "log_too_large", f"“{name}” is larger than {most:,} MB. Pack it with gzip, or bring it in by days."
        )
    try:
        looks_right = is_log(lines_in(cast(IO[bytes], Ahead(file))))
    except LogError as error:
        raise Problem("log_unreadable", f"“{name}”: {error}") from None
    if not looks_right:
        raise Problem(
            "log_unreadable",
            f"“{name}” is no access log: none of its first lines is of the Common, Combined or W3C Extended format.",
        )
    with transaction.atomic():
        log = AccessLog.objects.create(
            brand=brand, site=site, created_by=actor, created_at=clock.now(), file_name=name[:255], size=size
        )
        file.seek(0)
        chunks.keep(log.chunks, file)
        audit.record(actor, "upload_log", log, brand_id=brand.pk, site=site.name)
        ask("site.read_access_log", log_id=log.pk)
    return log


class Ahead:
    """An uploaded file of which the first bytes can be looked at, and which stays open whoever reads it."""

    def __init__(self, file: IO[bytes]) -> None:
        file.seek(0)
        self._file = file

    def peek(self, size: int) -> bytes:
        """The next bytes without taking them."""
        at = self._file.tell()
        found = self._file.read(size)
        self._file.seek(at)
        return found

    def close(self) -> None:
        """Left open."""

    def __getattr__(self, name: str) -> Any:
        return getattr(self._file, name)


def read_uploaded(log_id: int) -> bool:
    """Read a log into visits. Run again after a worker was killed, it begins anew: what is known adds nothing.

    Returns False where another worker is at it: whoever was asked to read it looks again later.
    """
    with tried(Lock.ACCESS_LOG, log_id) as is_ours:
        if is_ours:
            log = AccessLog.objects.select_related("site").filter(pk=log_id, state__in=("waiting", "reading")).first()
            if log is not None:
                _read(log)
        return is_ours


def _read(log: AccessLog) -> None:
    before = log.new_visits

    def tell(done: LogRead) -> None:
        for name, count in asdict(done).items():
            setattr(log, name, count)
        log.new_visits = before + done.new_visits
        log.save(update_fields=[*asdict(done), "state"])

    log.state = AccessLog.State.READING
    log.save(update_fields=["state"])
    try:
        tell(read_log(log.site, lines_in(chunks.buffered(log.chunks)), tell))
        log.state = AccessLog.State.DONE
    except LogError as error:
        log.state, log.message = AccessLog.State.FAILED, f"{error} What was read before is kept."
    except Exception:
        # A defect of ours is told to whoever waits, and to the log of the worker.
        said = "It could not be read to its end. What was read is kept: bring it in again, it adds what is missing."
        AccessLog.objects.filter(pk=log.pk).update(state=AccessLog.State.FAILED, message=said, ended_at=clock.now())
        chunks.throw_away(log.chunks)
        raise
    log.ended_at = clock.now()
    log.save(update_fields=["state", "message", "ended_at"])
    chunks.throw_away(log.chunks)
