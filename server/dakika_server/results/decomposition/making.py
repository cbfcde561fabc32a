"""What made the difference: a study's change of one figure, by posts, networks and formats, adding up to it exactly."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import Metric, Over, Unit
from dakika_core.metrics.formula import Name, evaluate
from dakika_core.metrics.metric import OF_ONE_POST
from dakika_core.results.basis import write_number
from dakika_core.results.decomposition import (
    Factor,
    Group,
    Sums,
    Term,
    as_geometric,
    contributions,
    headline,
    number_mix_size,
    terms_of,
    weight_and_rate,
)
from numpy.typing import NDArray

from dakika_server.figures.study import Study
from dakika_server.results.decomposition.parts import ABOVE, BELOW, LOG, Table, parts_of
from dakika_server.results.queries import Array
from dakika_server.sources.models import Post

SHOWN_POSTS = 15
NO_COMPARISON = "Nothing is known of the comparison, so that there is no change to take apart."
NOT_OVER = "No day of this period is over yet, and half a day is no match for a whole one."
NOTHING = "Nothing is known of these days."
OF_A_TOTAL = "It is worked out from a total. Take that one apart: what changes it, changes this."
OF_ONE = "It is told by one post of many, and does not add up over posts."
NO_PARTS = "Its formula multiplies rates or takes the larger of two: its change cannot be told apart by posts."


@dataclass(frozen=True, kw_only=True)
class Item:
    """One post's, profile's or network's part. when: "now", "before" or "older" than both, for posts."""

    key: Any
    now: float | None
    before: float | None
    contribution: float
    when: str = ""
    post: Post | None = None
    name: str = ""
    network: str = ""


@dataclass(frozen=True, kw_only=True)
class Decomposition:
    """A change taken apart. `reason` says why it cannot be; factors, networks, formats and items each add up to it."""

    metric: Metric
    what: str
    now: float | None
    before: float | None
    change: float | None
    title: str
    reason: str = ""
    weight: str = ""
    note: str = ""
    factors: list[Factor] = field(default_factory=list)
    networks: list[Group] = field(default_factory=list)
    formats: list[Group] = field(default_factory=list)
    items: list[Item] = field(default_factory=list)
    rest: int = 0
    rest_contribution: float = 0.0


def decomposed(study: Study, metric: Metric) -> Decomposition:
    """Take the change of a metric apart; the study is of whole days."""
    if not study.whole_days:
        return _untold(metric, NOT_OVER)
    if metric.of or metric.way in OF_ONE_POST:
        return _untold(metric, OF_A_TOTAL if metric.of else OF_ONE)
    terms = _terms(metric)
    if terms is None:
        return _untold(metric, NO_PARTS)
    what, table = parts_of(study, metric)
    sides = [_sides(terms, table, at) for at in (table.now, table.before)]
    now, before = (
        _whole(metric, terms, side) if is_known else None for side, is_known in zip(sides, table.is_known, strict=True)
    )
    if now is None or before is None:
        return _untold(metric, NO_COMPARISON if before is None and now is not None else NOTHING, what, now, before)
    scale = as_geometric(sides[0][0], sides[1][0]) if metric.key == "index" else 1.0
    parts = scale * sum(
        (t.factor * contributions(a, b) for t, a, b in zip(terms, *sides, strict=True)), np.zeros(len(table.keys))
    )
    factors = _factors(metric, terms, table, sides, scale) if what == "posts" else []
    write = _writer(metric.unit)
    items, rest, rest_contribution = _items(study, what, metric, terms, table, sides, parts)
    return Decomposition(
        metric=metric, what=what, now=now, before=before, change=now - before,
        title=headline(metric.name, now - before, factors, write), factors=factors,
        weight=_weight_name(metric, terms, what), note=_note(table),
        networks=_groups(metric, terms, table, sides, parts, table.networks),
        formats=_groups(metric, terms, table, sides, parts, table.formats) if what == "posts" else [],
        items=items, rest=rest, rest_contribution=rest_contribution,
    )  # fmt: skip


def _untold(
    metric: Metric, reason: str, what: str = "", now: float | None = None, before: float | None = None
) -> Decomposition:
    return Decomposition(
        metric=metric, what=what, now=now, before=before, change=None, title=metric.name, reason=reason
    )


def _note(table: Table) -> str:
    """Which posts are in neither side, in words."""
    now, before = table.silent
    told = [f"{count:,} {'post' if count == 1 else 'posts'} of {days}" for count, days in
            ((now, "these days"), (before, "the comparison")) if count > 0]  # fmt: skip
    return f"{' and '.join(told)} tell nothing of it and are left out." if told else ""


def _writer(unit: Unit) -> Callable[[float], str]:
    return lambda value: f"{value * 100:.2f} pp" if unit is Unit.RATE else write_number(round(value, 2), unit)


def _terms(metric: Metric) -> list[Term] | None:
    """The metric as a sum of terms: by its formula, or by what its parts are called."""
    if metric.formula:
        return terms_of(metric.read.tree)
    if metric.key == "index":
        return [Term(1.0, Name(LOG), Name("posts"))]
    return [Term(1.0, Name(ABOVE), Name(BELOW) if metric.key == "follower_growth" else None)]


def _sides(terms: list[Term], table: Table, names: dict[str, Array]) -> list[Sums]:
    return [
        Sums(
            above=np.asarray(evaluate(term.above, names)) + np.zeros(len(table.keys)),
            below=None if term.below is None else np.asarray(evaluate(term.below, names)) + np.zeros(len(table.keys)),
        )
        for term in terms
    ]


