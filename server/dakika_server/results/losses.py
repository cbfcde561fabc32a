"""Who came and who left on a day, by profile, and the posts that it is laid to."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from dakika_core.results.losses import laid_to_posts
from dakika_core.results.spikes import seasonal_level
from dakika_core.values.period import Period

from dakika_server.figures.study import Study
from dakika_server.measures.models import LATEST, PostMeasure
from dakika_server.results import queries
from dakika_server.results.queries import Array, posts_in
from dakika_server.sources.models import Post, Profile

# A loss or gain of followers follows the posts of the days before it.
DAYS_LOOKED_BACK = 2
MOST_LOOKED_AT = 80
# What is told of a post and what is usual: where nobody tells, and how that is shown.
UNKNOWN, NONE = (np.nan, np.nan), (0.0, 0.0)


@dataclass(frozen=True, kw_only=True)
class ProfileExcess:
    """People that a profile gained or lost on a day, against its own level of such days."""

    profile: Profile
    value: float
    usual: float

    @property
    def excess(self) -> float:
        """How many more than usual."""
        return self.value - self.usual


@dataclass(frozen=True, kw_only=True)
class Cause:
    """A post, what is told of it (hides and reports, or interactions), what is usual there, its share of the excess."""

    post: Post
    told: float
    usual: float
    share: float


def come_or_gone(study: Study, day: date, around: Period, *, is_gain: bool) -> tuple[list[ProfileExcess], list[Cause]]:
    """The profiles that gained or lost more than usual, and the posts of the last days by their share of it.

    People leave over what they hide and report, and come for what others react to; both are held
    against what the profile's own posts usually have, for one network's hides are no other's.
    """
    excess = _by_profile(study, day, around, is_gain=is_gain)
    period = Period(first=day - timedelta(days=DAYS_LOOKED_BACK), last=day, zone=study.period.zone)
    posts = list(posts_in(study, period).select_related("profile").order_by("-published_at")[:MOST_LOOKED_AT])
    told = _reactions(study, posts, day) if is_gain else _hides(posts)
    place = {one.profile.pk: i for i, one in enumerate(excess)}
    shares = laid_to_posts(
        np.array([one.excess for one in excess]), [place[post.profile_id] for post in posts],
        np.array([told.get(post.pk, UNKNOWN)[0] for post in posts]),
        np.array([told.get(post.pk, UNKNOWN)[1] for post in posts]),
    )  # fmt: skip
    causes = [
        Cause(post=post, told=told.get(post.pk, NONE)[0], usual=told.get(post.pk, NONE)[1], share=float(share))
        for post, share in zip(posts, shares, strict=True)
    ]
    causes.sort(key=lambda one: (-one.share, -excess[place[one.post.profile_id]].excess, one.usual - one.told))
    return sorted((one for one in excess if one.excess > 0), key=lambda one: -one.excess), causes


def _hides(posts: list[Post]) -> dict[int, tuple[float, float]]:
    """Hides and reports of each post that its network tells, and what is usual for as many impressions."""
    found = queries.hides_of([post.pk for post in posts])
    return {pk: (one.count, one.usual) for pk, one in found.items()}


def _reactions(study: Study, posts: list[Post], day: date) -> dict[int, tuple[float, float]]:
    """Interactions of each post as last seen, and the median of its profile."""
    usual = queries.usual_interactions(study.profile_ids, around=day)
    seen = PostMeasure.objects.filter(post__in=posts, age_hours=LATEST, interactions__isnull=False)
    return {
        post: (interactions or 0.0, usual.get(profile, 0.0))
        for post, profile, interactions in seen.values_list("post_id", "profile_id", "interactions")
    }


def _by_profile(study: Study, day: date, around: Period, *, is_gain: bool) -> list[ProfileExcess]:
    found = queries.followers_in(study, around)
    at = (day - around.first).days
    made = []
    for profile, course in zip(study.profiles, found.came if is_gain else found.went, strict=True):
        level, _ = seasonal_level(course)
        usual = float(level[at]) if level[at] == level[at] else _median(course)
        made.append(ProfileExcess(profile=profile, value=float(np.nan_to_num(course[at])), usual=usual))
    return made


def _median(course: Array) -> float:
    return float(np.nanmedian(course)) if (~np.isnan(course)).any() else 0.0
