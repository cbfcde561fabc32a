"""Which posts carry which links: read from the posts' texts, whoever wrote them."""

import re
from collections.abc import Callable
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


def _hosts(brand_id: int) -> list[str]:
    """Where short addresses of a brand stand."""
    ours = [urlsplit(settings.LINKS_ADDRESS).netloc, f"{urlsplit(settings.PUBLIC_ADDRESS).netloc}/l"]
    return [*ours, *LinkDomain.objects.filter(brand_id=brand_id).values_list("host", flat=True)]


def _addresses(hosts: list[str]) -> re.Pattern[str]:
    """Finds short addresses, with or without their scheme; the code is the group."""
    return re.compile(rf"(?:https?://)?(?:{'|'.join(map(re.escape, hosts))})/([A-Za-z0-9_-]+)")


def with_other_links(brand_id: int, text: str, other: Callable[[TrackedLink], str]) -> str:
    """A text in which every short address of the brand's links is what `other` says for its link, asked once each."""
    known = {link.code: link for link in TrackedLink.objects.filter(brand_id=brand_id).select_related("domain")}
    said: dict[str, str] = {}

    def instead(found: re.Match[str]) -> str:
        link = known.get(found[1]) or known.get(found[1].lower())
        if link is None:
            return found[0]
        if link.code not in said:
            said[link.code] = other(link)
        return said[link.code]

    return _addresses(_hosts(brand_id)).sub(instead, text)


def find_uses(brand_id: int, profile: Profile | None = None) -> int:
    """Note every own post whose text holds a short address of the brand; returns how many were found anew."""
    hosts = _hosts(brand_id)
    codes = dict(TrackedLink.objects.filter(brand_id=brand_id).values_list("code", "pk"))
    if not codes:
        return 0
    address = _addresses(hosts)
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
