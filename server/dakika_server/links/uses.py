"""Which posts carry which links: read from the posts' texts, whoever wrote them."""

import re
from urllib.parse import urlsplit

from django.conf import settings
from django.db.models import Q

from dakika_server.links.models import LinkDomain, LinkUse, TrackedLink
from dakika_server.sources.models import Post, Profile

# A link that stood in several posts: each has the clicks from its own publishing to the next one's. USES is a row
# for each use, to be called u; CLICKS_OF_USE joins the hours h of its clicks.
USES = """
SELECT u.post_id, u.link_id, p.profile_id, p.published_at,
    lag(p.published_at) OVER w IS NULL AS is_first, lead(p.published_at) OVER w AS next_at
FROM links_linkuse u JOIN sources_post p ON p.id = u.post_id JOIN links_trackedlink l ON l.id = u.link_id
WHERE l.brand_id = %(brand)s
WINDOW w AS (PARTITION BY u.link_id ORDER BY p.published_at)
"""
CLICKS_OF_USE = """
links_clickhour h ON h.brand_id = %(brand)s AND h.link_id = u.link_id
    AND (u.is_first OR h.hour >= date_trunc('hour', u.published_at))
    AND (u.next_at IS NULL OR h.hour < date_trunc('hour', u.next_at))
"""


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
