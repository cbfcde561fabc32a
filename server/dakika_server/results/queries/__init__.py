"""Reads for results: everything is added up in SQL, a fixed number of queries whatever the size."""

from dakika_server.results.queries.courses import (
    Array,
    Courses,
    Followers,
    followers_in,
    measures_in,
    posts_by_day,
    published,
    reaches_back_to,
    received,
    summed,
)
from dakika_server.results.queries.line import holes, line_posts
from dakika_server.results.queries.posts import freshest, is_of_posts, ordered, posts_in, rows_of, value_of, with_posts

__all__ = [
    "Array", "Courses", "Followers", "followers_in", "freshest", "holes", "is_of_posts", "line_posts",
    "measures_in", "ordered", "posts_by_day", "posts_in", "published", "reaches_back_to", "received", "rows_of",
    "summed", "value_of", "with_posts",
]  # fmt: skip
