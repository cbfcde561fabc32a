"""What happened: who changed what, and what it was before; and how often somebody came in this minute."""

from django.db import models
from django.db.models.expressions import RawSQL

# One transaction of the database, told apart from those of other years and of a database that was put back elsewhere.
TRANSACTION = "pg_current_xact_id()::text || '-' || extract(epoch FROM transaction_timestamp())::text"


class AuditEntry(models.Model):
    """One change, written in the transaction that makes it. Identifiers stay when their objects go.

    address: from where it was asked for; empty where nobody asked (the worker). A trigger of the database refuses that
    it is changed or taken away.
    """

    at = models.DateTimeField()
    actor_id = models.BigIntegerField(null=True)
    brand_id = models.BigIntegerField(null=True)
    action = models.CharField(max_length=60)
    subject = models.CharField(max_length=60)
    subject_id = models.BigIntegerField(null=True)
    detail = models.JSONField(default=dict)
    address = models.CharField(max_length=45, blank=True, default="", db_default="")
    transaction = models.CharField(max_length=60, null=True, db_default=RawSQL(TRANSACTION, []))  # noqa: S611

    class Meta:
        indexes = [
            models.Index(fields=["brand_id", "-at"], name="audit_by_brand"),
            models.Index(fields=["subject", "subject_id", "-at"], name="audit_by_subject"),
        ]

    def __str__(self) -> str:
        return f"{self.action} {self.subject} {self.subject_id}"


class RowChange(models.Model):
    """A row before and after, as far as they differ: written by the database itself (shared.row_changes).

    It belongs to the entries of the same transaction. before is None for a row that was made, after for one that went.
    """

    at = models.DateTimeField()
    transaction = models.CharField(max_length=60)
    table = models.CharField(max_length=60)
    row = models.BigIntegerField(null=True)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    name = models.CharField(max_length=120, blank=True, help_text="what the row is called, where it has a name")

    class Meta:
        indexes = [
            models.Index(fields=["transaction"], name="row_change_by_transaction"),
            models.Index(fields=["at"], name="row_change_by_time"),
        ]

    def __str__(self) -> str:
        return f"{self.table} {self.row}"


class CallCount(models.Model):
    """How often something was done by somebody in one minute (shared.callers). It outlives no crash, nor need it."""

    mark = models.CharField(max_length=64, primary_key=True, help_text="a keyed hash of minute, deed and doer")
    minute = models.BigIntegerField(db_index=True, help_text="since 1970")
    calls = models.IntegerField()

    def __str__(self) -> str:
        return f"{self.calls} in {self.minute}"
