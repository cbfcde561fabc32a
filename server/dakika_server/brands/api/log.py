"""What happened, as it is asked for over HTTP."""

from typing import Any

from django.http import StreamingHttpResponse
from django.http.response import HttpResponseBase
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiResponse, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.log import NOBODY, Chosen, as_csv, choices_of, page_of
from dakika_server.brands.views import BrandView
from dakika_server.shared.parsers import read

LARGEST_ID = 2**63 - 1


class LogQuerySerializer(serializers.Serializer[Any]):
    """What is looked for. person: a number, 0 for Dakika itself."""

    person = serializers.IntegerField(min_value=NOBODY, max_value=LARGEST_ID, allow_null=True, default=None)
    subject = serializers.CharField(max_length=60, allow_blank=True, default="")
    text = serializers.CharField(max_length=100, allow_blank=True, default="")
    first = serializers.DateField(allow_null=True, default=None)
    last = serializers.DateField(allow_null=True, default=None)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """Days in their order."""
        if attrs["first"] and attrs["last"] and attrs["last"] < attrs["first"]:
            raise serializers.ValidationError({"last": "The last day lies before the first."})
        return attrs


class LogPageQuerySerializer(LogQuerySerializer):
    """Which page of what is looked for."""

    cursor = serializers.CharField(max_length=200, allow_blank=True, default="")


class LogValueSerializer(serializers.Serializer[Any]):
    """A column before and after."""

    name = serializers.CharField()
    before = serializers.JSONField(allow_null=True)
    after = serializers.JSONField(allow_null=True)


class LogRowSerializer(serializers.Serializer[Any]):
    """A row that was made, changed or taken away."""

    thing = serializers.CharField()
    number = serializers.IntegerField(allow_null=True)
    name = serializers.CharField(allow_blank=True)
    way = serializers.ChoiceField(choices=["made", "changed", "taken away"])
    values = LogValueSerializer(many=True)


class HappenedSerializer(serializers.Serializer[Any]):
    """Something that happened. who: empty for Dakika itself, and where is_gone says that nobody knows any more."""

    id = serializers.IntegerField()
    at = serializers.DateTimeField()
    who = serializers.CharField(allow_blank=True)
    is_gone = serializers.BooleanField()
    words = serializers.CharField()
    thing = serializers.CharField()
    number = serializers.IntegerField(allow_null=True)
    name = serializers.CharField(allow_blank=True)
    address = serializers.CharField(allow_blank=True)
    rows = LogRowSerializer(many=True)


class LogPersonSerializer(serializers.Serializer[Any]):
    """Who did something; 0 for Dakika itself."""

    id = serializers.IntegerField()
    name = serializers.CharField(allow_blank=True)


class LogSubjectSerializer(serializers.Serializer[Any]):
    """What entries are about."""

    key = serializers.CharField()
    name = serializers.CharField()


class LogSerializer(serializers.Serializer[Any]):
    """A page of what happened, and what it can be narrowed by. next: the cursor of the next page."""

    entries = HappenedSerializer(many=True)
    next = serializers.CharField(allow_null=True)
    people = LogPersonSerializer(many=True)
    subjects = LogSubjectSerializer(many=True)


class LogView(BrandView):
    """What happened in the brand."""

    reads = "brand.log"

    @extend_schema(operation_id="read_log", parameters=[LogPageQuerySerializer], responses=LogSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The newest first."""
        values = read(LogPageQuerySerializer, request.query_params)
        cursor = values.pop("cursor")
        entries, next_ = page_of(self.brand, Chosen(**values), cursor or None)
        return Response(LogSerializer({"entries": entries, "next": next_, **choices_of(self.brand)}).data)


class LogFileView(BrandView):
    """What happened, as a file."""

    reads = "brand.log"

    @extend_schema(
        operation_id="export_log", parameters=[LogQuerySerializer],
        responses={(200, "text/csv"): OpenApiResponse(OpenApiTypes.BINARY)},
    )  # fmt: skip
    def get(self, request: Request, brand: str) -> HttpResponseBase:
        """All that is looked for, a line for each column that changed."""
        chosen = Chosen(**read(LogQuerySerializer, request.query_params))
        name = f"{self.brand.slug}-log.csv"
        return StreamingHttpResponse(
            as_csv(self.brand, chosen), content_type="text/csv; charset=utf-8",
            headers={"Content-Disposition": f'attachment; filename="{name}"'},
        )  # fmt: skip
