"""Files of people over HTTP: the one way in, and the one way out."""

from typing import Any

from django.db.models import Prefetch, Q, QuerySet
from django.http import FileResponse, Http404, HttpResponseBase
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.parsers import BaseParser
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.brands.views import BrandView
from dakika_server.media.actions import (
    add_asset,
    change_asset,
    edit_asset,
    make_sequence,
    remove_asset,
    replace_asset,
    take_still,
)
from dakika_server.media.bringing import add_from_address
from dakika_server.media.collection import bring_from_collection, search_collection
from dakika_server.media.lending import lent
from dakika_server.media.library import tags_of, uses_of, zipped
from dakika_server.media.models import Asset, Rendition, Upload
from dakika_server.media.serializers import (
    AssetChangeSerializer,
    AssetChoiceSerializer,
    AssetInputSerializer,
    AssetSerializer,
    AssetsQuerySerializer,
    AssetsSerializer,
    CollectionQuerySerializer,
    EditsSerializer,
    FoundPictureSerializer,
    FromAddressSerializer,
    FromCollectionSerializer,
    PartQuerySerializer,
    ReplacedSerializer,
    ReplaceSerializer,
    SequenceSerializer,
    StillSerializer,
    TagsSerializer,
    UploadInputSerializer,
    UploadSerializer,
    UsesSerializer,
)
from dakika_server.media.serving import shown
from dakika_server.media.uploads import LARGEST_PART, begin_upload, finish, take_part
from dakika_server.shared.paging import paged
from dakika_server.shared.parsers import JSONParser, read, uploads_up_to

PAGE = 60
ORIGINAL = "original"


def _with_renditions(rows: QuerySet[Asset]) -> QuerySet[Asset]:
    return rows.select_related("created_by").prefetch_related(
        Prefetch("renditions", Rendition.objects.order_by("purpose"))
    )


