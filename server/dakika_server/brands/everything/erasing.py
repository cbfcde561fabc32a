"""Everything about a brand or a person is taken out: in one transaction, and files once that has happened.

In the trade's words: right to erasure.
"""

import json
from itertools import chain

from django.apps import apps
from django.db import IntegrityError, connection, transaction
from django.db.models import Q, QuerySet, TextField
from django.db.models.expressions import RawSQL
from django.db.models.functions import Cast

from dakika_server.accounts.models import User
from dakika_server.accounts.permissions import Role
from dakika_server.brands.belongings import belongings_of
from dakika_server.brands.everything.tables import (
    brand_files,
    our_models,
    paths_to_brand,
    person_going,
    references,
    rows_of_brand,
)
from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.team import leave
from dakika_server.shared import audit
from dakika_server.shared.errors import field_errors
from dakika_server.shared.models import TRANSACTION, AuditEntry, RowChange

GONE = "somebody who left"
MOST_TRIES = 4
_MEMBERS = Membership._meta.db_table


def erase_brand(brand: Brand) -> int:
    """Take a brand out with everything of it; how many rows. People stay; programs of it alone go.

    What other brands have from it stays theirs, without the reference. Foreign keys are held against each other at the
    end of the transaction, so that the order does not matter; where a click or a reading came in meanwhile, it is done
    once more. Raises IntegrityError where that happens again and again.
    """
    for left in reversed(range(MOST_TRIES)):
        try:
            return _erase(brand)
        except IntegrityError:
            if not left:
                raise
    raise AssertionError("the last try returns or raises")


def _erase(brand: Brand) -> int:
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
        name, person.name = person.name, GONE
        User.objects.filter(pk=person.pk).update(name=GONE)
        person_going(person, name, GONE)
        _forget_what_names(person, name)
        for member in Membership.objects.filter(user=person).select_related("brand").order_by("pk"):
            leave(person, member.brand, person.pk, _heir(member, person))
        number, email = person.pk, person.email
        person.delete()
        # What was noted of just this names them as well; who has what was theirs stays.
        RowChange.objects.filter(table="accounts_user", row=number).delete()
        # By the name of just now alone: somebody else may be called so.
        if name:
            _rows_saying(name).filter(transaction=RawSQL(TRANSACTION, [])).delete()  # noqa: S611 (our own)
        _rows_saying(email).delete()
        audit.record(None, "erase_person", User(pk=number), brand_id=None)


def _rows_saying(word: str) -> QuerySet[RowChange]:
    """Rows before and after, of any table, in which a word stands as it is written in JSON."""
    written = json.dumps(word, ensure_ascii=False)
    rows = RowChange.objects.annotate(was=Cast("before", TextField()), becomes=Cast("after", TextField()))
    return rows.filter(Q(was__contains=written) | Q(becomes__contains=written) | Q(name=word))


def _heir(member: Membership, person: User) -> int | None:
    if not any(not one.is_personal for one in belongings_of(member.brand, person)):
        return None
    others = Membership.objects.filter(brand=member.brand, role=Role.ADMIN.value, user__is_program=False)
    first = others.exclude(user=person).order_by("pk").first()
    if first is None:
        raise field_errors({"to": f"{member.brand.name} has no other admin. Make somebody else one first."})
    return first.user_id


def _forget_what_names(person: User, name: str) -> None:
    """Names that were kept as they were then, letters, records of signing in, and what happened to the account."""
    for model in our_models():
        is_named = "name" in {field.name for field in model._meta.concrete_fields}
        if is_named and any(field.name == "person" and to is User for field, to in references(model)):
            model._default_manager.filter(person=person).update(name=GONE)
    for label, column in (("notices.Mail", "to"), ("axes.AccessLog", "username"), ("axes.AccessAttempt", "username"),
                          ("axes.AccessFailureLog", "username"), ("brands.Invitation", "email")):  # fmt: skip
        apps.get_model(label)._default_manager.filter(**{f"{column}__iexact": person.email}).delete()
    AuditEntry.objects.filter(actor_id=person.pk, brand_id=None).delete()
    AuditEntry.objects.filter(subject="User", subject_id=person.pk).delete()
    # What they did, and where they left a brand, were let go or became something else: the entry says who it was.
    rows = RowChange.objects.filter(Q(before__user_id=person.pk) | Q(after__user_id=person.pk), table=_MEMBERS)
    theirs = [*rows.values_list("row", flat=True), *person.memberships.values_list("pk", flat=True)]
    named = Q(actor_id=person.pk) | Q(subject="Membership", subject_id__in=theirs)
    for entry in AuditEntry.objects.filter(named, detail__icontains=name) if name else ():
        AuditEntry.objects.create(
            at=entry.at, actor_id=entry.actor_id, brand_id=entry.brand_id, action=entry.action, subject=entry.subject,
            subject_id=entry.subject_id, address=entry.address, transaction=entry.transaction,
            detail={key: GONE if value == name else value for key, value in entry.detail.items()},
        )  # fmt: skip
        # What stands in the log is not changed: another stands in its place.
        AuditEntry.objects.filter(pk=entry.pk).delete()
