"""Valid tokens for calling a network, renewed in time.

In the trade's words: token refresh.
"""

from datetime import datetime, timedelta

from django.db import transaction

from dakika_server.networks.connectors.base import NotAuthorised
from dakika_server.networks.connectors.registry import renewed_tokens
from dakika_server.shared.vault import seal, unseal
from dakika_server.sources.models import Credential, Profile

RENEW_BEFORE = timedelta(minutes=5)


def token_of(profile: Profile) -> str:
    """A valid access token of an own profile, renewed when it is about to lapse.

    Raises NotAuthorised when the person must consent anew. One renewal at a time: a second
    worker waits for the row and finds the new token.
    """
    if profile.credential_id is None:
        raise NotAuthorised("The profile is not connected. Connect it again.")
    with transaction.atomic():
        credential = Credential.objects.select_for_update().get(pk=profile.credential_id)
        if credential.is_lapsed:
            raise NotAuthorised("The authorisation has lapsed. Renew it.")
        # The network's clock decides on lapsing, so the real one is asked, not a stopped one.
        if credential.expires_at - RENEW_BEFORE > datetime.now(tz=credential.expires_at.tzinfo):
            return unseal(credential.access)
        tokens = renewed_tokens(credential.network, unseal(credential.refresh))
        credential.access, credential.refresh = seal(tokens.access), seal(tokens.refresh)
        credential.expires_at = tokens.expires_at
        credential.save(update_fields=["access", "refresh", "expires_at"])
    return tokens.access
