"""The figures of a study, each as the core's Figure with its course by day."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace

import numpy as np
from dakika_core.metrics.catalogue import AddsUp, Metric, Over
from dakika_core.metrics.formula import evaluate
from dakika_core.results.titles import ChartTitle, course_title
from dakika_core.values.figure import Change, Figure, change
from dakika_core.values.period import Period

from dakika_server.figures.study import Study
from dakika_server.networks.definitions import all_networks
from dakika_server.results import queries
from dakika_server.results.brought import brought_in, told_together
from dakika_server.results.expressions import cell
from dakika_server.results.queries import Array

DAYS_A_WEEK = 7
Names = dict[str, Array]


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


@dataclass(frozen=True, kw_only=True)
class _Course:
    """One metric in one period."""

    figure: Figure
    days: Array
    networks: dict[str, float | None]
    sums: dict[str, float] = field(default_factory=dict)
    placed: int = 0
    weights: dict[str, float] = field(default_factory=dict)
    of_no_network: float = 0.0


def summary_of(study: Study, metrics: Iterable[Metric]) -> list[Measured]:
    """The metrics over the study, in their order."""
    metrics = list(metrics)
    # Whole days are held against whole days; before the first is over there is nothing to hold.
    whole = study.whole_days
    now = _Side(study, study.period, metrics, whole or study.period.days)
    before = _Side(study, study.compared, metrics, whole)
    return [_measured(metric, study, now.course(metric), before.course(metric)) for metric in metrics]


def _measured(metric: Metric, study: Study, now: _Course, before: _Course) -> Measured:
    names = sorted({*now.networks, *before.networks})
    whole = study.whole_days
    has_today = 0 < whole < study.period.days
    return Measured(
        metric=metric, now=now.figure, before=before.figure, change=change(now.figure.value, before.figure.value),
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


def _missing_note(metric: Metric, study: Study, figure: Figure) -> str:
    """What the figure does not hold, in words."""
    if metric.over is Over.BROUGHT:
        days = f"{figure.missing} day{'s' if figure.missing != 1 else ''}"
        return f"On {days} nothing of it was counted yet, or not both parts." if figure.missing else ""
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


class _Side:
    """Everything about one of the two periods, asked for once; figures are of its first `whole` days."""

    def __init__(self, study: Study, period: Period, metrics: list[Metric], whole: int) -> None:
        self.study, self.period, self.whole = study, period, whole
        overs = {metric.over for metric in metrics}
        keys = {metric.key for metric in metrics}
        has_daily = keys & set(queries.DAILY)
        self.daily = queries.daily_of_profiles(study, period) if has_daily else {}
        has_followers = keys & {"followers", "net_followers", "gained_followers", "lost_followers", "follower_growth"}
        self.received = queries.received(study, period) if Over.RECEIVED in overs else {}
        of_posts = [metric for metric in metrics if metric.over is Over.PUBLISHED]
        self.published = queries.published(study, period, of_posts) if of_posts else None
        self.brought = brought_in(study, period) if Over.BROUGHT in overs else {}
        wants_posts = keys & {"posts", "posts_per_week"}
        self.posts = queries.posts_by_day(study, period, self.received) if wants_posts else {}
        has_gains = bool(keys & {"net_followers", "gained_followers", "lost_followers"})
        self.followers = queries.followers_in(study, period, has_gains=has_gains) if has_followers else None

    def course(self, metric: Metric) -> _Course:
        """A metric in this period."""
        made = self._course(metric)
        return made if self.whole else replace(made, figure=Figure(value=None), networks={}, sums={})

    def _course(self, metric: Metric) -> _Course:
        if metric.over is Over.RECEIVED:
            return self._received(metric)
        if metric.over is Over.PUBLISHED:
            return self._index() if metric.key == "index" else self._published(metric)
        if metric.over is Over.BROUGHT:
            return self._brought(metric)
        return self._profile(metric)

    def _received(self, metric: Metric) -> _Course:
        above, below = metric.numerator, metric.denominator
        of = {name: name for name in metric.needs}
        if above and below:
            of = {above: f"{above}_with_{below}", below: f"{below}_with_{above}"}
        parts = {
            network: {name: course[column] for name, column in of.items()} for network, course in self.received.items()
        }
        placed = int(sum(np.nansum(course["placed"][: self.whole]) for course in self.received.values()))
        return replace(self._put_together(metric, parts), placed=placed)

    def _brought(self, metric: Metric) -> _Course:
        parts = {network: told_together(course, metric) for network, course in self.brought.items()}
        days = queries.summed([part[metric.needs[0]] for part in parts.values()], self.period.days)
        known = int((~np.isnan(days[: self.whole])).sum())
        below = queries.summed([part[metric.needs[-1]] for part in parts.values()], self.period.days)
        n = int(np.nansum(below[: self.whole]))
        made = self._put_together(metric, parts, n=n, missing=max(0, self.ended_days() - known))
        # Clicks on links that were made for no network are in the figure, and on no network's line.
        return replace(
            made, networks={network: value for network, value in made.networks.items() if network},
            of_no_network=made.networks.get("") or 0.0 if metric.adds_up is AddsUp.SUM else 0.0,
        )  # fmt: skip

    def _published(self, metric: Metric) -> _Course:
        assert self.published is not None
        parts: dict[str, Names] = {}
        counted = 0
        for network, course in self.published.courses.items():
            n = course[cell(metric.key, "n")]
            counted += int(np.nansum(n[: self.whole]))
            if np.nansum(n) > 0:
                parts[network] = {
                    name: n if name == "posts" else course[cell(metric.key, name)] for name in metric.needs
                }
        posts = int(self.published.posts[: self.whole].sum())
        return self._put_together(metric, parts, n=counted, missing=posts - counted)

    def _put_together(
        self, metric: Metric, parts: dict[str, Names], *, n: int | None = None, missing: int = 0
    ) -> _Course:
        """A formula over the sums: of all days and networks, by day, and by network."""
        days = {
            name: queries.summed([part[name] for part in parts.values()], self.period.days) for name in metric.needs
        }
        sums = _sums(days, self.whole)
        is_whole = len(sums) == len(days)
        value = _value(metric, sums) if is_whole else None
        below = sums.get(metric.denominator or "") if metric.denominator else None
        figure = Figure(
            value=value, missing=missing,
            n=n if n is not None else sum(int((~np.isnan(c[: self.whole])).sum()) for c in list(days.values())[:1]),
            numerator=sums.get(metric.numerator or ""), denominator=below,
        )  # fmt: skip
        networks: dict[str, float | None] = {}
        for network, part in parts.items():
            known = _sums(part, self.whole)
            if len(known) == len(part):
                networks[network] = _value(metric, known)
            elif metric.adds_up is AddsUp.SUM:
                networks[network] = None
        return _Course(
            figure=figure, days=np.asarray(evaluate(metric.read.tree, days)), networks=networks,
            sums=sums if is_whole else {},
        )  # fmt: skip

    def _index(self) -> _Course:
        """The geometric mean, from the sums of logs."""
        assert self.published is not None
        logs, counts = np.zeros(self.period.days), np.zeros(self.period.days)
        networks: dict[str, float | None] = {}
        weights: dict[str, float] = {}
        for network, course in self.published.courses.items():
            n = np.nan_to_num(course[cell("index", "n")])
            log = np.nan_to_num(course[cell("index", "log")])
            logs, counts = logs + log, counts + n
            if of := n[: self.whole].sum():
                networks[network] = float(np.exp(log[: self.whole].sum() / of))
                weights[network] = float(of)
        n_all, posts = int(counts[: self.whole].sum()), int(self.published.posts[: self.whole].sum())
        value = float(np.exp(logs[: self.whole].sum() / n_all)) if n_all else None
        by_day = np.exp(np.divide(logs, counts, out=np.full(len(logs), np.nan), where=counts > 0))
        return _Course(
            figure=Figure(value=value, n=n_all, missing=posts - n_all), days=by_day, networks=networks, weights=weights
        )

    def _profile(self, metric: Metric) -> _Course:
        if metric.key in ("posts", "posts_per_week"):
            return self._post_counts(metric.key == "posts_per_week")
        if metric.key in queries.DAILY:
            return self._daily(metric)
        assert self.followers is not None
        found = self.followers
        if metric.key == "followers":
            return self._follower_total(found)
        if metric.key == "follower_growth":
            return _growth(found, self.period.days, self.whole)
        by_day = {
            "net_followers": found.gained - found.lost, "gained_followers": found.gained, "lost_followers": found.lost,
        }[metric.key]  # fmt: skip
        counted = by_day[: self.whole]
        known = ~np.isnan(counted)
        figure = Figure(
            value=float(np.nansum(counted)) if known.any() else None, n=int(known.sum()), missing=int((~known).sum())
        )
        return _Course(figure=figure, days=by_day, networks={})

    def _daily(self, metric: Metric) -> _Course:
        """What profiles tell by the day: added up, but for people reached, of whom only a mean day can be told."""
        parts = {network: course[queries.DAILY[metric.key]] for network, course in self.daily.items()}
        days = queries.summed(parts.values(), self.period.days)
        known = ~np.isnan(days[: self.whole])
        is_mean = metric.adds_up is AddsUp.RATIO_OF_SUMS
        total, count = float(np.nansum(days[: self.whole])), int(known.sum())
        figure = Figure(
            value=(total / count if is_mean else total) if count else None, n=count,
            missing=self.ended_days() - count if count else 0, numerator=total if is_mean and count else None,
            denominator=float(count) if is_mean and count else None,
        )  # fmt: skip
        networks: dict[str, float | None] = {
            network: float(np.nanmean(course) if is_mean else np.nansum(course))
            for network, course in ((name, part[: self.whole]) for name, part in parts.items())
            if (~np.isnan(course)).any()
        }
        return _Course(figure=figure, days=days, networks=networks)

    def ended_days(self) -> int:
        """How many days of those counted have come."""
        return max(0, min(self.whole, (self.study.today - self.period.first).days + 1))

    def _post_counts(self, is_per_week: bool) -> _Course:  # noqa: FBT001
        counts = np.sum([np.zeros(self.period.days), *self.posts.values()], axis=0)
        weeks = max(1, self.whole) / DAYS_A_WEEK if is_per_week else 1.0
        total = float(counts[: self.whole].sum())
        if not total and not queries.reaches_back_to(self.study, self.period):
            return _Course(figure=Figure(value=None), days=np.full(self.period.days, np.nan), networks={})
        figure = Figure(
            value=total / weeks, n=int(total), numerator=total if is_per_week else None,
            denominator=weeks if is_per_week else None,
        )  # fmt: skip
        networks: dict[str, float | None] = {
            name: float(course[: self.whole].sum()) / weeks for name, course in self.posts.items()
        }
        days = np.full(self.period.days, np.nan) if is_per_week else counts
        return _Course(figure=figure, days=days, networks=networks)

    def _follower_total(self, found: queries.Followers) -> _Course:
        ends = found.total[:, self.whole - 1] if len(found.total) else np.array([])
        known = ~np.isnan(ends)
        networks: dict[str, float | None] = {}
        for network, end in zip(found.networks, ends, strict=True):
            if end == end:
                networks[network] = (networks.get(network) or 0.0) + float(end)
        figure = Figure(
            value=float(ends[known].sum()) if known.any() else None,
            n=int(known.sum()),
            missing=int(found.unread[: self.whole].sum()),
        )
        return _Course(figure=figure, days=queries.summed(list(found.total), self.period.days), networks=networks)


def _growth(found: queries.Followers, days: int, whole: int) -> _Course:
    """Growth over the profiles that have a start and an end."""
    if not len(found.total):
        return _Course(figure=Figure(value=None), days=np.full(days, np.nan), networks={})
    ends = found.total[:, whole - 1]
    both = ~np.isnan(found.start) & ~np.isnan(ends) & (found.start > 0)
    start = found.start[both]
    gain = ends[both] - start
    networks: dict[str, float | None] = {}
    for network in sorted(set(found.networks)):
        own = np.array([n == network for n in found.networks])[both]
        if own.any():
            networks[network] = float(gain[own].sum() / start[own].sum())
    above, below = float(gain.sum()), float(start.sum())
    course = (found.total[both] - start[:, None]).sum(axis=0) / below if below else np.full(days, np.nan)
    figure = Figure(
        value=above / below if below else None, n=int(both.sum()), missing=int((~both).sum()), numerator=above,
        denominator=below,
    )  # fmt: skip
    return _Course(figure=figure, days=course, networks=networks)


def _sums(parts: Names, days: int) -> dict[str, float]:
    """What is known of the first days, added up."""
    known = {name: course[:days] for name, course in parts.items()}
    return {name: float(np.nansum(course)) for name, course in known.items() if (~np.isnan(course)).any()}


def _value(metric: Metric, sums: dict[str, float]) -> float | None:
    made = float(evaluate(metric.read.tree, {name: np.asarray(total) for name, total in sums.items()}))
    return None if made != made else made
