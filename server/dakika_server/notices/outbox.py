"""Letters go out once at most: written with what they tell of, claimed before they are sent, never twice.

In the trade's words: transactional outbox, at most once delivery.
"""

import logging
import smtplib
from contextlib import suppress
from datetime import timedelta
from email.utils import make_msgid
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.core.mail import EmailMultiAlternatives, get_connection

from dakika_server.brands.models import Brand
from dakika_server.jobs.asking import ask
from dakika_server.notices.actions import notify
from dakika_server.notices.html import as_html
from dakika_server.notices.models import Mail, MailFile
from dakika_server.shared import clock

log = logging.getLogger(__name__)
# Minutes until a server that was away is tried again; then the letter has failed.
AGAIN_MINUTES = (1, 5, 15, 60, 240)
# A letter that is being sent for so long has lost its sender.
BROKEN_OFF = timedelta(minutes=10)


def write_mail(
    *, key: str, to: str, subject: str, text: str, brand: Brand | None = None, headers: dict[str, str] | None = None,
    file: MailFile | None = None, is_confidential: bool = False,
) -> Mail | None:  # fmt: skip
    """Put a letter into the outbox, within the caller's transaction; None where the same was written before.

    headers: header fields beyond the usual; file: what is attached (`attach`); is_confidential: a key stands in it, so
    that its text is forgotten once it has gone out, or has not.
    Raises ValueError for one that holds a line break.
    """
    if any("\n" in value or "\r" in value for value in (headers or {}).values()):
        raise ValueError("a header field is one line")
    now = clock.now()
    line = " ".join(subject.split())[:200]
    mail, is_new = Mail.objects.get_or_create(
        key=key,
        defaults={
            "brand": brand, "to": to, "subject": line, "text": text, "headers": headers or {}, "file": file,
            "is_confidential": is_confidential, "made_at": now, "next_at": now,
            "message_id": make_msgid(domain=urlsplit(settings.PUBLIC_ADDRESS).hostname or "localhost"),
        },
    )  # fmt: skip
    if not is_new:
        return None
    ask("notices.send_mail", mail_id=mail.pk)
    return mail


def attach(name: str, media_type: str, content: bytes) -> MailFile:
    """A file for letters that are written in the same transaction."""
    return MailFile.objects.create(name=name, media_type=media_type, content=content, made_at=clock.now())


def deliver(mail_id: int) -> bool:
    """Send a letter that is due. Whether the server took it."""
    now = clock.now()
    claimed = Mail.objects.filter(pk=mail_id, state=Mail.State.WAITING, next_at__lte=now).update(
        state=Mail.State.SENDING, next_at=now + BROKEN_OFF
    )
    if not claimed:
        return False
    mail = Mail.objects.get(pk=mail_id)
    connection = get_connection(timeout=settings.EMAIL_TIMEOUT)
    try:
        connection.open()
    except (OSError, smtplib.SMTPException) as error:
        # Nothing was said of the letter yet: it may be tried again.
        _again(mail, f"The mail server cannot be reached: {_said(error)}.")
        return False
    try:
        _send(mail, connection)
    except smtplib.SMTPRecipientsRefused as error:
        told = next(iter(error.recipients.values()), (0, b""))
        _end(mail, Mail.State.FAILED, f"The address was refused: {_words(told[1])}")
    except smtplib.SMTPResponseException as error:
        # 4yz asks to come again, 5yz does not (RFC 5321, 4.2.1).
        _again(mail, f"{error.smtp_code} {_words(error.smtp_error)}", is_final=error.smtp_code >= 500)
    except smtplib.SMTPServerDisconnected:
        # It may have been taken before the line went dead.
        _end(mail, Mail.State.UNSURE, "The mail server broke off before it said whether it had the letter.")
    except (OSError, smtplib.SMTPException) as error:
        _end(mail, Mail.State.FAILED, f"The mail server did not take it: {_said(error)}.")
    else:
        _end(mail, Mail.State.SENT, "")
        return True
    finally:
        with suppress(OSError, smtplib.SMTPException):
            connection.close()
    log.warning("letter %d: %s", mail.pk, mail.detail)
    return False


def _said(error: Exception) -> str:
    return getattr(error, "strerror", None) or type(error).__name__


def _words(said: bytes | str) -> str:
    text = said.decode("utf-8", "replace") if isinstance(said, bytes) else said
    return " ".join(text.split())[:200]


def _send(mail: Mail, connection: Any) -> None:
    message = EmailMultiAlternatives(
        subject=mail.subject, body=mail.text, to=[mail.to], from_email=settings.DEFAULT_FROM_EMAIL,
        headers={"Message-ID": mail.message_id, "Auto-Submitted": "auto-generated", **mail.headers},
        connection=connection,
    )  # fmt: skip
    message.attach_alternative(as_html(mail.text), "text/html")
    if mail.file is not None:
        message.attach(mail.file.name, bytes(mail.file.content), mail.file.media_type)
    message.send()


def _end(mail: Mail, state: str, detail: str) -> None:
    mail.state, mail.detail, mail.ended_at, mail.attempts = state, detail[:300], clock.now(), mail.attempts + 1
    if mail.is_confidential:
        mail.text = ""
    mail.save(update_fields=["state", "detail", "ended_at", "attempts", "text"])
    if state != Mail.State.SENT:
        _tell(mail)


def _tell(mail: Mail) -> None:
    """Those who look after the brand hear of a letter that did not go out, or may not have."""
    if mail.brand is None:
        return
    what = "may not have arrived" if mail.state == Mail.State.UNSURE else "did not go out"
    notify(
        mail.brand, kind="mail", key=f"mail:{mail.pk}", text=f"A letter to {mail.to} {what}: {mail.subject}",
        detail=mail.detail, permission="brand.change",
    )  # fmt: skip


def _again(mail: Mail, detail: str, *, is_final: bool = False) -> None:
    """Wait for another try, or give up."""
    if is_final or mail.attempts >= len(AGAIN_MINUTES):
        _end(mail, Mail.State.FAILED, detail)
        return
    mail.next_at = clock.now() + timedelta(minutes=AGAIN_MINUTES[mail.attempts])
    mail.state, mail.detail, mail.attempts = Mail.State.WAITING, detail[:300], mail.attempts + 1
    mail.save(update_fields=["state", "detail", "attempts", "next_at"])


def take_up_mail() -> int:
    """Ask for what is due, and tell of what broke off while it was being sent; how many are asked for."""
    now = clock.now()
    for mail in Mail.objects.filter(state=Mail.State.SENDING, next_at__lt=now).select_related("brand")[:500]:
        _end(mail, Mail.State.UNSURE, "Sending broke off: it may have arrived, so it is not sent again.")
    due = list(
        Mail.objects.filter(state=Mail.State.WAITING, next_at__lte=now, attempts__gt=0).values_list("pk", flat=True)[
            :500
        ]
    )
    for pk in due:
        ask("notices.send_mail", mail_id=pk)
    return len(due)
