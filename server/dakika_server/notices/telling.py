"""Letters that tell of notices: each once, those of a brand that are due together in one."""

from django.conf import settings
from django.db import transaction

from dakika_server.brands.models import Brand, Membership
from dakika_server.notices.models import Notification
from dakika_server.notices.outbox import write_mail
from dakika_server.shared import clock

AT_ONCE = 200
_END = "You get this because you chose it. What you are told of, and when:\n{address}"


def write_due() -> int:
    """Write the letters that are due; how many. What was read in the meantime needs none.

    Notices are marked in the transaction that writes their letter: a kill in between loses and doubles nothing.
    """
    due = (
        Notification.objects.filter(mail_at__lte=clock.now(), mailed_at=None)
        .order_by().values_list("person_id", "brand_id").distinct()[:AT_ONCE]
    )  # fmt: skip
    return sum(_write(person, brand) for person, brand in list(due))


def _write(person_id: int, brand_id: int) -> int:
    with transaction.atomic():
        now = clock.now()
        rows = list(
            Notification.objects.select_for_update(skip_locked=True)
            .filter(person_id=person_id, brand_id=brand_id, mail_at__lte=now, mailed_at=None).order_by("at", "pk")
        )  # fmt: skip
        Notification.objects.filter(pk__in=[row.pk for row in rows]).update(mailed_at=now)
        member = Membership.objects.select_related("user", "brand").filter(user=person_id, brand=brand_id).first()
        told = [row for row in rows if row.read_at is None]
        if member is None or not told:
            return 0
        subject = told[0].text if len(told) == 1 else f"{len(told)} notices"
        mail = write_mail(
            key=f"notices:{person_id}:{brand_id}:{told[-1].pk}", to=member.user.email, brand=member.brand,
            subject=f"{member.brand.name}: {subject}", text=_text(member.brand, told),
        )  # fmt: skip
        return int(mail is not None)


def _text(brand: Brand, told: list[Notification]) -> str:
    home = f"{settings.PUBLIC_ADDRESS}/{brand.slug}"
    parts = [
        "\n".join(filter(None, [one.letter or one.text, "" if one.letter else one.detail,
                                f"{home}/{one.path}" if one.path and not one.letter else ""]))
        for one in told
    ]  # fmt: skip
    return "\n\n".join([*parts, _END.format(address=f"{home}/team/notices")])
