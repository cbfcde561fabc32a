"""What notices say of somebody who goes for good."""

from django.db.models import F, TextField, Value
from django.db.models.functions import Replace

from dakika_server.accounts.models import User
from dakika_server.notices.models import Notification


def unname(person: User, name: str, instead: str) -> None:
    """Take a person's name out of what colleagues were told, in the brands that they were of."""
    if not name:
        return
    brands = person.memberships.values("brand")
    for column in ("text", "detail", "letter"):
        rows = Notification.objects.filter(brand__in=brands, **{f"{column}__contains": name})
        replaced = Replace(F(column), Value(name), Value(instead), output_field=TextField())
        rows.update(**{column: replaced})
