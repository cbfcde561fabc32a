"""What happened: who changed what."""

from django.db import models


class AuditEntry(models.Model):
    """One change, written in the transaction that makes it. Identifiers stay when their objects go."""

    at = models.DateTimeField()
    actor_id = models.BigIntegerField(null=True)
    brand_id = models.BigIntegerField(null=True)
    action = models.CharField(max_length=60)
    subject = models.CharField(max_length=60)
    subject_id = models.BigIntegerField(null=True)
    detail = models.JSONField(default=dict)

    class Meta:
        indexes = [
            models.Index(fields=["brand_id", "-at"], name="audit_by_brand"),
            models.Index(fields=["subject", "subject_id", "-at"], name="audit_by_subject"),
        ]

    def __str__(self) -> str:
        return f"{self.action} {self.subject} {self.subject_id}"
