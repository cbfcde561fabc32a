"""Workbooks and archives are looked into by a worker: what they unpack to is nobody's business in the web's threads."""

import logging
from typing import Any

from dakika_core.sources.files.delimited import FileError
from django.db import transaction
from rest_framework.exceptions import ValidationError

from dakika_server.shared import clock
from dakika_server.sources.files import store
from dakika_server.sources.files.forms import PACKED, Form
from dakika_server.sources.files.settling import take_word
from dakika_server.sources.files.upload import look_first
from dakika_server.sources.files.waiting import ASKED
from dakika_server.sources.models import Import

log = logging.getLogger(__name__)
DEFECT = "It could not be looked into. Save the sheet as CSV and bring that in."


def look_into(import_id: int) -> None:
    """Look into a file, or look again as a person said. What is wrong is written on it. Run twice, it is done once."""
    item = Import.objects.select_related("brand").filter(pk=import_id, state=Import.State.LOOKING).first()
    if item is None:
        return
    asked = item.detected.pop(ASKED, None)
    try:
        if asked is None:
            _first(item)
        else:
            _again(item, asked)
        message = ""
    except (FileError, ValidationError) as error:
        message = str(error) if isinstance(error, FileError) else _first_of(error)
    except Exception:
        log.exception("file %s could not be looked into", import_id)
        message = DEFECT
    _end(item, message, was_known=asked is not None)


def _first(item: Import) -> None:
    with store.on_disk(item) as file:
        look_first(item, Form(form=PACKED), file)


def _again(item: Import, asked: dict[str, Any]) -> None:
    take_word(item, asked, lambda: store.on_disk(item))


def _first_of(error: ValidationError) -> str:
    detail = error.detail
    texts = next(iter(detail.values())) if isinstance(detail, dict) else detail
    return str(texts[0] if isinstance(texts, list) else texts)


def _end(item: Import, message: str, *, was_known: bool) -> None:
    """What was found is kept, unless the file was thrown away meanwhile."""
    with transaction.atomic():
        kept = Import.objects.select_for_update().filter(pk=item.pk, state=Import.State.LOOKING).first()
        if kept is None:
            return
        if not message:
            item.state, item.message = Import.State.WAITING, ""
            item.save()
            return
        kept.message = message[:500]
        kept.detected.pop(ASKED, None)
        if was_known:
            # It stands as it stood before; the page says why.
            kept.state = Import.State.WAITING
        else:
            kept.state, kept.ended_at = Import.State.FAILED, clock.now()
            store.throw_away(kept)
        kept.save()
