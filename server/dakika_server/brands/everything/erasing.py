"""Everything about a brand or a person is taken out: in one transaction, and files once that has happened."""

from itertools import chain
from typing import Any

from django.apps import apps
from django.db import connection, transaction
from django.db.models import Q

from dakika_server.accounts.models import User
from dakika_server.accounts.permissions import Role
from dakika_server.brands.belongings import belongings_of
from dakika_server.brands.everything.tables import (
    brand_files,
    our_models,
    paths_to_brand,
    references,
    rows_of_brand,
)
from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.team import leave
from dakika_server.shared import audit
from dakika_server.shared.errors import field_errors
from dakika_server.shared.models import TRANSACTION, AuditEntry, RowChange

GONE = "somebody who left"
_MEMBERS = Membership._meta.db_table


def erase_brand(brand: Brand) -> int:
    """Take a brand out with everything of it; how many rows. People stay; programs of it alone go.

    What other brands have from it stays theirs, without the reference. Foreign keys are held against each other at the
    end of the transaction, so that the order does not matter.
    """
    paths, gone = paths_to_brand(), 0
    with transaction.atomic(), connection.cursor() as cursor:
        Brand.objects.select_for_update().get(pk=brand.pk)
        files = list(chain.from_iterable(brand_files(brand.pk)))
        programs = list(User.objects.filter(is_program=True, memberships__brand=brand))
        _let_go(brand)
        cursor.execute("SET LOCAL dakika.erases_log = 'on'")
        # Sums of what goes need not be reckoned on the way.
        cursor.execute("SET LOCAL dakika.keeps_sums = 'on'")
        entries = AuditEntry.objects.filter(brand_id=brand.pk)
        RowChange.objects.filter(transaction__in=entries.values("transaction")).delete()
        # What leads there by several steps goes first: afterwards its way is gone.
        for model in sorted(paths, key=lambda one: -paths[one].count("__")):
            if model is not Brand:
                gone += rows_of_brand(model, brand.pk)._raw_delete("default")
        for program in programs:
            program.delete()
        gone += Brand.objects.filter(pk=brand.pk)._raw_delete("default")
        cursor.execute("SET LOCAL dakika.keeps_sums = 'off'")
        # What was noted of the going.
        cursor.execute(f"DELETE FROM shared_rowchange WHERE transaction = {TRANSACTION}")  # noqa: S608 (our own)
        audit.record(None, "erase_brand", brand, brand_id=None, name=brand.slug, rows=gone)
        for file in files:
            transaction.on_commit(file.remove)
    return gone


def _let_go(brand: Brand) -> None:
    """Rows of others that point at rows of the brand point at nothing; those that stand for such a tie alone go."""
    paths = paths_to_brand()
    for model in our_models():
        for field, to in references(model):
            if to not in paths or to is Brand:
                continue
            theirs = Q(**{f"{field.name}__in": rows_of_brand(to, brand.pk).values("pk")})
            own = Q(**{paths[model]: brand.pk}) if model in paths else Q(pk__in=[])
            rows = model._default_manager.filter(theirs).exclude(own)
            if field.null:
                rows.update(**{field.name: None})
            else:
                rows.delete()


def erase_person(person: User) -> None:
    """Take a person out: what is theirs in each brand goes to its first admin, and nothing names them any more.

    That something was done stays in the log, by a number that is nobody's. Raises field errors for the last admin of a
    brand: somebody else must be one first.
    """
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET LOCAL dakika.erases_log = 'on'")
        # Before anything is said of their going.
        User.objects.filter(pk=person.pk).update(name=GONE)
        person.name = GONE
        for member in Membership.objects.filter(user=person).select_related("brand").order_by("pk"):
            leave(person, member.brand, person.pk, _heir(member, person))
        _forget_what_names(person)
        number, email = person.pk, person.email
        person.delete()
        # The rows before and after of what has just been done name them as well.
        RowChange.objects.filter(table="accounts_user", row=number).delete()
        RowChange.objects.filter(Q(before__email=email) | Q(after__email=email)).delete()
        audit.record(None, "erase_person", User(pk=number), brand_id=None)


def _heir(member: Membership, person: User) -> int | None:
    if not any(not one.is_personal for one in belongings_of(member.brand, person)):
        return None
    others = Membership.objects.filter(brand=member.brand, role=Role.ADMIN.value, user__is_program=False)
    first = others.exclude(user=person).order_by("pk").first()
    if first is None:
        raise field_errors({"to": f"{member.brand.name} has no other admin. Make somebody else one first."})
    return first.user_id


def _forget_what_names(person: User) -> None:
    """Names that were kept as they were then, letters, records of signing in, and what happened to the account."""
    for model in our_models():
        names: dict[str, Any] = {"name": GONE}
        if "name" in {field.name for field in model._meta.concrete_fields}:
            said = {field.name for field, to in references(model) if to is User} & {"person"}
            for column in said:
                model._default_manager.filter(**{column: person}).update(**names)
    for label, column in (("notices.Mail", "to"), ("axes.AccessLog", "username"), ("axes.AccessAttempt", "username"),
                          ("axes.AccessFailureLog", "username"), ("brands.Invitation", "email")):  # fmt: skip
        apps.get_model(label)._default_manager.filter(**{f"{column}__iexact": person.email}).delete()
    AuditEntry.objects.filter(actor_id=person.pk, brand_id=None).delete()
    AuditEntry.objects.filter(subject="User", subject_id=person.pk).delete()
    # Where they left a brand, were let go, or became something else, the entry says who it was.
    rows = RowChange.objects.filter(Q(before__user_id=person.pk) | Q(after__user_id=person.pk), table=_MEMBERS)
    theirs = [*rows.values_list("row", flat=True), *person.memberships.values_list("pk", flat=True)]
    for entry in AuditEntry.objects.filter(subject="Membership", subject_id__in=theirs, detail__has_key="name"):
        AuditEntry.objects.create(
            at=entry.at, actor_id=entry.actor_id, brand_id=entry.brand_id, action=entry.action, subject=entry.subject,
            subject_id=entry.subject_id, address=entry.address, transaction=entry.transaction,
            detail={**entry.detail, "name": GONE},
        )  # fmt: skip
        # What stands in the log is not changed: another stands in its place.
        AuditEntry.objects.filter(pk=entry.pk).delete()
