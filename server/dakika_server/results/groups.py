"""Groups of posts against the posts outside of them, added up by the database and judged by the core."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import Metric
from dakika_core.results.groups import GroupResult, Moments, compare_moments, indicators
from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import Case, Count, F, Func, QuerySet, Sum, TextField, Value, When
from django.db.models.functions import Cast, Coalesce, ExtractIsoWeekDay, Length, Ln, Lower
from numpy.typing import NDArray

from dakika_server.figures.study import Study
from dakika_server.measures.models import PostMeasure
from dakika_server.results.models import Tag
from dakika_server.results.queries import measures_in, value_of
from dakika_server.results.tables import WEEKDAYS, counted

Array = NDArray[np.float64]
Index = NDArray[np.int64]
MOST_GROUPS = 40
# Between a group's key and its name while the core judges it.
SEPARATOR = "\x00"
# Characters of a post's text.
LENGTHS = ((80, "up to 80"), (160, "81 to 160"), (280, "161 to 280"))
LONGER = "longer than 280"
GROUPINGS = ("tag", "format", "hashtag", "campaign", "weekday", "length", "opening", "link", "language", "boosted")
OVERLAPPING = ("tag", "hashtag")
# Whatever the database's locale knows: what is neither space nor sign belongs to a word.
_GAP, _WORD = "[[:space:][:punct:]]", "[^[:space:][:punct:]]"
_NAMELESS = {"campaign": "in no campaign", "language": "not said"}


@dataclass(frozen=True, kw_only=True)
class Group:
    """A group as it is asked for again: its key in an address, its name, and how it stands.

    typical and others are the geometric mean of its posts and of those outside of it in the metric's own unit, as on
    a profile of average level: the one divided by the other is the raw ratio.
    """

    key: str
    result: GroupResult
    typical: float | None
    others: float | None


@dataclass(frozen=True, kw_only=True)
class Comparison:
    """All groups of a grouping. held: what the adjusted figure keeps the same. left_out: posts without a value."""

    groups: list[Group]
    held: tuple[str, ...]
    posts: int
    left_out: int


def compare(study: Study, by: str, metric: Metric) -> Comparison:
    """Each group of a grouping against the other posts of the period.

    A post is held against its profile's typical where the metric is the index, else against the
    profile's mean: so a large profile does not lift the groups it happens to use.
    """
    measures = measures_in(study, study.period)
    value = F("profile_index") if metric.key == "index" else value_of(metric)
    usable = measures.annotate(value=value).filter(value__gt=0)
    rows = _by_tag(usable) if by == "tag" else list(_in_cells(_grouped(usable, study, by), "group_key", "group_name"))
    # Where every post is in one group, the groups make the whole; else it is asked for apart.
    every = list(_in_cells(usable)) if by in OVERLAPPING else [row[2:] for row in rows]
    cells = sorted({(row[0], row[1]) for row in every})
    total = counted(study, measures, "")["total"]
    if not cells:
        return Comparison(groups=[], held=_held(by), posts=total, left_out=total)
    place = {cell: i for i, cell in enumerate(cells)}
    whole = _added(np.array([place[row[0], row[1]] for row in every]), every, len(cells))
    level = np.zeros(len(cells)) if metric.key == "index" else _profile_means(whole, cells)
    keys, of_groups = _largest(rows, place)
    named = {key: _from_level(sums, level) for key, sums in zip(keys, of_groups, strict=True)}
    all_posts = _from_level(whole, level)
    results = compare_moments(all_posts, named, _controls(cells, by))
    middle = float(np.exp((whole[0] * level).sum() / whole[0].sum()))
    return Comparison(
        groups=[_group(result, by, middle) for result in results], held=_held(by), posts=total,
        left_out=total - int(all_posts.n.sum()),
    )  # fmt: skip


def _in_cells(usable: QuerySet[Any], *of: str) -> QuerySet[Any, Any]:
    """Rows of what is named, profile, format, and then n, sum and sum of squares of the values' logs."""
    by = (*of, "profile_id", "format")
    sums = {"n": Count("pk"), "total": Sum(Ln("value")), "squares": Sum(Ln("value") * Ln("value"))}
    found: QuerySet[Any, Any] = usable.order_by().values(*by).annotate(**sums).values_list(*by, *sums)
    return found


def _held(by: str) -> tuple[str, ...]:
    return ("profile",) if by == "format" else ("profile", "format")


def _controls(cells: list[tuple[int, str]], by: str) -> Array:
    """What the adjusted figure holds the same, as columns of zeros and ones: shape (cells, k)."""
    columns = [indicators([str(profile) for profile, _ in cells])]
    if by != "format":
        columns.append(indicators([kind for _, kind in cells]))
    found: Array = np.column_stack(columns)
    return found


def _added(at: Index, rows: Sequence[tuple[Any, ...]], size: int) -> Array:
    """The last three columns of rows added up by place: shape (3, size)."""
    numbers = np.array([row[-3:] for row in rows], dtype=float).reshape(-1, 3)
    return np.array([np.bincount(at, weights=column, minlength=size) for column in numbers.T])


