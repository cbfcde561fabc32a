"""Reports by mail: set up, due by the brand's clock, and sent exactly once.

When a delivery is due a run of it is written in the transaction that moves it on; a job makes the run. Its figures and
its PDF are kept with it before any letter is written, and each letter has a key of its run and reader, so that a kill
anywhere neither loses nor doubles one.

In the trade's words: scheduled report, subscription.
"""

import logging
import secrets
from collections.abc import Mapping, Sequence
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from dakika_core.reports.deliveries import Every, rule_of
from django.core.exceptions import ValidationError as WrongAddress
from django.core.validators import validate_email
from django.db import transaction
from django.http import Http404
from rest_framework.exceptions import APIException

from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.permissions import can, require
from dakika_server.brands.queries import team_of
from dakika_server.jobs.asking import ask
from dakika_server.notices.actions import notify
from dakika_server.notices.outbox import attach, write_mail
from dakika_server.notices.schedules import next_of
from dakika_server.printing.chromium import print_page
from dakika_server.reports.letters import letter_of
from dakika_server.reports.links import frozen
from dakika_server.reports.models import Delivery, DeliveryReader, DeliveryRun, Report
from dakika_server.reports.serializers.reports import shown_pages
from dakika_server.reports.showing import Shower
from dakika_server.reports.studies import values_at
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.sources.health import holes_in
from dakika_server.sources.models import Profile
from dakika_server.sources.models.profiles import FROM_FILE
from dakika_server.webhooks.events import EventKind, happened, page

log = logging.getLogger(__name__)
State = DeliveryRun.State
MOST_READERS, MOST_DELIVERIES = 200, 200
SENT = "report.sent"
TOLD = {
    SENT: EventKind(words="A report went out, or could not", about={
        "run": "this sending's number", "report": "the report's number", "title": "its title",
        "state": "sent, or failed", "letters": "how many letters", "why": "what went wrong",
        "page": "the page in Dakika",
    })
}  # fmt: skip
LOOK_AGAIN = timedelta(minutes=15)
# Figures of this many days back may still be collected, so that it is worth waiting for them; older holes stay.
MAY_COME = 2
# What was due while nobody was at work goes out late, once; what is older than this is nobody's news any more.
TOO_LATE = timedelta(days=6)


def save_delivery(
    actor: Any, report: Report, *, delivery: Delivery | None, edition: int, every: str, weekday: int, day: int,
    rule: str, hour: int, minute: int, begins: date | None, message: str, wait_hours: int, is_on: bool,
    to: Sequence[str], people: Sequence[int] = (),
) -> Delivery:  # fmt: skip
    """Set one up, or differently. Raises Conflict where a colleague was faster, field errors for what is wrong."""
    require(actor, report.brand, "reports.share")
    brand, now = report.brand, clock.now()
    readers = _readers(brand, to, people)
    try:
        written = rule_of(Every(every), weekday=weekday, day=day, rule=rule)
    except ValueError as error:
        raise field_errors({"rule": str(error)}) from None
    first = begins or now.astimezone(brand.zone).date()
    local = datetime.combine(first, time(hour, minute))
    with transaction.atomic():
        if delivery is not None:
            delivery = Delivery.objects.select_for_update().get(pk=delivery.pk)
            if delivery.edition != edition:
                raise Conflict("changed_meanwhile", "Somebody has changed this delivery since you opened it.")
            delivery.edition += 1
        elif Delivery.objects.filter(brand=brand).count() >= MOST_DELIVERIES:
            raise field_errors({"every": "There are very many deliveries already. Take some away first."})
        else:
            delivery = Delivery(brand=brand, report=report, made_by=actor, made_at=now)
        delivery.every, delivery.weekday, delivery.day, delivery.rule = every, weekday, day, written
        delivery.begins, delivery.message = local.replace(tzinfo=UTC), message.replace("\x00", "").strip()
        delivery.wait_hours, delivery.is_on = wait_hours, is_on
        delivery.next_at = next_of(written, local, brand.zone, now)
        if delivery.next_at is None:
            raise field_errors({"rule": "By this rule it never goes out again."})
        delivery.save()
        _set_readers(delivery, readers)
        audit.record(actor, "set_delivery", delivery, brand_id=brand.pk, on=is_on, readers=len(readers))
    return delivery


def _readers(brand: Brand, to: Sequence[str], people: Sequence[int]) -> dict[str, int | None]:
    """Addresses, each with the person of the team whose it is; None for one outside. Raises field errors."""
    team = {one.user_id: one.user.email.lower() for one in team_of(brand)}
    if strangers := [one for one in people if one not in team]:
        raise field_errors({"people": f"Nobody of the team has the number {strangers[0]}."})
    found: dict[str, int | None] = {team[one]: one for one in people}
    for address in (one.strip().lower() for one in to):
        if address:
            found.setdefault(address, None)
    if not found:
        raise field_errors({"to": "Say whom it is sent to."})
    if len(found) > MOST_READERS:
        raise field_errors({"to": f"It goes to {MOST_READERS} addresses at most."})
    for one in found:
        try:
            validate_email(one)
        except WrongAddress:
            raise field_errors({"to": f"{one[:80]} is no address."}) from None
    return found


