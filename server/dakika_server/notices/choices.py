"""How people want to be told: in the application, by a letter at once or once a day, and in which hours not at all."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, time
from typing import Any
from zoneinfo import ZoneInfo

from dakika_core.values.quiet import Hours, daily, soon
from django.db import transaction

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand, Membership
from dakika_server.notices.models import NoticeChoice, NoticeHours
from dakika_server.shared.errors import field_errors
from dakika_server.shared.hooks import Registry

ByMail = NoticeChoice.ByMail


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of thing that people are told of: its words where they choose, and how they are told unless they do."""

    words: str
    by_mail: str = ByMail.NEVER
    by_push: bool = False


KINDS: Registry[Kind] = Registry("kinds of notices")


@dataclass(frozen=True, kw_only=True)
class Wish:
    """How one person is told of one kind."""

    is_shown: bool
    by_mail: str
    by_push: bool
    hours: Hours

    def push_at(self, now: datetime) -> datetime | None:
        """When browsers are to show what happens now."""
        return soon(self.hours, now) if self.by_push else None

    def mail_at(self, now: datetime) -> datetime | None:
        """When a letter tells of what happens now."""
        if self.by_mail == ByMail.NEVER:
            return None
        return soon(self.hours, now) if self.by_mail == ByMail.SOON else daily(self.hours, now)


def wishes_of(brand: Brand, kind: str, people: Sequence[User]) -> dict[int, Wish]:
    """How each of some people is told of a kind, by their numbers. Two queries. Raises KeyError for no kind."""
    usual = KINDS[kind]
    chosen = {one.person_id: one for one in NoticeChoice.objects.filter(brand=brand, kind=kind, person__in=people)}
    kept = {one.person_id: one for one in NoticeHours.objects.filter(person__in=people)}
    return {
        person.pk: Wish(
            is_shown=chosen[person.pk].is_shown if person.pk in chosen else True,
            # What happens among invented figures is no news.
            by_mail=ByMail.NEVER if brand.is_demo else (chosen.get(person.pk) or usual).by_mail,
            by_push=not brand.is_demo and (chosen.get(person.pk) or usual).by_push,
            hours=_hours(kept.get(person.pk), zone_of(person, brand)),
        )
        for person in people
    }


def zone_of(person: User, brand: Brand) -> ZoneInfo:
    """Whose clock a person's hours are read by: their own, else the brand's."""
    return ZoneInfo(person.time_zone) if person.time_zone else brand.zone


def _hours(kept: NoticeHours | None, zone: ZoneInfo) -> Hours:
    if kept is None:
        return Hours(zone=zone)
    return Hours(zone=zone, quiet_from=kept.quiet_from, quiet_to=kept.quiet_to, digest_at=kept.digest_at)


def choices_of(member: Membership) -> dict[str, Any]:
    """What a person has chosen for a brand, kind by kind, and their hours."""
    chosen = {one.kind: one for one in NoticeChoice.objects.filter(brand=member.brand, person=member.user)}
    kept = NoticeHours.objects.filter(person=member.user).first()
    hours = _hours(kept, zone_of(member.user, member.brand))
    return {
        "kinds": [
            {"kind": key, "words": kind.words,
             "is_shown": chosen[key].is_shown if key in chosen else True,
             "by_mail": chosen[key].by_mail if key in chosen else kind.by_mail,
             "by_push": chosen[key].by_push if key in chosen else kind.by_push}
            for key, kind in sorted(KINDS.items(), key=lambda one: one[1].words)
        ],
        "hours": {"quiet_from": hours.quiet_from, "quiet_to": hours.quiet_to, "digest_at": hours.digest_at},
        "zone": str(hours.zone), "email": member.user.email,
    }  # fmt: skip


def keep_choices(member: Membership, *, kinds: Sequence[dict[str, Any]], hours: dict[str, time | None]) -> None:
    """Keep how somebody wants to be told; kinds that are not named stay. Raises field errors for one that is none."""
    if strange := [one["kind"] for one in kinds if one["kind"] not in KINDS]:
        raise field_errors({"kinds": f"There is nothing called {strange[0]} that one is told of."})
    with transaction.atomic():
        for one in kinds:
            NoticeChoice.objects.update_or_create(
                person=member.user, brand=member.brand, kind=one["kind"],
                defaults={name: one[name] for name in ("is_shown", "by_mail", "by_push")},
            )  # fmt: skip
        NoticeHours.objects.update_or_create(person=member.user, defaults=hours)
