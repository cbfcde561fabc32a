"""Tags over HTTP."""

from typing import Any

from django.db.models import Count, Q, QuerySet
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import Brand
from dakika_server.brands.views import BrandView
from dakika_server.results.actions import tags as actions
from dakika_server.results.models import Tag
from dakika_server.results.serializers.tags import (
    CaughtSerializer,
    MergeSerializer,
    RuleQuerySerializer,
    TaggedSerializer,
    TagInputSerializer,
    TagPostsSerializer,
    TagSerializer,
)
from dakika_server.results.tagging import catching
from dakika_server.shared.parsers import read
from dakika_server.sources.models import Post

SHOWN = 12


def tags_of(brand: Brand) -> QuerySet[Tag]:
    """A brand's tags by name, with their rules and how many posts carry each."""
    return (
        Tag.objects.filter(brand=brand)
        .annotate(posts=Count("post_tags", filter=Q(post_tags__is_off=False)))
        .prefetch_related("rules")
        .order_by("name")
    )


class TagsView(BrandView):
    """All tags."""

    changes = "results.tag"

    @extend_schema(operation_id="list_tags", responses=TagSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """By name."""
        return Response(TagSerializer(tags_of(self.brand), many=True).data)

    @extend_schema(operation_id="add_tag", request=TagInputSerializer, responses={201: TagSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new one."""
        tag = actions.add_tag(request.user, self.brand, **read(TagInputSerializer, request.data))
        return Response(TagSerializer(tags_of(self.brand).get(pk=tag.pk)).data, status=201)


class TagDetailView(BrandView):
    """One tag."""

    changes = "results.tag"

    @extend_schema(operation_id="change_tag", request=TagInputSerializer, responses=TagSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Another name or colour."""
        actions.change_tag(request.user, self.brand, pk, **read(TagInputSerializer, request.data))
        return Response(TagSerializer(tags_of(self.brand).get(pk=pk)).data)

    @extend_schema(operation_id="remove_tag", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Away from everywhere."""
        actions.remove_tag(request.user, self.brand, pk)
        return Response(status=204)


class MergeTagView(BrandView):
    """Two tags become one."""

    changes = "results.tag"

    @extend_schema(operation_id="merge_tag", request=MergeSerializer, responses=TagSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """The other goes on."""
        kept = actions.merge_tag(request.user, self.brand, pk, **read(MergeSerializer, request.data))
        return Response(TagSerializer(tags_of(self.brand).get(pk=kept.pk)).data)


class TagRulesView(BrandView):
    """Rules of a tag."""

    changes = "results.tag"

    @extend_schema(operation_id="add_tag_rule", request=RuleQuerySerializer, responses={201: TaggedSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """A new rule; how many posts it caught."""
        _, caught = actions.add_rule(request.user, self.brand, pk, **read(RuleQuerySerializer, request.data))
        return Response(TaggedSerializer({"changed": caught}).data, status=201)


class KeepsPostsSerializer(serializers.Serializer[Any]):
    """What becomes of the posts that a rule tagged."""

    keeps_posts = serializers.BooleanField(default=True)


class TagRuleDetailView(BrandView):
    """One rule."""

    changes = "results.tag"

    @extend_schema(operation_id="remove_tag_rule", parameters=[KeepsPostsSerializer], responses={204: None})
    def delete(self, request: Request, brand: str, pk: int, rule: int) -> Response:
        """Away; its posts keep the tag or lose it."""
        values = read(KeepsPostsSerializer, request.query_params)
        actions.remove_rule(request.user, self.brand, pk, rule, keeps_posts=values["keeps_posts"])
        return Response(status=204)


class TryRuleView(BrandView):
    """What a rule would catch."""

    @extend_schema(operation_id="try_rule", parameters=[RuleQuerySerializer], responses=CaughtSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """How many posts, and the newest of them; nothing is changed."""
        rule = actions.checked_rule(self.brand, **read(RuleQuerySerializer, request.query_params))
        posts = Post.objects.filter(brand=self.brand)
        caught = catching(posts, rule)
        found = {
            "caught": caught.count(), "of": posts.count(),
            "posts": caught.select_related("profile").order_by("-published_at")[:SHOWN],
        }  # fmt: skip
        return Response(CaughtSerializer(found).data)


class TagPostsView(BrandView):
    """Tagging many posts at once."""

    changes = "results.tag"

    @extend_schema(operation_id="tag_posts", request=TagPostsSerializer, responses=TaggedSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Tags on, tags off."""
        changed = actions.tag_posts(request.user, self.brand, **read(TagPostsSerializer, request.data))
        return Response(TaggedSerializer({"changed": changed}).data)