def _set_readers(delivery: Delivery, readers: Mapping[str, int | None]) -> None:
    """Those who are to have it. Who stopped it stays known, so that nobody puts them back without their knowing."""
    known = {one.person_id or one.address: one for one in delivery.readers.all()}
    kept = {person or address for address, person in readers.items()}
    gone = [one.pk for key, one in known.items() if key not in kept and one.stopped_at is None]
    delivery.readers.filter(pk__in=gone).delete()
    DeliveryReader.objects.bulk_create(
        DeliveryReader(delivery=delivery, person_id=person, address=address, token=secrets.token_urlsafe(32))
        for address, person in readers.items()
        if (person or address) not in known and address not in {one.address for one in known.values()}
    )


def _letters_to(run: DeliveryRun) -> dict[str, str]:
    """Where letters of a run go, each with what ends them there. People of the team may have moved, or left it."""
    team = {one.user_id: one.user.email for one in team_of(run.brand) if one.user.is_active}
    found: dict[str, str] = {}
    for reader in run.delivery.readers.filter(stopped_at=None).order_by("pk"):
        if reader.person_id is None:
            found.setdefault(reader.address, reader.token)
        elif reader.person_id in team:
            found.setdefault(team[reader.person_id], reader.token)
    return found


def delivery_of(report: Report, pk: int) -> Delivery:
    """One of a report's. Raises Http404."""
    found = Delivery.objects.filter(report=report, pk=pk).first()
    if found is None:
        raise Http404
    return found


def take_away(actor: Any, delivery: Delivery) -> None:
    """It is sent no more; what was sent stays with its readers alone."""
    require(actor, delivery.brand, "reports.share")
    with transaction.atomic():
        audit.record(actor, "take_away_delivery", delivery, brand_id=delivery.brand_id)
        delivery.delete()


def send_now(actor: Any, delivery: Delivery, *, to_myself: bool) -> DeliveryRun:
    """Send it outside of its rule: to everybody again, or to try it to whoever asks alone."""
    require(actor, delivery.brand, "reports.share")
    now = clock.now()
    with transaction.atomic():
        run = DeliveryRun.objects.create(
            brand=delivery.brand, delivery=delivery, due_at=now, test_to=actor.email if to_myself else ""
        )
        ask("reports.deliver", run_id=run.pk)
        audit.record(actor, "send_report", delivery, brand_id=delivery.brand_id, test=to_myself)
    return run


def stop_by_token(token: str) -> str | None:
    """Somebody wants it no more: the report's title; None for a token that is none."""
    with transaction.atomic():
        reader = DeliveryReader.objects.select_related("delivery__report").filter(token=token[:60]).first()
        if reader is None:
            return None
        if reader.stopped_at is None:
            reader.stopped_at = clock.now()
            reader.save(update_fields=["stopped_at"])
            notify(
                reader.delivery.brand, kind="report", key=f"stopped:{reader.pk}", permission="reports.share",
                text=f"{reader.address} wants the report “{reader.delivery.report.title}” no more.", detail="",
            )  # fmt: skip
        return reader.delivery.report.title


def sweep(now: datetime) -> int:
    """Write a run of each delivery that is due, and move it on; how many. What was missed for long is left out."""
    done = 0
    with transaction.atomic():
        due = (
            Delivery.objects.select_for_update(skip_locked=True, of=("self",)).select_related("brand", "report")
            .filter(is_on=True, next_at__lte=now).order_by("next_at")[:500]
        )  # fmt: skip
        for delivery in due:
            at = delivery.next_at
            assert at is not None
            if delivery.report.removed_at is None and now - at < TOO_LATE:
                run, is_new = DeliveryRun.objects.get_or_create(
                    brand=delivery.brand,
                    delivery=delivery,
                    due_at=at,
                    test_to="",
                    defaults={"waits_until": at + timedelta(hours=delivery.wait_hours)},
                )
                if is_new:
                    ask("reports.deliver", run_id=run.pk)
                    done += 1
            local = delivery.begins.astimezone(UTC).replace(tzinfo=None)
            delivery.next_at = next_of(delivery.rule, local, delivery.brand.zone, now)
            delivery.save(update_fields=["next_at"])
    return done


def reckon_anew(brand: Brand) -> None:
    """The brand's zone changed: its deliveries stay at their local times."""
    for delivery in Delivery.objects.filter(brand=brand):
        local = delivery.begins.astimezone(UTC).replace(tzinfo=None)
        delivery.next_at = next_of(delivery.rule, local, brand.zone, clock.now())
        delivery.save(update_fields=["next_at"])