def _largest(rows: Sequence[tuple[Any, ...]], place: dict[tuple[int, str], int]) -> tuple[list[str], Array]:
    """The groups with most posts, as key and name, and their sums by cell: shape (groups, 3, cells)."""
    words = [SEPARATOR.join("" if part is None else str(part) for part in row[:2]) for row in rows]
    sizes: dict[str, int] = {}
    for key, row in zip(words, rows, strict=True):
        sizes[key] = sizes.get(key, 0) + row[4]
    keys = sorted(sizes, key=lambda key: -sizes[key])[:MOST_GROUPS]
    number = {key: i for i, key in enumerate(keys)}
    kept = [(number[key], row) for key, row in zip(words, rows, strict=True) if key in number]
    at = np.array([group * len(place) + place[row[2], row[3]] for group, row in kept], dtype=np.int64)
    sums = _added(at, [row for _, row in kept], len(keys) * len(place)).reshape(3, len(keys), len(place))
    return keys, sums.transpose(1, 0, 2)


def _profile_means(whole: Array, cells: list[tuple[int, str]]) -> Array:
    """Of each cell the mean of its profile: shape (cells,)."""
    number = {profile: i for i, profile in enumerate(dict.fromkeys(profile for profile, _ in cells))}
    at = np.array([number[profile] for profile, _ in cells])
    n, total = (np.bincount(at, weights=column) for column in whole[:2])
    means: Array = (total / n)[at]
    return means


def _from_level(sums: Array, level: Array) -> Moments:
    """Sums by cell, taken from each profile's level."""
    n, total, squares = sums
    return Moments(n=n, total=total - n * level, squares=squares - 2 * level * total + n * level**2)


_BY_TAG = """
SELECT t.tag_id, u.profile_id, u.format, COUNT(*), SUM(u.log), SUM(u.log * u.log)
FROM (SELECT post_id, profile_id, format, LN(value) AS log FROM ({usable}) measured OFFSET 0) u
JOIN results_posttag t ON t.post_id = u.post_id AND NOT t.is_off
GROUP BY 1, 2, 3
"""


def _by_tag(usable: QuerySet[PostMeasure]) -> list[tuple[Any, ...]]:
    """Sums by tag and cell. The tags hang on posts: joined to the measures at once, the posts need not be read."""
    wanted: QuerySet[Any] = usable.order_by()
    try:
        sql, parameters = wanted.values(*("post_id", "profile_id", "format", "value")).query.sql_with_params()
    except EmptyResultSet:  # no profile, so nothing that could be asked
        return []
    with connection.cursor() as cursor:
        cursor.execute(_BY_TAG.format(usable=sql), parameters)
        rows = cursor.fetchall()
    names = dict(Tag.objects.filter(pk__in={row[0] for row in rows}).values_list("pk", "name"))
    return [(tag, names[tag], *rest) for tag, *rest in rows]


def _group(result: GroupResult, by: str, middle: float) -> Group:
    """middle: the level of an average profile, that of the posts' profiles each as often as it posted."""
    key, _, name = result.name.partition(SEPARATOR)
    typical = None if result.index is None else result.index * middle
    others = None if typical is None or result.raw is None else typical / result.raw.value
    return Group(key=key, result=replace(result, name=_name(by, name)), typical=typical, others=others)


def _grouped(usable: QuerySet[PostMeasure], study: Study, by: str) -> QuerySet[Any]:
    """Measures with the group of each; a post with several tags or hashtags stands in several groups."""
    match by:
        case "hashtag":
            words = Func(F("post__hashtags"), function="unnest", output_field=TextField())
            # Posts without any are left out before they are joined.
            some = usable.exclude(post__hashtags=[])
            inner = some.annotate(word=Lower(Cast(words, TextField()))).order_by()
            return inner.annotate(group_key=F("word"), group_name=F("word"))
        case "campaign":
            return usable.annotate(group_key=F("post__campaign_id"), group_name=F("post__campaign__name"))
        case "weekday":
            day = ExtractIsoWeekDay("published_at", tzinfo=study.brand.zone)
            return usable.annotate(group_key=day, group_name=day)
        case "length":
            whens = [When(long__lte=most, then=Value(name)) for most, name in LENGTHS]
            chosen = Case(*whens, default=Value(LONGER))
            return usable.annotate(long=Length("post__text")).annotate(group_key=chosen, group_name=chosen)
        case "opening":
            opening = _opening_words(Lower("post__text"))
            return usable.annotate(group_key=opening, group_name=opening)
        case "link":
            has = Case(When(post__text__iregex=r"https?://", then=Value("yes")), default=Value("no"))
            return usable.annotate(group_key=has, group_name=has)
        case "boosted":
            is_on = Case(When(post__is_boosted=True, then=Value("yes")), default=Value("no"))
            return usable.annotate(group_key=is_on, group_name=is_on)
    column = {"format": "format", "language": "post__language"}[by]
    return usable.annotate(group_key=F(column), group_name=F(column))


def _opening_words(text: Any) -> Func:
    """The first two words of a text, whatever stands before and between them; nothing where there are fewer."""
    first = Func(text, Value(rf"^{_GAP}*({_WORD}+{_GAP}+{_WORD}+)"), function="substring")
    return Func(
        Coalesce(first, Value("")), Value(rf"{_GAP}+"), Value(" "), Value("g"), function="regexp_replace",
        output_field=TextField(),
    )  # fmt: skip


def _name(by: str, name: Any) -> str:
    if by == "weekday":
        return WEEKDAYS[int(name) - 1]
    if by == "boosted":
        return "boosted" if name == "yes" else "not boosted"
    if by == "link":
        return "with an address" if name == "yes" else "without one"
    if by == "hashtag":
        return f"#{name}"
    if by == "opening":
        return f"\u201c{name} \u2026\u201d" if name else "fewer than two words"
    return str(name or _NAMELESS.get(by, ""))
