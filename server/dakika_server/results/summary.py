"""The figures of a study, each as the core's Figure with its course by day."""

from dataclasses import dataclass, field

import numpy as np
from dakika_core.metrics.catalogue import CATALOGUE, Metric
from dakika_core.metrics.rates import ratio_of_sums
from dakika_core.results.titles import ChartTitle, course_title
from dakika_core.values.figure import Change, Figure, change
from dakika_core.values.period import Period

from dakika_server.networks.definitions import all_networks
from dakika_server.results import queries
from dakika_server.results.queries import Array
from dakika_server.results.study import Study

RATES = {"er_reach": "reach", "er_impressions": "impressions"}


@dataclass(frozen=True, kw_only=True)
class Part:
    """One network's share of a figure."""

    network: str
    value: float | None
    before: float | None


@dataclass(frozen=True, kw_only=True)
class Measured:
    """A metric over the study: the figure, the comparison's, the change, both courses by day, the networks."""

    metric: Metric
    now: Figure
    before: Figure
    change: Change
    days: list[float | None]
    days_before: list[float | None]
    networks: list[Part] = field(default_factory=list)
    title: ChartTitle
    missing_note: str = ""


@dataclass(frozen=True, kw_only=True)
class _Side:
    """Everything about one of the two periods."""

    figures: dict[str, Figure]
    days: dict[str, Array]
    networks: dict[str, dict[str, float | None]]


def summary_of(study: Study) -> list[Measured]:
    """All metrics of the summary, in the order of the catalogue."""
    now, before = _side(study, study.period), _side(study, study.compared)
    return [_measured(CATALOGUE[key], study, now, before) for key in CATALOGUE if key in now.figures]


def _measured(metric: Metric, study: Study, now: _Side, before: _Side) -> Measured:
    key = metric.key
    days, days_before = now.days[key], before.days[key]
    names = sorted({*now.networks.get(key, {}), *before.networks.get(key, {})})
    return Measured(
        metric=metric,
        now=now.figures[key],
        before=before.figures[key],
        change=change(now.figures[key].value, before.figures[key].value),
        days=_list(days),
        days_before=_list(days_before),
        networks=[Part(network=n, value=now.networks[key].get(n), before=before.networks[key].get(n)) for n in names],
        title=course_title(metric.name, study.period.dates(), days, days_before),
        missing_note=_missing_note(metric, study, now.figures[key]),
    )


def _list(values: Array) -> list[float | None]:
    return [None if v != v else round(v, 4) for v in values.tolist()]


def _missing_note(metric: Metric, study: Study, figure: Figure) -> str:
    """What the figure does not hold, in words."""
    wanted = metric.denominator if metric.denominator in RATES.values() else metric.key
    known = [all_networks()[p.network] for p in study.profiles if p.network in all_networks()]
    silent = sorted({n.name for n in known if wanted in RATES.values() and wanted not in n.own_metrics})
    if silent:
        names = " and ".join(filter(None, [", ".join(silent[:-1]), silent[-1]]))
        if len(silent) > 1:
            return f"{names} report no {wanted}; their posts are left out."
        return f"{names} reports no {wanted}; its posts are left out."
    if metric.key == "er_followers" and figure.missing:
        return f"{figure.missing} posts are too young or were not read at that age."
    if metric.key in ("followers", "net_followers") and figure.missing:
        return f"{figure.missing} days of profiles have no reading."
    return ""


def _side(study: Study, period: Period) -> _Side:
    figures: dict[str, Figure] = {}
    days: dict[str, Array] = {}
    networks: dict[str, dict[str, float | None]] = {}
    by_network = queries.gains_by_network(study, period)
    by_post = queries.gains_by_post(study, period)
    for key in queries.GAINS:
        name = "clicks" if key == "link_clicks" else key
        table = np.array([series.values[key] for series in by_network]).reshape(-1, period.days)
        known = ~np.isnan(table)
        days[name] = np.where(known.any(axis=0), np.nansum(table, axis=0), np.nan)
        values = by_post[key]
        total = float(np.nansum(values)) if (~np.isnan(values)).any() else None
        figures[name] = Figure(value=total, n=int((~np.isnan(values)).sum()), missing=int(np.isnan(values).sum()))
        networks[name] = {s.network: _total(s.values[key]) for s in by_network}
    for rate, below in RATES.items():
        figures[rate] = ratio_of_sums(by_post["interactions"], by_post[below])
        days[rate], networks[rate] = _rate_by_day(by_network, below, period.days)
    _add_followers(study, period, figures, days, networks)
    published = queries.posts_by_network(study, period)
    counts = np.sum([np.zeros(period.days), *published.values()], axis=0)
    figures["posts"], days["posts"] = Figure(value=float(counts.sum()), n=int(counts.sum())), counts
    networks["posts"] = {network: float(of_day.sum()) for network, of_day in published.items()}
    interactions, followers = queries.at_age(study, period)
    figures["er_followers"] = ratio_of_sums(interactions, followers)
    days["er_followers"], networks["er_followers"] = np.full(period.days, np.nan), {}
    return _Side(figures=figures, days=days, networks=networks)


def _total(values: Array) -> float | None:
    return float(np.nansum(values)) if (~np.isnan(values)).any() else None


def _rate_by_day(series: list[queries.DaySeries], below: str, days: int) -> tuple[Array, dict[str, float | None]]:
    """Ratio of sums by day and by network, over the networks that report both."""
    both = [s for s in series if (~np.isnan(s.values[below])).any()]
    top = np.nansum(np.array([s.values["interactions"] for s in both]).reshape(-1, days), axis=0)
    bottom = np.nansum(np.array([s.values[below] for s in both]).reshape(-1, days), axis=0)
    by_day = np.divide(top, bottom, out=np.full(days, np.nan), where=bottom > 0)
    return by_day, {s.network: float(np.nansum(s.values["interactions"]) / np.nansum(s.values[below])) for s in both}


def _add_followers(
    study: Study, period: Period, figures: dict[str, Figure], days: dict[str, Array],
    networks: dict[str, dict[str, float | None]],
) -> None:  # fmt: skip
    found = queries.followers_in(study, period)
    ends = found.total[:, -1] if len(found.total) else np.array([])
    known = ~np.isnan(ends)
    total = float(ends[known].sum()) if known.any() else None
    figures["followers"] = Figure(value=total, n=int(known.sum()), missing=found.days_missing)
    days["followers"] = np.where(
        np.isnan(found.total).all(axis=0), np.nan, np.nansum(found.total, axis=0)
    ) if len(found.total) else np.full(period.days, np.nan)  # fmt: skip
    net = found.gained - found.lost
    figures["net_followers"] = Figure(
        value=_total(net), n=int((~np.isnan(net)).sum()), missing=int(np.isnan(net).sum())
    )
    days["net_followers"] = net
    sums: dict[str, float | None] = {}
    for network, end in zip(found.networks, ends, strict=True):
        if end == end:
            sums[network] = (sums.get(network) or 0.0) + float(end)
    networks["followers"], networks["net_followers"] = sums, {}
