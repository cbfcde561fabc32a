"""What every view of a brand begins with: the brand, found through the person's membership."""

from typing import Any

from django.core.exceptions import PermissionDenied
from django.http import Http404
from rest_framework.permissions import SAFE_METHODS
from rest_framework.request import Request
from rest_framework.views import APIView
from structlog.contextvars import bind_contextvars

from dakika_server.brands.authentication import ReplayedError, begin_answer, count_call, keep_answer
from dakika_server.brands.models import ApiToken, Brand, KeptAnswer, Membership
from dakika_server.brands.permissions import may, membership_of, refusal, token_refusal, token_scopes
from dakika_server.shared.security import NO_TOKENS


class BrandView(APIView):
    """A view below /brands/{brand}/. reads and changes: the permissions that reading and everything else take.

    is_own_choice: what is changed is the person's own, so that whoever reads may. is_question: what is sent is
    only looked at, so that it is reading, whatever the method.
    """

    brand: Brand
    membership: Membership
    takes_tokens = True
    rate_headers: dict[str, str] | None = None
    _kept: KeptAnswer | None = None
    reads = "brand.read"
    changes = ""
    is_own_choice = False
    is_question = False

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        """Find the brand once the person is known."""
        super().initial(request, *args, **kwargs)
        self.membership = membership_of(request.user, kwargs["brand"])
        self.brand = self.membership.brand
        bind_contextvars(brand=self.brand.slug, person=self.membership.user_id)
        # A method that the view does not have is refused for that.
        if (request.method or "").lower() not in self.http_method_names or not hasattr(
            self, (request.method or "").lower()
        ):
            return
        is_reading = request.method in SAFE_METHODS or self.is_own_choice or self.is_question
        permission = self.reads if is_reading else self.changes
        if isinstance(request.auth, ApiToken):
            self._let_in(request, request.auth, permission)
        if not may(self.membership.role, permission):
            raise PermissionDenied(refusal(self.membership.role, permission))

    def _let_in(self, request: Request, token: ApiToken, permission: str) -> None:
        """A program: in its token's brand, for what that was made for, so often, and once by its own key."""
        if token.brand_id not in (None, self.brand.pk):
            raise Http404
        if self.is_own_choice and request.method not in SAFE_METHODS:
            raise PermissionDenied(NO_TOKENS)
        self.rate_headers = count_call(token)
        token_scopes.set(frozenset(token.scopes))
        if permission not in token.scopes:
            raise PermissionDenied(token_refusal(permission))
        self._kept = begin_answer(request, token)

    def handle_exception(self, exc: Exception) -> Any:
        """What was answered before is answered again; all else as the framework does."""
        return exc.response if isinstance(exc, ReplayedError) else super().handle_exception(exc)

    def finalize_response(self, request: Request, response: Any, *args: Any, **kwargs: Any) -> Any:
        """What a program is told beside its answer."""
        token_scopes.set(None)
        answer = super().finalize_response(request, response, *args, **kwargs)
        for name, value in (self.rate_headers or {}).items():
            answer[name] = value
        if self._kept is not None:
            keep_answer(self._kept, answer)
        return answer