def _whole(metric: Metric, terms: list[Term], sums: list[Sums]) -> float | None:
    """The figure of these parts; None where there are none, or a rate of nothing."""
    if not len(sums[0].above):
        return 0.0 if metric.key in ("posts", "posts_per_week") else None
    values = [one.value for one in sums]
    if any(value is None for value in values):
        return None
    made = float(sum(t.factor * v for t, v in zip(terms, values, strict=True) if v is not None))
    return float(np.exp(made)) if metric.key == "index" else made


def _factors(metric: Metric, terms: list[Term], table: Table, sides: list[list[Sums]], scale: float) -> list[Factor]:
    """By what it changed: for sums the posts' number, mix and size, and older posts; for rates weight and rate."""
    cells = [
        (table.networks == network) & (table.formats == kind)
        for network, kind in sorted(set(zip(table.networks.tolist(), table.formats.tolist(), strict=True)))
    ]
    if any(term.below is not None for term in terms):
        by_weight = by_rate = 0.0
        for term, now, before in zip(terms, *sides, strict=True):
            if term.below is None:
                by_rate += term.factor * float(contributions(now, before).sum())
                continue
            split = weight_and_rate(now, before, cells)
            by_weight, by_rate = by_weight + term.factor * split.by_weight, by_rate + term.factor * split.by_rate
        return [Factor(key="rate", contribution=scale * by_rate), Factor(key="weight", contribution=scale * by_weight)]
    if metric.over is Over.PROFILE:
        return []
    (term,), (now,), (before,) = terms, *sides
    posts_now, posts_before = table.is_own_now.astype(float), table.is_own_before.astype(float)
    own_now, own_before = Sums(above=now.above * posts_now), Sums(above=before.above * posts_before)
    split_posts = number_mix_size(own_now, own_before, posts_now, posts_before, cells)
    older = float((now.above * (1 - posts_now)).sum()), float((before.above * (1 - posts_before)).sum())
    n, n0 = float(posts_now.sum()), float(posts_before.sum())
    found = [
        Factor(key="number", contribution=split_posts.by_number, now=n, before=n0),
        Factor(
            key="size", contribution=split_posts.by_size, now=float(own_now.above.sum()) / n if n else None,
            before=float(own_before.above.sum()) / n0 if n0 else None,
        ),
        Factor(key="mix", contribution=split_posts.by_mix),
    ]  # fmt: skip
    if any(older):
        found.append(Factor(key="older", contribution=older[0] - older[1], now=older[0], before=older[1]))
    return [Factor(key=f.key, contribution=term.factor * f.contribution, now=f.now, before=f.before) for f in found]


def _weight_name(metric: Metric, terms: list[Term], what: str) -> str:
    """What the weight of a group is: posts for a sum over posts, a share of what stands below for a rate."""
    if any(term.below is not None for term in terms):
        return "share"
    return "posts" if what == "posts" and metric.over is not Over.PROFILE else ""


def _groups(
    metric: Metric, terms: list[Term], table: Table, sides: list[list[Sums]], parts: Array, labels: NDArray[np.str_]
) -> list[Group]:
    found = []
    for label in sorted(set(labels.tolist())):
        own = labels == label
        values = [_whole(metric, terms, [one.of(own) for one in side]) for side in sides]
        is_there = [any((one.above[own] != 0).any() for one in side) for side in sides]
        if not any(is_there) and not parts[own].any():
            continue
        found.append(
            Group(
                key=label, contribution=float(parts[own].sum()),
                now=values[0] if is_there[0] else None, before=values[1] if is_there[1] else None,
                **_weights(terms, table, sides, own),
            )
        )  # fmt: skip
    return sorted(found, key=lambda group: -abs(group.contribution))


def _weights(terms: list[Term], table: Table, sides: list[list[Sums]], own: NDArray[np.bool_]) -> dict[str, float]:
    place = next((i for i, term in enumerate(terms) if term.below is not None), None)
    if place is None:
        return {
            "weight_now": float((table.is_own_now & own).sum()),
            "weight_before": float((table.is_own_before & own).sum()),
        }
    shares = []
    for side in sides:
        below = side[place].below
        assert below is not None
        shares.append(float(below[own].sum() / below.sum()))
    return {"weight_now": shares[0], "weight_before": shares[1]}


def _items(
    study: Study, what: str, metric: Metric, terms: list[Term], table: Table, sides: list[list[Sums]], parts: Array
) -> tuple[list[Item], int, float]:
    """The parts that hold the most of the change, the largest first, and what the others hold together."""
    order = np.argsort(-np.abs(parts), kind="stable")
    held = order[np.abs(parts[order]) > 0]
    shown, others = held[:SHOWN_POSTS], held[SHOWN_POSTS:]
    posts = Post.objects.select_related("profile").in_bulk([table.keys[i] for i in shown]) if what == "posts" else {}
    names = {p.pk: p.name for p in study.profiles}
    items = []
    for i in shown.tolist():
        only = np.arange(len(parts)) == i
        now, before = (_whole(metric, terms, [one.of(only) for one in side]) for side in sides)
        is_there = [any(bool(one.above[i]) or (one.below is not None and bool(one.below[i])) for one in side)
                    for side in sides]  # fmt: skip
        key = table.keys[i]
        when = "now" if table.is_own_now[i] else "before" if table.is_own_before[i] else "older"
        items.append(
            Item(
                key=key, contribution=float(parts[i]), now=now if is_there[0] else None,
                before=before if is_there[1] else None, when=when if what == "posts" else "",
                post=posts.get(key), name=names.get(key, "") if what == "profiles" else "",
                network=str(table.networks[i]),
            )
        )  # fmt: skip
    return items, len(others), float(parts[others].sum())