def deliver(run_id: int) -> None:
    """Make a run: its figures, its PDF, its letters. Asked for again it goes on where it was."""
    run = DeliveryRun.objects.select_related("delivery__report", "brand").filter(pk=run_id, state=State.WAITING).first()
    if run is None:
        return
    report, now = run.delivery.report, clock.now()
    if report.removed_at is not None:
        _end(run, State.FAILED, "The report was taken away.")
        return
    if run.shown is None:
        if run.waits_until and now < run.waits_until and (late := missing_in(report, run.brand, now, MAY_COME)):
            DeliveryRun.objects.filter(pk=run.pk).update(missing=late[:500])
            ask("reports.deliver", run_id=run.pk, schedule_at=min(now + LOOK_AGAIN, run.waits_until))
            return
        missing = missing_in(report, run.brand, now)
        shown = shown_pages(Shower(report, run.brand, now), report.pages, report.language)
        DeliveryRun.objects.filter(pk=run.pk, shown__isnull=True).update(
            shown=frozen(report, shown), missing=missing[:500]
        )
        run.refresh_from_db()
    if run.content is None:
        content, detail = _paper(run)
        if content is None:
            _end(run, State.FAILED, detail)
            return
        DeliveryRun.objects.filter(pk=run.pk, content=None).update(content=content)
        run.refresh_from_db(fields=["content"])
    _write_letters(run)


def missing_in(report: Report, brand: Brand, now: datetime, days: int | None = None) -> str:
    """Which days of the report's own were not collected, in words; nothing if all are there. days: the last alone."""
    try:
        values = values_at(brand, report.study, now)
    except APIException:
        return ""
    # What comes in by files nobody collects: it is no hole that could be waited for.
    own = Profile.objects.filter(brand=brand, kind="own", is_followed=True).exclude(external_id__startswith=FROM_FILE)
    first = values["first"]
    if days is not None:
        first = max(first, now.astimezone(brand.zone).date() - timedelta(days=days))
        if first > values["last"]:
            return ""
    return holes_in(brand, list(own), first, values["last"], now)


def _paper(run: DeliveryRun) -> tuple[bytes | None, str]:
    """The PDF, printed as one of the team sees it who may share reports; else why there is none."""
    makers = Membership.objects.filter(brand=run.brand, user__is_active=True).select_related("user")
    persons = [one.user for one in makers if can(one.user, run.brand, "reports.share")]
    persons.sort(key=lambda one: one.pk != run.delivery.made_by_id)
    if not persons:
        return None, "Nobody of the team may share reports any more."
    path = f"/{run.brand.slug}/reports/{run.delivery.report_id}/print?run={run.pk}"
    try:
        return print_page(persons[0], path), ""
    except Problem as problem:
        return None, str(problem.detail)


def _write_letters(run: DeliveryRun) -> None:
    """A letter to each, and the end of the run, in one transaction."""
    with transaction.atomic():
        current = DeliveryRun.objects.select_for_update().get(pk=run.pk)
        if current.state != State.WAITING:
            return
        file = attach(f"{run.brand.slug}-report.pdf", "application/pdf", bytes(run.content or b""))
        known = _letters_to(run)
        to = {run.test_to: known.get(run.test_to, "")} if run.test_to else known
        written = 0
        for address, token in to.items():
            subject, text, headers = letter_of(run, token)
            written += write_mail(
                key=f"report:{run.pk}:{address}"[:200], to=address, subject=subject, text=text, brand=run.brand,
                headers=headers, file=file,
            ) is not None  # fmt: skip
        current.state, current.letters, current.ended_at = State.SENT, written, clock.now()
        current.save(update_fields=["state", "letters", "ended_at"])
        _tell_of(current)


def _end(run: DeliveryRun, state: str, detail: str) -> None:
    with transaction.atomic():
        ended = DeliveryRun.objects.filter(pk=run.pk, state=State.WAITING).update(
            state=state, detail=detail[:300], ended_at=clock.now()
        )
        if ended:
            notify(
                run.brand, kind="report", key=f"report-run:{run.pk}", permission="reports.share",
                text=f"The report “{run.delivery.report.title}” did not go out.", detail=detail,
            )  # fmt: skip
            run.state, run.detail = state, detail
            _tell_of(run)


def _tell_of(run: DeliveryRun) -> None:
    report = run.delivery.report
    happened(run.brand_id, SENT, key=str(run.pk), about=lambda: {
        "run": run.pk, "report": report.pk, "title": report.title, "state": run.state, "letters": run.letters,
        "why": run.detail, "page": page(run.brand, f"reports/{report.pk}"),
    })  # fmt: skip
