"""Reads for results: everything is added up in SQL, a fixed number of queries whatever the size."""

from dakika_server.results.queries.courses import (
    DAILY,
    Array,
    Courses,
    Followers,
    daily_of_profiles,
    followers_in,
    measures_in,
    posts_by_day,
    published,
    reaches_back_to,
    received,
    summed,
)
from dakika_server.results.queries.hidden import hides_of, often_hidden, usual_interactions
from dakika_server.results.queries.line import Tick, holes, languages_of, months_with_posts, ticks_of
from dakika_server.results.queries.posts import is_of_posts, ordered, posts_in, rows_of, value_of, with_posts

__all__ = [
    "DAILY",
    "Array",
    "Courses",
    "Followers",
    "Tick",
    "daily_of_profiles",
    "followers_in",
    "hides_of",
    "holes",
    "is_of_posts",
    "languages_of",
    "measures_in",
    "months_with_posts",
    "often_hidden",
    "ordered",
    "posts_by_day",
    "posts_in",
    "published",
    "reaches_back_to",
    "received",
    "rows_of",
    "summed",
    "ticks_of",
    "usual_interactions",
    "value_of",
    "with_posts",
]  # fmt: skip
