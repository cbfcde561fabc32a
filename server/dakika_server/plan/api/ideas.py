"""Ideas: kept, looked through, voted on, written out; first wordings and templates."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.actions import delete_planned_post
from dakika_server.plan.api.posts import shown
from dakika_server.plan.ideas.keeping import (
    IdeaContent,
    IdeaOrigin,
    change_idea,
    keep_group,
    keep_idea,
    put_ideas,
    remove_group,
    shut_idea,
    write_idea,
)
from dakika_server.plan.ideas.listing import IdeaFilter, groups_of, idea_of, page_of_ideas, told
from dakika_server.plan.ideas.templates import keep_template, remove_template, templates_of
from dakika_server.plan.ideas.wording import first_wordings
from dakika_server.plan.serializers.ideas import (
    IdeaChangeSerializer,
    IdeaGroupInputSerializer,
    IdeaGroupsSerializer,
    IdeaInputSerializer,
    IdeaPageSerializer,
    IdeaQuerySerializer,
    IdeaSerializer,
    KeptIdeaSerializer,
    PutIdeasSerializer,
    PutSerializer,
    ShutIdeaSerializer,
    TemplateInputSerializer,
    TemplateSerializer,
    WordingQuerySerializer,
    WordingsSerializer,
    WriteIdeaSerializer,
)
from dakika_server.plan.serializers.posts import PlannedPostSerializer
from dakika_server.shared import clock
from dakika_server.shared.parsers import read


class IdeasView(BrandView):
    """Ideas of the brand."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="list_ideas", parameters=[IdeaQuerySerializer], responses=IdeaPageSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """A page of them."""
        asked = read(IdeaQuerySerializer, request.query_params)
        chosen = IdeaFilter(**{name: asked[name] for name in ("group", "origin", "standing", "text") if name in asked})
        ideas, following = page_of_ideas(
            self.brand, request.user, chosen, sort=asked["sort"], cursor=asked.get("cursor"), limit=asked["limit"]
        )
        return Response(IdeaPageSerializer({"ideas": ideas, "next": following}).data)

    @extend_schema(operation_id="keep_idea", request=IdeaInputSerializer, responses={201: KeptIdeaSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Keep one, from nothing or from where it comes."""
        asked = read(IdeaInputSerializer, request.data)
        idea, problem = keep_idea(
            request.user, self.brand, IdeaContent(**asked["content"]), IdeaOrigin(**asked["origin"])
        )
        row = told([idea_of(self.brand, idea.pk)], request.user)[0]
        return Response(KeptIdeaSerializer({**row, "problem": problem}).data, status=201)


class IdeaView(BrandView):
    """One idea."""

    reads, changes = "plan.read", "plan.write"

    def _shown(self, request: Request, pk: int) -> Response:
        return Response(IdeaSerializer(told([idea_of(self.brand, pk)], request.user)[0]).data)

    @extend_schema(operation_id="read_idea", responses=IdeaSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The idea, and what became of it."""
        return self._shown(request, pk)

    @extend_schema(operation_id="change_idea", request=IdeaChangeSerializer, responses=IdeaSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Write it anew."""
        asked: dict[str, Any] = read(IdeaChangeSerializer, request.data)
        edition = asked.pop("edition")
        change_idea(request.user, idea_of(self.brand, pk), IdeaContent(**asked), edition=edition)
        return self._shown(request, pk)

    @extend_schema(operation_id="throw_idea_away", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """What was written from it stays."""
        delete_planned_post(request.user, idea_of(self.brand, pk).planned_post)
        return Response(status=204)


class ShutIdeaView(IdeaView):
    """Whether anything more is to come of it."""

    http_method_names = ["put", "options"]

    @extend_schema(operation_id="shut_idea", request=ShutIdeaSerializer, responses=IdeaSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Put it away, or take it out again."""
        shut_idea(request.user, idea_of(self.brand, pk), **read(ShutIdeaSerializer, request.data))
        return self._shown(request, pk)


class WriteIdeaView(BrandView):
    """A draft from it."""

    changes = "plan.write"

    @extend_schema(operation_id="write_idea", request=WriteIdeaSerializer, responses={201: PlannedPostSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """For the profiles that it is meant for; the idea stays."""
        asked = read(WriteIdeaSerializer, request.data)
        return Response(shown(write_idea(request.user, idea_of(self.brand, pk), **asked)), status=201)


class IdeaGroupsView(BrandView):
    """Groups of ideas."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="list_idea_groups", responses=IdeaGroupsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """In their order, and how many ideas stand where."""
        return Response(IdeaGroupsSerializer(groups_of(self.brand)).data)

    @extend_schema(operation_id="add_idea_group", request=IdeaGroupInputSerializer, responses=IdeaGroupsSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Another."""
        keep_group(request.user, self.brand, **read(IdeaGroupInputSerializer, request.data))
        return Response(IdeaGroupsSerializer(groups_of(self.brand)).data)


class IdeaGroupView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="change_idea_group", request=IdeaGroupInputSerializer, responses=IdeaGroupsSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Another name, or another place."""
        keep_group(request.user, self.brand, pk=pk, **read(IdeaGroupInputSerializer, request.data))
        return Response(IdeaGroupsSerializer(groups_of(self.brand)).data)

    @extend_schema(operation_id="remove_idea_group", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Its ideas stay, in none."""
        remove_group(request.user, self.brand, pk)
        return Response(status=204)


class PutIdeasView(BrandView):
    """Several ideas at once."""

    changes = "plan.write"

    @extend_schema(operation_id="put_ideas", request=PutIdeasSerializer, responses=PutSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Into a group, or into none."""
        asked = read(PutIdeasSerializer, request.data)
        return Response({"ideas": put_ideas(request.user, self.brand, asked["ideas"], group=asked["group"])})


class WordingsView(BrandView):
    """First wordings."""

    is_question = True

    @extend_schema(operation_id="propose_wordings", request=WordingQuerySerializer, responses=WordingsSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """For a subject, in the brand's own words."""
        asked = read(WordingQuerySerializer, request.data)
        return Response(WordingsSerializer(first_wordings(self.brand, clock.now(), **asked)).data)


class TemplatesView(BrandView):
    """Texts with places to fill in."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="list_templates", responses=TemplateSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """All of them by name."""
        return Response(TemplateSerializer(templates_of(self.brand), many=True).data)

    @extend_schema(operation_id="add_template", request=TemplateInputSerializer, responses={201: TemplateSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Another."""
        made = keep_template(request.user, self.brand, **read(TemplateInputSerializer, request.data))
        return Response(TemplateSerializer(made).data, status=201)


class TemplateView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.write"

    @extend_schema(operation_id="change_template", request=TemplateInputSerializer, responses=TemplateSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Another name, or another text."""
        made = keep_template(request.user, self.brand, pk=pk, **read(TemplateInputSerializer, request.data))
        return Response(TemplateSerializer(made).data)

    @extend_schema(operation_id="remove_template", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take it away."""
        remove_template(request.user, self.brand, pk)
        return Response(status=204)
