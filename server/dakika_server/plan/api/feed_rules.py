"""Rules for feeds: kept, tried, and what became of items by them."""

from typing import Any

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.feed_rules.keeping import FeedRuleContent, keep_feed_rule, remove_feed_rule, rule_of
from dakika_server.plan.feed_rules.trying import rules_with_counts, try_feed_rule
from dakika_server.plan.serializers.feed_rules import (
    FeedRuleChangeSerializer,
    FeedRuleContentSerializer,
    FeedRuleItemPageSerializer,
    FeedRuleItemQuerySerializer,
    FeedRulePreviewSerializer,
    FeedRuleRemovalSerializer,
    FeedRuleRemovedSerializer,
    FeedRuleSerializer,
)
from dakika_server.shared.paging import paged
from dakika_server.shared.parsers import read


class FeedRulesView(BrandView):
    """Rules of the brand."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="list_feed_rules", responses=FeedRuleSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """All of them by name, with what they did lately."""
        return Response(FeedRuleSerializer(rules_with_counts(self.brand), many=True).data)

    @extend_schema(operation_id="add_feed_rule", request=FeedRuleContentSerializer, responses={201: FeedRuleSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Another."""
        content = FeedRuleContent(**read(FeedRuleContentSerializer, request.data))
        made = keep_feed_rule(request.user, self.brand, content)
        return Response(FeedRuleSerializer(_counted(self.brand, made.pk)).data, status=201)


class FeedRuleView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="read_feed_rule", responses=FeedRuleSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """As it stands."""
        return Response(FeedRuleSerializer(_counted(self.brand, pk)).data)

    @extend_schema(operation_id="change_feed_rule", request=FeedRuleChangeSerializer, responses=FeedRuleSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Write it anew."""
        asked = read(FeedRuleChangeSerializer, request.data)
        edition = asked.pop("edition")
        keep_feed_rule(request.user, self.brand, FeedRuleContent(**asked), pk=pk, edition=edition)
        return Response(FeedRuleSerializer(_counted(self.brand, pk)).data)

    @extend_schema(
        operation_id="remove_feed_rule", parameters=[FeedRuleRemovalSerializer], responses=FeedRuleRemovedSerializer
    )
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take it away, with or without what it made and what is not out."""
        asked = read(FeedRuleRemovalSerializer, request.query_params)
        return Response({"posts": remove_feed_rule(request.user, self.brand, pk, **asked)})


class FeedRulePreviewView(BrandView):
    """A rule before it acts."""

    is_question = True

    @extend_schema(
        operation_id="preview_feed_rule", request=FeedRuleContentSerializer, responses=FeedRulePreviewSerializer
    )
    def post(self, request: Request, brand: str) -> Response:
        """Tried on the newest items."""
        content = FeedRuleContent(**read(FeedRuleContentSerializer, request.data))
        return Response(FeedRulePreviewSerializer(try_feed_rule(self.brand, content)).data)


class FeedRuleItemsView(BrandView):
    """What became of items."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(
        operation_id="list_feed_rule_items", parameters=[FeedRuleItemQuerySerializer],
        responses=FeedRuleItemPageSerializer,
    )  # fmt: skip
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """A page of them, the newest first."""
        asked = read(FeedRuleItemQuerySerializer, request.query_params)
        rows = rule_of(self.brand, pk).items.select_related("item", "planned_post")
        items, following = paged(rows, ["-decided_at", "-pk"], asked.get("cursor"), asked["limit"])
        return Response(FeedRuleItemPageSerializer({"items": items, "next": following}).data)


def _counted(brand: Any, pk: int) -> Any:
    found = rules_with_counts(brand).filter(pk=pk).first()
    if found is None:
        raise Http404
    return found
