"""Which rows are a brand's or a person's: told by the tables themselves, so that no new one is forgotten."""

from collections import deque
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cache
from typing import Any

from django.apps import apps
from django.db.models import Field, Model, QuerySet

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand
from dakika_server.shared.hooks import Hook

OURS = "dakika_server."


@dataclass(frozen=True, kw_only=True)
class BrandFile:
    """A file of a brand outside of the database: its name, its content, and how it is thrown away."""

    name: str
    read: Callable[[], bytes]
    remove: Callable[[], None]


# A person goes for good: within that transaction each area takes out what names them. Told of the person, the name that
# they had (which may be empty, and then is no word to look for), and what stands in its place.
person_going: Hook[[User, str, str], None] = Hook("a person goes for good")
# Files of a brand, by its number; asked while its rows are still there.
brand_files: Hook[[int], Iterable[BrandFile]] = Hook("files of a brand")


def our_models() -> list[type[Model]]:
    """Every table of ours, those between two as well."""
    return [one for one in apps.get_models(include_auto_created=True) if one.__module__.startswith(OURS)]


def references(model: type[Model]) -> list[tuple["Field[Any, Any]", type[Model]]]:
    """The foreign keys of a table, and where they lead."""
    return [
        (field, field.related_model) for field in model._meta.concrete_fields
        if field.is_relation and isinstance(field.related_model, type)
    ]  # fmt: skip


@cache
def paths_to_brand() -> dict[type[Model], str]:
    """How each table leads to its brand, as a filter's words; those that lead to none are left out."""
    found: dict[type[Model], str] = {Brand: "pk"}
    waiting = deque(our_models())
    for model in our_models():
        names = {field.name for field in model._meta.concrete_fields}
        if any(field.name == "brand" and to is Brand for field, to in references(model)):
            found[model] = "brand"
        elif "brand_id" in names:
            found[model] = "brand_id"
    rounds = 0
    while waiting and rounds <= len(waiting):
        model = waiting.popleft()
        if model in found:
            rounds = 0
            continue
        # What must be there leads further than what may be missing.
        ways = [(field.null, field.name, found[to]) for field, to in references(model)
                if to in found and to is not Brand and to is not model]  # fmt: skip
        if ways and not min(ways)[0]:
            _, name, rest = min(ways, key=lambda way: (way[0], way[2].count("__"), way[1]))
            found[model] = f"{name}__{rest}"
            rounds = 0
        else:
            waiting.append(model)
            rounds += 1
    return found


def rows_of_brand(model: type[Model], brand_id: int) -> QuerySet[Any]:
    """A table's rows of a brand. Raises KeyError for a table that is no brand's."""
    return model._default_manager.filter(**{paths_to_brand()[model]: brand_id})


def rows_of_person(model: type[Model], person: User) -> dict[str, QuerySet[Any]]:
    """A table's rows that name a person, by the column that does."""
    return {
        field.name: model._default_manager.filter(**{field.name: person})
        for field, to in references(model) if to is User
    }  # fmt: skip
