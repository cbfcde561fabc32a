"""What notices say of somebody who goes for good."""

import re

from django.db.models import F, Func, TextField, Value

from dakika_server.accounts.models import User
from dakika_server.notices.models import Notification


def unname(person: User, name: str, instead: str) -> None:
    """Take a person's name, as a word, out of what colleagues were told in the brands that they were of."""
    if not name:
        return
    brands = person.memberships.values("brand")
    pattern = Value(rf"(?<!\w){re.escape(name)}(?!\w)")
    for column in ("text", "detail", "letter"):
        rows = Notification.objects.filter(brand__in=brands, **{f"{column}__contains": name})
        said = Func(F(column), pattern, Value(instead), Value("g"), function="regexp_replace", output_field=TextField())
        rows.update(**{column: said})
