"""The figures of a study, each as the core's Figure with its course by day."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from dakika_core.metrics.catalogue import Metric, Over, Unit
from dakika_core.results.titles import ChartTitle, course_title
from dakika_core.values.figure import Change, Figure, change

from dakika_server.figures.study import Study
from dakika_server.networks.definitions import all_networks
from dakika_server.results import queries
from dakika_server.results.brought import NOT_OF_POSTS, currency_told, is_of_posts
from dakika_server.results.queries import Array
from dakika_server.results.sides import Course
from dakika_server.results.ways import Sides


@dataclass(frozen=True, kw_only=True)
class Part:
    """One network's share of a figure."""

    network: str
    value: float | None
    before: float | None
    weight: float = 1.0


@dataclass(frozen=True, kw_only=True)
class Measured:
    """A metric over the study: the figure, the comparison's, the change, both courses by day, the networks.

    Figures, networks and sums are of the days that are over; the courses are of all, and `today` is
    what stands of today so far. sums holds what the formula was worked out from, of_no_network what of a
    sum stands on no network's line.
    """

    metric: Metric
    now: Figure
    before: Figure
    change: Change
    days: list[float | None]
    days_before: list[float | None]
    today: float | None = None
    networks: list[Part] = field(default_factory=list)
    title: ChartTitle
    sums: dict[str, float]
    sums_before: dict[str, float]
    missing_note: str = ""
    of_no_network: float = 0.0


def summary_of(study: Study, metrics: Iterable[Metric]) -> list[Measured]:
    """The metrics over the study, in their order."""
    metrics = list(metrics)
    sides = Sides(study, metrics)
    return [_measured(metric, study, sides.now(metric), sides.before(metric)) for metric in metrics]


def _measured(metric: Metric, study: Study, now: Course, before: Course) -> Measured:
    names = sorted({*now.networks, *before.networks})
    whole = study.whole_days
    has_today = 0 < whole < study.period.days
    return Measured(
        metric=metric, now=now.figure, before=before.figure, change=_changed(metric, now.figure, before.figure),
        days=_list(now.days), days_before=_list(before.days), sums=now.sums, sums_before=before.sums,
        networks=[
            Part(network=n, value=now.networks.get(n), before=before.networks.get(n), weight=now.weights.get(n, 1.0))
            for n in names
        ],
        of_no_network=now.of_no_network,
        today=_list(now.days[whole : whole + 1])[0] if has_today else None,
        title=course_title(metric.name, study.period.dates()[:whole], now.days[:whole], before.days[:whole]),
        missing_note=" ".join(filter(None, [_missing_note(metric, study, now.figure), _placed_note(now.placed)])),
    )  # fmt: skip


def _changed(metric: Metric, now: Figure, before: Figure) -> Change:
    """What a change itself changes by is told in points: a percentage of a percentage says nothing."""
    made = change(now.value, before.value)
    return Change(difference=made.difference, relative=None) if metric.unit is Unit.CHANGE else made


def _list(values: Array) -> list[float | None]:
    return [None if v != v else round(v, 5) for v in values.tolist()]


def _placed_note(placed: int) -> str:
    """What days a sum by day does not know."""
    if not placed:
        return ""
    them, their = (
        ("1 post was", "its total stands") if placed == 1 else (f"{placed:,} posts were", "their totals stand")
    )
    return f"{them} first read too late to tell the days: {their} on the day of publishing."


def _currency(study: Study) -> str:
    return "".join(
        f"In {currency}; amounts in other currencies are not in it. " for currency in currency_told(study.brand)
    )


def _missing_note(metric: Metric, study: Study, figure: Figure) -> str:
    """What the figure does not hold, in words."""
    metric = metric.total
    if metric.over is Over.BROUGHT:
        if NOT_OF_POSTS & set(metric.needs) and is_of_posts(study):
            return "It is counted for the brand as a whole and by network, not for single posts."
        money = _currency(study) if metric.unit is Unit.MONEY else ""
        days = f"{figure.missing} day{'s' if figure.missing != 1 else ''}"
        return money + (f"On {days} nothing of it was counted yet, or not both parts." if figure.missing else "")
    networks = all_networks()
    known = [networks[key] for key in {p.network for p in study.profiles} if key in networks]
    silent = sorted({n.name for n in known if metric.needs and not metric.is_supplied_by(n.own_metrics)})
    if silent:
        wanted = metric.denominator or metric.name.lower()
        names = " and ".join(filter(None, [", ".join(silent[:-1]), silent[-1]]))
        verb, whose = ("report", "their") if len(silent) > 1 else ("reports", "its")
        return f"{names} {verb} no {wanted}; {whose} posts are left out."
    if metric.over is Over.PUBLISHED and figure.missing:
        posts = "1 post is" if figure.missing == 1 else f"{figure.missing:,} posts are"
        return f"{posts} not in it: too young, or not read {study.age_words}."
    if metric.key in ("followers", "net_followers") and figure.missing:
        return f"{figure.missing} days of profiles have no reading."
    if metric.key in queries.DAILY and figure.missing > 0:
        return f"On {figure.missing} days no profile tells it."
    return ""
