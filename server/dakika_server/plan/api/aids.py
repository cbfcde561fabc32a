"""What helps while one writes: checks, options of networks, pages, emoji, and who else is at it."""

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.links.models import TrackedLink
from dakika_server.media.models import Asset
from dakika_server.plan import aids
from dakika_server.plan.api.posts import common_in
from dakika_server.plan.content import VersionInput, check_content, common_from, rules_of, whole
from dakika_server.plan.models import PlannedPost
from dakika_server.plan.serializers.aids import (
    CheckInputSerializer,
    CheckSerializer,
    EmojiQuerySerializer,
    EmojiSerializer,
    OptionSerializer,
    PageQuerySerializer,
    PageSaysSerializer,
    WritingInputSerializer,
    WritingQuerySerializer,
    WritingSerializer,
)
from dakika_server.plan.together import keep_writing, leave, others_at, writing_of
from dakika_server.shared.parsers import read
from dakika_server.sources.models import Profile


class CheckView(BrandView):
    """Checking posts as they are written."""

    is_question = True

    @extend_schema(operation_id="check_versions", request=CheckInputSerializer, responses=CheckSerializer(many=True))
    def post(self, request: Request, brand: str) -> Response:
        """Length and problems of each version by its network's rules."""
        asked = read(CheckInputSerializer, request.data)
        versions = [VersionInput(**one) for one in asked["versions"]]
        common = common_in(asked) or common_from(versions)
        profiles = Profile.objects.filter(brand=self.brand).in_bulk([one.profile_id for one in versions])
        links = TrackedLink.objects.filter(brand=self.brand).in_bulk([one.link_id for one in versions if one.link_id])
        media = {number for one in versions for number in (*common.media, *(one.media or ()))}
        assets = Asset.objects.filter(brand=self.brand).prefetch_related("renditions").in_bulk(media)
        checks, known = [], aids.known_profiles(self.brand)
        for one in versions:
            profile = profiles.get(one.profile_id)
            if profile is None:
                continue
            values = {**whole(common, one, links.get(one.link_id or 0)).values, "options": one.options}
            found, rules = check_content(profile, values, assets), rules_of(profile)
            checks.append({
                "profile_id": profile.pk, "text": values["text"], "count": found.count, "limit": found.limit,
                "title_limit": rules.text.title_limit, "has_first_comment": rules.offer.has_first_comment,
                "problems": [*found.problems, *aids.called_otherwise(profile, values, known)],
            })  # fmt: skip
        return Response(CheckSerializer(checks, many=True).data)


class OptionsView(BrandView):
    """What a network asks for with a post of a profile."""

    @extend_schema(operation_id="read_options", responses=OptionSerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """Boards, buttons: what the account itself offers, asked for now and then."""
        profile = Profile.objects.filter(brand=self.brand, kind="own", pk=pk).first()
        if profile is None:
            raise Http404
        return Response(OptionSerializer(aids.options_of(profile), many=True).data)


class EmojiView(BrandView):
    """Emoji by their names."""

    @extend_schema(operation_id="find_emoji", parameters=[EmojiQuerySerializer], responses=EmojiSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """Those whose name in Unicode holds the letters."""
        return Response(
            EmojiSerializer(aids.emoji(read(EmojiQuerySerializer, request.query_params)["text"]), many=True).data
        )


class PreviewView(BrandView):
    """What a page says of itself."""

    @extend_schema(operation_id="preview_page", parameters=[PageQuerySerializer], responses=PageSaysSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Title, description and picture, as networks show them beside a link."""
        return Response(
            PageSaysSerializer(aids.preview(read(PageQuerySerializer, request.query_params)["address"])).data
        )


class WritingView(BrandView):
    """What one is writing, kept as one writes, and who else has the post open."""

    reads, changes = "plan.read", "plan.write"

    def _planned(self, pk: int | None) -> PlannedPost | None:
        if pk is None:
            return None
        found = PlannedPost.objects.filter(brand=self.brand, pk=pk).first()
        if found is None:
            raise Http404
        return found

    def _told(self, request: Request, planned: PlannedPost | None) -> Response:
        kept = writing_of(request.user, self.brand, planned)
        told = {
            "content": kept.content if kept else None, "at": kept.at if kept else None,
            "others": others_at(request.user, planned) if planned else [],
            "edition": planned.edition if planned else None,
        }  # fmt: skip
        return Response(WritingSerializer(told).data)

    @extend_schema(operation_id="read_writing", parameters=[WritingQuerySerializer], responses=WritingSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """What one wrote on another machine, or before something broke."""
        return self._told(request, self._planned(read(WritingQuerySerializer, request.query_params).get("planned")))

    @extend_schema(operation_id="keep_writing", request=WritingInputSerializer, responses=WritingSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """Keep it as it stands."""
        asked = read(WritingInputSerializer, request.data)
        planned = self._planned(asked["planned"])
        keep_writing(request.user, self.brand, planned, asked["content"])
        return self._told(request, planned)

    @extend_schema(operation_id="leave_writing", parameters=[WritingQuerySerializer], responses={204: None})
    def delete(self, request: Request, brand: str) -> Response:
        """It was saved, or thrown away."""
        leave(
            request.user, self.brand, self._planned(read(WritingQuerySerializer, request.query_params).get("planned"))
        )
        return Response(status=204)
