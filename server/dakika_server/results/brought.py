"""What links and the brand's own site brought. They stand above, and answer `brought`."""

import numpy as np
from dakika_core.metrics.catalogue import Metric
from dakika_core.metrics.rates import wilson_interval
from dakika_core.values.figure import Figure
from dakika_core.values.period import Period

from dakika_server.results.queries import Array, Courses
from dakika_server.results.study import Study
from dakika_server.shared.hooks import Hook

# Network to name to shape (days,): NaN before anything of its kind was counted and after today. "" is no network.
brought: Hook[[Study, Period], Courses] = Hook("what came of posts by network and day")


def brought_in(study: Study, period: Period) -> Courses:
    """Clicks, visits and conversions by network and day."""
    found: Courses = {}
    for courses in brought(study, period):
        for network, course in courses.items():
            found.setdefault(network, {}).update(course)
    return found


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
