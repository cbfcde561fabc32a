"""What links and the brand's own site brought. They stand above, and answer `brought`."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import Metric
from dakika_core.metrics.rates import wilson_interval
from dakika_core.values.figure import Figure
from dakika_core.values.period import Period
from django.core.exceptions import EmptyResultSet

from dakika_server.brands.models import Brand
from dakika_server.figures.study import Study
from dakika_server.results.queries import Array, Courses
from dakika_server.shared.hooks import Hook
from dakika_server.sources.models import Post


@dataclass(frozen=True, kw_only=True)
class Brought:
    """What one area counted by network and day. "" is no network.

    nothing: by name the course of a network for which nothing was counted, shape (days,): zero on the days on which
    it would have been, NaN on the others. courses hold counts alone; what is unknown is told by nothing.
    """

    courses: Courses
    nothing: dict[str, Array]

    def of(self, network: str) -> dict[str, Array]:
        """A network's courses by name, NaN where nothing is known."""
        found = self.courses.get(network, {})
        return {name: none + found.get(name, 0.0) for name, none in self.nothing.items()}


# (study, period, the names that are asked for); an answer holds those of them that the area counts.
brought: Hook[[Study, Period, frozenset[str]], Brought] = Hook("what came of posts by network and day")
# (brand, name, posts): how many each of some posts brought; one that could have brought some and did not has zero.
brought_by_post: Hook[[Brand, str, list[int]], dict[int, float]] = Hook("what single posts brought")
# In which currency a brand's money is told; the area that counts it answers.
currency_told: Hook[[Brand], str] = Hook("the currency of a brand's money")
TRAFFIC = frozenset(("tracked_clicks", "visits", "click_visits", "conversions"))
# What is counted of a day, a link or a page: single posts have no part of it.
NOT_OF_POSTS = frozenset(("click_visitors", "page_views", "page_clicks", "feed_views", "push_views"))


def brought_in(study: Study, period: Period, names: Iterable[str] = TRAFFIC) -> Courses:
    """What links, sites and comments counted by network and day: each name for each network known of."""
    asked = frozenset(names)
    # Traffic goes together: a network that had clicks and no visits says so.
    answers = brought(study, period, asked | TRAFFIC if asked & TRAFFIC else asked)
    # All together have a line even where nothing happened, so that none is zero.
    networks = {*study.named_networks, *(network for answer in answers for network in answer.courses)}
    return {
        network: {name: course for answer in answers for name, course in answer.of(network).items()}
        for network in sorted(networks)
    }


def nothing_since(first: date | None, study: Study, period: Period) -> Array:
    """The course of nothing: unknown before the first was ever counted, where none is not zero, and on days to come."""
    course = np.zeros(period.days)
    begins = (first - period.first).days if first else period.days
    course[: max(0, begins)] = np.nan
    course[max(0, (study.today - period.first).days + 1) :] = np.nan
    return course


def unknown_throughout(period: Period) -> Array:
    """The course of what is not told in this study."""
    return np.full(period.days, np.nan)


def is_of_posts(study: Study) -> bool:
    """Whether it asks for posts: of profiles, formats, tags, languages or boosting."""
    asked = (study.profiles_asked, study.formats, study.tags, study.languages, study.is_boosted)
    return any(value is not None for value in asked)


def posts_studied(study: Study) -> tuple[str, dict[str, Any]]:
    """The studied posts as a query of their keys, with its parameters by name; empty where none are asked for.

    A study of all posts, of networks or campaigns is answered by what links and visits say of themselves. One of
    profiles, formats, tags, languages or boosting asks for posts.
    """
    return posts_as_sql(study) if is_of_posts(study) else ("", {})


def posts_as_sql(study: Study) -> tuple[str, dict[str, Any]]:
    """The posts of a study as a query of their keys, with its parameters by name."""
    asked = Post.objects.filter(study.on_posts(), profile__in=study.profile_ids).values("pk")
    try:
        sql, given = asked.query.sql_with_params()
    except EmptyResultSet:  # a profile of another network, say: nothing is studied
        return "SELECT 0 WHERE false", {}
    names = [f"post{i}" for i in range(len(given))]
    return sql % tuple(f"%({name})s" for name in names), dict(zip(names, given, strict=True))


def told_together(course: dict[str, Array], metric: Metric) -> dict[str, Array]:
    """A metric's names on the days of which all are known, so that a rate is of one thing."""
    names = [course[name] for name in metric.needs]
    whole = ~np.isnan(np.array(names)).any(axis=0)
    return {name: np.where(whole, course[name], np.nan) for name in metric.needs}


def with_interval(figure: Figure) -> Figure:
    """The figure with the interval of a share (Wilson); none where the part is larger than what it is held against."""
    above, below = figure.numerator, figure.denominator
    if above is None or not below or above > below:
        return figure
    return Figure(
        value=figure.value, n=figure.n, missing=figure.missing, numerator=above, denominator=below,
        interval=wilson_interval(above, below),
    )  # fmt: skip
