"""Everything about oneself, as a file; and its end."""

from django.contrib.auth import logout
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.accounts.api.session import OwnView
from dakika_server.accounts.sessions import require_sure
from dakika_server.brands.everything import erase_person, person_as_text
from dakika_server.shared.callers import slow_down

MOST_FILES = 10


class OwnEverythingView(OwnView):
    """All that is kept of oneself."""

    @extend_schema(operation_id="read_everything", responses={(200, "application/json"): OpenApiTypes.OBJECT})
    def get(self, request: Request) -> HttpResponse:
        """As a file: account, what names one, letters, what one did; without passwords and keys."""
        slow_down("everything", str(self.person.pk), MOST_FILES)
        return HttpResponse(
            person_as_text(self.person), content_type="application/json",
            headers={"Content-Disposition": 'attachment; filename="everything-about-you.json"'},
        )  # fmt: skip

    @extend_schema(operation_id="erase_account", responses={204: None})
    def delete(self, request: Request) -> Response:
        """For good: what is one's own in each brand goes to its first admin. Not for a brand's last admin."""
        require_sure(request._request)
        # Who cannot go is still signed in.
        erase_person(self.person)
        logout(request._request)
        return Response(status=204)