class AssetsView(BrandView):
    """A brand's files."""

    changes = "media.change"
    parser_classes = [uploads_up_to("MEDIA_LARGEST_BYTES")]

    @extend_schema(operation_id="list_assets", parameters=[AssetsQuerySerializer], responses=AssetsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """A part of them, newest first."""
        asked = read(AssetsQuerySerializer, request.query_params)
        rows = Asset.objects.filter(brand=self.brand)
        if "kind" in asked:
            rows = rows.filter(kind=asked["kind"])
        for word in asked.get("text", "").split():
            rows = rows.filter(Q(name__icontains=word) | Q(words__icontains=word))
        if "tag" in asked:
            rows = rows.filter(tags__contains=[asked["tag"]])
        page, following = paged(_with_renditions(rows), ("-created_at", "-pk"), asked.get("cursor"), PAGE)
        return Response(AssetsSerializer({"assets": page, "next": following}).data)

    @extend_schema(operation_id="add_asset", request=AssetInputSerializer, responses={201: AssetSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Bring a file. What the brand has already is told as it stands (200)."""
        file = read(AssetInputSerializer, request.data)["file"]
        asset, is_new = add_asset(request.user, self.brand, name=file.name or "file", size=file.size or 0, file=file)
        return Response(AssetSerializer(asset).data, 201 if is_new else 200)


class AssetView(BrandView):
    """One file."""

    changes = "media.change"

    @extend_schema(operation_id="read_asset", responses=AssetSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """What it is and where it stands."""
        found = _with_renditions(Asset.objects.filter(brand=self.brand, pk=pk)).first()
        if found is None:
            raise Http404
        return Response(AssetSerializer(found).data)

    @extend_schema(operation_id="change_asset", request=AssetChangeSerializer, responses=AssetSerializer)
    def patch(self, request: Request, brand: str, pk: int) -> Response:
        """Another name, or other words for those who do not see it."""
        asked = read(AssetChangeSerializer, request.data)
        x, y = asked.pop("focus_x", None), asked.pop("focus_y", None)
        focus = None if x is None or y is None else (x, y)
        change_asset(request.user, self.brand, pk, focus=focus, **asked)
        return self.get(request, brand, pk)

    @extend_schema(operation_id="remove_asset", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take it away."""
        remove_asset(request.user, self.brand, pk)
        return Response(status=204)


class EditsView(BrandView):
    """Working on a picture."""

    changes = "media.change"

    @extend_schema(operation_id="edit_asset", request=EditsSerializer, responses={201: AssetSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Turned, cut, lighter, with words on it: another file, made by the worker."""
        asked = read(EditsSerializer, request.data)
        if asked.get("crop"):
            asked["crop"] = [asked["crop"][side] for side in ("left", "top", "width", "height")]
        return Response(AssetSerializer(edit_asset(request.user, self.brand, pk, asked)).data, status=201)


class UsesView(BrandView):
    """What a file is used for, and with what result."""

    @extend_schema(operation_id="asset_uses", responses=UsesSerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The latest first."""
        asset = Asset.objects.filter(brand=self.brand, pk=pk).first()
        if asset is None:
            raise Http404
        return Response(UsesSerializer(uses_of(asset), many=True).data)


class ReplaceView(BrandView):
    """Another file in its place."""

    changes = "media.change"

    @extend_schema(operation_id="replace_asset", request=ReplaceSerializer, responses=ReplacedSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Wherever nothing went out yet; the old one stays in the library."""
        posts = replace_asset(request.user, self.brand, pk, read(ReplaceSerializer, request.data)["by"])
        return Response(ReplacedSerializer({"posts": posts}).data)


class PartParser(BaseParser):
    """A part of a file, as it comes, as far as a part may go."""

    media_type = "application/octet-stream"

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        """Its bytes; one more than allowed where there are more."""
        del media_type, parser_context
        return stream.read(LARGEST_PART + 1)


def _told(upload: Upload, asset: Asset | None, pk: int) -> Response:
    values = {"id": pk, "size": upload.size, "received": upload.received, "part": LARGEST_PART, "asset": asset}
    return Response(UploadSerializer(values).data)


class UploadsView(BrandView):
    """Large files in parts."""

    changes = "media.change"

    @extend_schema(operation_id="begin_upload", request=UploadInputSerializer, responses=UploadSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """Begin, or go on where the same file broke off."""
        asked = read(UploadInputSerializer, request.data)
        upload = begin_upload(request.user, self.brand, name=asked["name"], size=asked["size"])
        return _told(upload, None, upload.pk)


class UploadView(BrandView):
    """One of them."""

    reads = changes = "media.change"
    parser_classes = [PartParser, JSONParser]

    @extend_schema(operation_id="read_upload", responses=UploadSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """How far it is."""
        return _told(*finish(request.user, self.brand, pk), pk)

    @extend_schema(
        operation_id="send_part", parameters=[PartQuerySerializer],
        request={"application/octet-stream": OpenApiTypes.BINARY}, responses=UploadSerializer,
    )  # fmt: skip
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """The next part; with the last one comes the file."""
        start = read(PartQuerySerializer, request.query_params)["start"]
        content = request.data if isinstance(request.data, bytes) else b""
        return _told(*take_part(request.user, self.brand, pk, start=start, content=content), pk)


class StillView(BrandView):
    """A picture of a video."""

    changes = "media.change"

    @extend_schema(operation_id="take_still", request=StillSerializer, responses={201: AssetSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """What it shows at a moment, such as for its cover; made by the worker."""
        seconds = read(StillSerializer, request.data)["seconds"]
        return Response(AssetSerializer(take_still(request.user, self.brand, pk, seconds)).data, status=201)


class SequenceView(BrandView):
    """Pictures as a short video."""

    changes = "media.change"

    @extend_schema(operation_id="make_sequence", request=SequenceSerializer, responses={201: AssetSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """One after the other, in the order given; made by the worker."""
        asked = read(SequenceSerializer, request.data)
        made = make_sequence(
            request.user, self.brand, asked["pictures"], seconds=asked["seconds"], shape=asked["shape"]
        )
        return Response(AssetSerializer(made).data, status=201)


class CollectionView(BrandView):
    """The outside collection of pictures."""

    changes = "media.change"

    @extend_schema(
        operation_id="search_collection", parameters=[CollectionQuerySerializer],
        responses=FoundPictureSerializer(many=True),
    )  # fmt: skip
    def get(self, request: Request, brand: str) -> Response:
        """Pictures by a word, with author and licence."""
        found = search_collection(read(CollectionQuerySerializer, request.query_params)["text"])
        return Response(FoundPictureSerializer(found, many=True).data)

    @extend_schema(
        operation_id="bring_from_collection", request=FromCollectionSerializer, responses={201: AssetSerializer}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Bring one; whose it is and its licence are kept with it."""
        key = read(FromCollectionSerializer, request.data)["key"]
        asset, is_new = bring_from_collection(request.user, self.brand, key)
        return Response(AssetSerializer(asset).data, 201 if is_new else 200)


class FromAddressView(BrandView):
    """A file from the web."""

    changes = "media.change"

    @extend_schema(
        operation_id="add_asset_from_address", request=FromAddressSerializer, responses={201: AssetSerializer}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Fetched with all guards, then looked into as any other."""
        address = read(FromAddressSerializer, request.data)["address"]
        asset, is_new = add_from_address(request.user, self.brand, address)
        return Response(AssetSerializer(asset).data, 201 if is_new else 200)


class TagsView(BrandView):
    """Tags of files."""

    @extend_schema(operation_id="list_asset_tags", responses=TagsSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """The most used first."""
        return Response(TagsSerializer(tags_of(self.brand), many=True).data)


class ZipView(BrandView):
    """Several files at once."""

    is_question = True

    @extend_schema(
        operation_id="download_assets", request=AssetChoiceSerializer,
        responses={(200, "application/zip"): OpenApiTypes.BINARY},
    )  # fmt: skip
    def post(self, request: Request, brand: str) -> HttpResponseBase:
        """As they were brought, in one zip."""
        numbers = read(AssetChoiceSerializer, request.data)["assets"]
        return FileResponse(
            zipped(self.brand, numbers), as_attachment=True, filename="files.zip", content_type="application/zip"
        )


class LentView(APIView):
    """A file that a network was told where to fetch. Not part of the described API: networks come here."""

    permission_classes = (AllowAny,)
    authentication_classes = ()

    @extend_schema(exclude=True)
    def get(self, request: Request, token: str) -> HttpResponseBase:
        """Its bytes, for an hour after the address was made."""
        asset = lent(token)
        try:
            return shown(request._request, asset.file, asset.media_type, as_attachment=True)
        except FileNotFoundError:
            raise Http404 from None


class AssetContentView(BrandView):
    """The bytes of a file."""

    @extend_schema(
        operation_id="read_asset_content", responses={(200, "application/octet-stream"): OpenApiTypes.BINARY}
    )
    def get(self, request: Request, brand: str, pk: int, purpose: str) -> HttpResponseBase:
        """A rendition, to be shown; or the file as it was brought, to be kept: that a browser does not open."""
        asset = Asset.objects.filter(brand=self.brand, pk=pk, state=Asset.State.READY).first()
        if asset is None:
            raise Http404
        name, media_type = _content(asset, purpose)
        is_kept = purpose == ORIGINAL and asset.kind != Asset.Kind.VIDEO
        try:
            return shown(
                request._request, name, "application/octet-stream" if is_kept else media_type,
                as_attachment=is_kept, filename=asset.name if is_kept else "",
            )  # fmt: skip
        except FileNotFoundError:
            raise Http404 from None


def _content(asset: Asset, purpose: str) -> tuple[str, str]:
    """Name and media type of what is asked for. Raises Http404."""
    if purpose == ORIGINAL:
        return asset.file, asset.media_type
    found: Any = asset.renditions.filter(purpose=purpose).first() if purpose in Rendition.Purpose.values else None
    if found is None:
        raise Http404
    return found.file, found.media_type
