"""Files lent to networks that fetch them themselves: an address that nobody can guess, good for an hour.

In the trade's words: signed URL, expiring link.
"""

from django.conf import settings
from django.core import signing
from django.http import Http404

from dakika_server.media.models import Asset

SALT = "media.lending"
GOOD_SECONDS = 3600


def address_of(asset: Asset) -> str:
    """Where a network may fetch an asset's file for an hour from now."""
    return f"{settings.PUBLIC_ADDRESS}/api/media/lent/{signing.dumps(asset.pk, salt=SALT)}"


def lent(token: str) -> Asset:
    """The asset that an address was made for. Raises Http404 for one that is not ours or too old."""
    try:
        number = signing.loads(token, salt=SALT, max_age=GOOD_SECONDS)
    except signing.BadSignature:
        raise Http404 from None
    found = isinstance(number, int) and Asset.objects.filter(pk=number, state=Asset.State.READY).first()
    if not found:
        raise Http404
    return found
