"""One period of a study: everything that its metrics are worked out from, asked for once."""

from dataclasses import dataclass, field, replace

import numpy as np
from dakika_core.metrics.catalogue import AddsUp, Metric, Over
from dakika_core.metrics.formula import evaluate
from dakika_core.metrics.metric import OF_ONE_POST
from dakika_core.values.figure import Figure
from dakika_core.values.period import Period

from dakika_server.figures.study import Study
from dakika_server.results import queries
from dakika_server.results.brought import brought_in, told_together
from dakika_server.results.expressions import cell
from dakika_server.results.queries import Array

DAYS_A_WEEK = 7
Names = dict[str, Array]


@dataclass(frozen=True, kw_only=True)
class Course:
    """One metric in one period. Figures, networks and sums are of its days that are over, the course of all."""

    figure: Figure
    days: Array
    networks: dict[str, float | None]
    sums: dict[str, float] = field(default_factory=dict)
    placed: int = 0
    weights: dict[str, float] = field(default_factory=dict)
    of_no_network: float = 0.0


class Side:
    """Everything about one of the two periods, asked for once; figures are of its first `whole` days."""

    def __init__(self, study: Study, period: Period, metrics: list[Metric], whole: int) -> None:
        self.study, self.period, self.whole = study, period, whole
        overs = {metric.over for metric in metrics}
        keys = {metric.key for metric in metrics}
        has_daily = keys & set(queries.DAILY)
        self.daily = queries.daily_of_profiles(study, period) if has_daily else {}
        has_followers = keys & {"followers", "net_followers", "gained_followers", "lost_followers", "follower_growth"}
        self.received = queries.received(study, period) if Over.RECEIVED in overs else {}
        of_one = [metric for metric in metrics if metric.way in OF_ONE_POST]
        self.singled = queries.singled_out(study, period, of_one, max(1, whole)) if of_one else {}
        of_posts = [metric for metric in metrics if metric.over is Over.PUBLISHED and metric.way not in OF_ONE_POST]
        self.published = queries.published(study, period, of_posts) if of_posts else None
        counted = {name for metric in metrics if metric.over is Over.BROUGHT for name in metric.needs}
        self.brought = brought_in(study, period, counted) if counted else {}
        self.levels = {key: queries.levels_in(study, period, key) for key in keys & set(queries.LEVELS)}
        wants_posts = keys & {"posts", "posts_per_week"}
        self.posts = queries.posts_by_day(study, period, self.received) if wants_posts else {}
        has_gains = bool(keys & {"net_followers", "gained_followers", "lost_followers"})
        self.followers = queries.followers_in(study, period, has_gains=has_gains) if has_followers else None

    def course(self, metric: Metric) -> Course:
        """A metric in this period."""
        made = self._course(metric)
        return made if self.whole else replace(made, figure=Figure(value=None), networks={}, sums={})

    def _course(self, metric: Metric) -> Course:
        if metric.over is Over.RECEIVED:
            return self._received(metric)
        if metric.way in OF_ONE_POST:
            return self._single(metric)
        if metric.over is Over.PUBLISHED:
            return self._index() if metric.key == "index" else self._published(metric)
        if metric.over is Over.BROUGHT:
            return self._brought(metric)
        return self._profile(metric)

    def _received(self, metric: Metric) -> Course:
        above, below = metric.numerator, metric.denominator
        of = {name: name for name in metric.needs}
        if above and below:
            of = {above: f"{above}_with_{below}", below: f"{below}_with_{above}"}
        parts = {
            network: {name: course[column] for name, column in of.items()} for network, course in self.received.items()
        }
        placed = int(sum(np.nansum(course["placed"][: self.whole]) for course in self.received.values()))
        return replace(self._put_together(metric, parts), placed=placed)

    def _brought(self, metric: Metric) -> Course:
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

    def _published(self, metric: Metric) -> Course:
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

    def _single(self, metric: Metric) -> Course:
        """The median or the best post."""
        found = self.singled[metric.key]
        days = np.array([found.days.get(day, np.nan) for day in self.period.dates()])
        figure = Figure(value=found.overall, n=found.n, missing=found.posts - found.n)
        return Course(figure=figure, days=days, networks=dict(found.networks))

    def _put_together(
        self, metric: Metric, parts: dict[str, Names], *, n: int | None = None, missing: int = 0
    ) -> Course:
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
        return Course(
            figure=figure, days=np.asarray(evaluate(metric.read.tree, days)), networks=networks,
            sums=sums if is_whole else {},
        )  # fmt: skip

    def _index(self) -> Course:
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
        return Course(
            figure=Figure(value=value, n=n_all, missing=posts - n_all), days=by_day, networks=networks, weights=weights
        )

    def _profile(self, metric: Metric) -> Course:
        if metric.key in ("posts", "posts_per_week"):
            return self._post_counts(metric.key == "posts_per_week")
        if metric.key in queries.DAILY:
            return self._daily(metric)
        if metric.key in self.levels:
            return self._level(self.levels[metric.key])
        assert self.followers is not None
        found = self.followers
        if metric.key == "followers":
            return self._level(found)
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
        return Course(figure=figure, days=by_day, networks={})

    def _daily(self, metric: Metric) -> Course:
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
        return Course(figure=figure, days=days, networks=networks)

    def ended_days(self) -> int:
        """How many days of those counted have come."""
        return max(0, min(self.whole, (self.study.today - self.period.first).days + 1))

    def _post_counts(self, is_per_week: bool) -> Course:  # noqa: FBT001
        counts = np.sum([np.zeros(self.period.days), *self.posts.values()], axis=0)
        weeks = max(1, self.whole) / DAYS_A_WEEK if is_per_week else 1.0
        total = float(counts[: self.whole].sum())
        if not total and not queries.reaches_back_to(self.study, self.period):
            return Course(figure=Figure(value=None), days=np.full(self.period.days, np.nan), networks={})
        figure = Figure(
            value=total / weeks, n=int(total), numerator=total if is_per_week else None,
            denominator=weeks if is_per_week else None,
        )  # fmt: skip
        networks: dict[str, float | None] = {
            name: float(course[: self.whole].sum()) / weeks for name, course in self.posts.items()
        }
        days = np.full(self.period.days, np.nan) if is_per_week else counts
        return Course(figure=figure, days=days, networks=networks)

    def _level(self, found: queries.Followers | queries.Levels) -> Course:
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
        return Course(figure=figure, days=queries.summed(list(found.total), self.period.days), networks=networks)


def _growth(found: queries.Followers, days: int, whole: int) -> Course:
    """Growth over the profiles that have a start and an end."""
    if not len(found.total):
        return Course(figure=Figure(value=None), days=np.full(days, np.nan), networks={})
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
    return Course(figure=figure, days=course, networks=networks)


def _sums(parts: Names, days: int) -> dict[str, float]:
    """What is known of the first days, added up."""
    known = {name: course[:days] for name, course in parts.items()}
    return {name: float(np.nansum(course)) for name, course in known.items() if (~np.isnan(course)).any()}


def _value(metric: Metric, sums: dict[str, float]) -> float | None:
    made = float(evaluate(metric.read.tree, {name: np.asarray(total) for name, total in sums.items()}))
    return None if made != made else made
