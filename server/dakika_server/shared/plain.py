"""Long lists as they are sent, for a third of what the framework takes: what is as it travels is taken as it is."""

from collections.abc import Callable, Mapping
from datetime import date
from operator import attrgetter, itemgetter
from typing import Any

from django.utils.functional import cached_property
from rest_framework import serializers

Give = Callable[[Any], Any]
# Fields whose values are sent as they stand, where they stand as one of these.
_AS_IT_IS: dict[type[serializers.Field[Any, Any, Any, Any]], type | tuple[type, ...]] = {
    serializers.CharField: str, serializers.IntegerField: int, serializers.BooleanField: bool,
    serializers.FloatField: float, serializers.ChoiceField: (str, int),
}  # fmt: skip


class PlainSerializer(serializers.Serializer[Any]):
    """A serializer of rows: the same answer as the framework's own, with each field's way worked out once, not by row.

    For reading alone. Whatever is out of the ordinary (a missing attribute, a value of another type, a field of another
    kind) goes the framework's way.
    """

    def to_representation(self, instance: Any) -> dict[str, Any]:
        """The row by name."""
        return {name: give(instance) for name, give in self._ways}

    @cached_property
    def _ways(self) -> list[tuple[str, Give]]:
        return [(field.field_name or "", _way(field)) for field in self._readable_fields]


_MAPPINGS: dict[type, bool] = {}


def _is_mapping(kind: type) -> bool:
    """Whether rows of a type are asked by key: worked out once for each type, not for each value."""
    found = _MAPPINGS.get(kind)
    if found is None:
        found = _MAPPINGS[kind] = issubclass(kind, Mapping)
    return found


def _way(field: Any) -> Give:
    """How a field's value is found and told."""
    if isinstance(field, serializers.SerializerMethodField):
        found: Give = field.to_representation
        return found
    attributes = list(field.source_attrs)
    by_attribute = attrgetter(".".join(attributes)) if attributes else None
    by_key = itemgetter(attributes[0]) if len(attributes) == 1 else None
    kinds = _AS_IT_IS.get(type(field), ())

    def slow(row: Any) -> Any:
        value = field.get_attribute(row)
        return None if value is None else field.to_representation(value)

    def give(row: Any) -> Any:
        try:
            value = by_key(row) if by_key and _is_mapping(type(row)) else by_attribute(row) if by_attribute else row
        except (AttributeError, KeyError):
            return slow(row)
        if value is None:
            return None
        if kinds and isinstance(value, kinds):
            # True is an integer to Python, and no number in an answer.
            return value if type(value) is not bool or kinds is bool else field.to_representation(value)
        if callable(value) and not isinstance(value, date):
            return slow(row)
        return field.to_representation(value)

    return give
