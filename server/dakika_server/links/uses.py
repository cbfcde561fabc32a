"""Which posts carry which links: read from the posts' texts, whoever wrote them."""

import re
from urllib.parse import urlsplit

from django.conf import settings
from django.db.models import Q

from dakika_server.links.models import LinkDomain, LinkUse, TrackedLink
from dakika_server.sources.models import Post, Profile


def find_uses(brand_id: int, profile: Profile | None = None) -> int:
    """Note every own post whose text holds a short address of the brand; returns how many were found anew."""
    hosts = [urlsplit(settings.LINKS_ADDRESS).netloc, f"{urlsplit(settings.PUBLIC_ADDRESS).netloc}/l"]
    hosts += LinkDomain.objects.filter(brand_id=brand_id).values_list("host", flat=True)
    codes = dict(TrackedLink.objects.filter(brand_id=brand_id).values_list("code", "pk"))
    if not codes:
        return 0
    address = re.compile(rf"(?:{'|'.join(map(re.escape, hosts))})/([A-Za-z0-9_-]+)")
    holding = Q()
    for host in hosts:
        holding |= Q(text__contains=f"{host}/")
    posts = Post.objects.filter(holding, profile__brand_id=brand_id, profile__kind="own")
    if profile is not None:
        posts = posts.filter(profile=profile)
    found = [
        LinkUse(link_id=codes[code], post_id=pk)
        for pk, text in posts.values_list("pk", "text")
        for code in {match.lower() if match not in codes else match for match in address.findall(text)}
        if code in codes
    ]
    before = LinkUse.objects.filter(link__brand_id=brand_id).count()
    LinkUse.objects.bulk_create(found, ignore_conflicts=True)
    return LinkUse.objects.filter(link__brand_id=brand_id).count() - before
