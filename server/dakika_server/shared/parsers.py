"""What may come in: JSON and files, bounded, with nothing in them that no text can hold; and its checked values."""

import json
from collections.abc import Mapping
from typing import IO, Any

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from rest_framework import serializers
from rest_framework.exceptions import ParseError
from rest_framework.parsers import BaseParser, MultiPartParser

# Of an upload beside its file: names of fields, boundaries.
ROOM_FOR_FIELDS = 64 * 1024


def uploads_up_to(setting: str) -> type[MultiPartParser]:
    """A parser of uploads (RFC 7578) that refuses a body that says it is larger than a setting, before it is read.

    What says nothing of its size has none: the server hands on as many bytes as were announced.
    """

    class Uploads(MultiPartParser):
        """Bounded."""

        def parse(
            self, stream: IO[bytes], media_type: str | None = None, parser_context: Mapping[str, Any] | None = None
        ) -> Any:
            """Fields and files."""
            announced = str((parser_context or {})["request"].META.get("CONTENT_LENGTH") or 0)
            if not announced.isdigit() or int(announced) > getattr(settings, setting) + ROOM_FOR_FIELDS:
                raise RequestDataTooBig
            return super().parse(stream, media_type, parser_context)

    return Uploads


class JSONParser(BaseParser):
    """Reads UTF-8 JSON (RFC 8259). What is too large is told as 413, everything else that is no JSON of use as 400.

    Refused beside what is no JSON: NaN and infinities, numbers of thousands of digits, values within values without
    end, and text with U+0000 or half a surrogate pair, which no database and no other program could take.
    """

    media_type = "application/json"

    def parse(
        self, stream: IO[bytes], media_type: str | None = None, parser_context: Mapping[str, Any] | None = None
    ) -> Any:
        """The value that the body holds."""
        del media_type, parser_context
        most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE
        body = stream.read(most + 1)
        if len(body) > most:
            raise RequestDataTooBig
        try:
            return read_json(body)
        except ValueError as error:
            raise ParseError(f"The body is no JSON that can be read: {error}") from None


def read_json(body: bytes | str) -> Any:
    """The value of a JSON text. Raises ValueError for what JSONParser refuses."""
    try:
        text = body.decode() if isinstance(body, bytes) else body
        value = json.loads(text, parse_constant=_no_number)
    except RecursionError:
        raise ValueError("values stand within values without end") from None
    if "\\u" in text or not text.isascii():
        _look_at_texts(value)
    return value


def _no_number(name: str) -> Any:
    raise ValueError(f"{name} is no number")


def _look_at_texts(value: Any) -> None:
    waiting = [value]
    while waiting:
        one = waiting.pop()
        if isinstance(one, str):
            if "\x00" in one or any("\ud800" <= letter <= "\udfff" for letter in one):
                raise ValueError("a text holds a character that is none")
        elif isinstance(one, dict):
            waiting += [*one.keys(), *one.values()]
        elif isinstance(one, list):
            waiting += one


def read(serializer: type[serializers.Serializer[Any]], data: Any) -> dict[str, Any]:
    """Checked values of a request's body or query. Raises ValidationError with errors by field."""
    given = serializer(data=data)
    given.is_valid(raise_exception=True)
    values: dict[str, Any] = given.validated_data
    return values
