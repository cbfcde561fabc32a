"""The parts of figures that are worked out from a total, or told by one post of many."""

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Metric, Way
from dakika_core.values.figure import Figure

from dakika_server.figures.study import Study
from dakika_server.results import queries

MOST_WORDS = 60
_HELD = {
    Way.PER_DAY: (Rule.RATIO, "", "Days"),
    Way.SHARE: (Rule.RATIO, "what is studied", "all of the brand's own"),
    Way.CHANGE: (Rule.CHANGE, "this period", "the comparison period"),
}


def parts_by_way(study: Study, metric: Metric, figure: Figure) -> tuple[Rule, list[Part], str]:
    """What is done with which parts, and what a part is."""
    if metric.of is None:
        return _of_posts(study, metric)
    rule, of_above, below = _HELD[metric.way]
    if figure.numerator is None or figure.denominator is None:
        return rule, [], ""
    name = metric.of.name
    return rule, [
        Part(key="above", name=f"{name}, {of_above}" if of_above else name, value=figure.numerator),
        Part(key="below", name=f"{name}, {below}" if of_above else below, value=figure.denominator),
    ], "side"  # fmt: skip


def _of_posts(study: Study, metric: Metric) -> tuple[Rule, list[Part], str]:
    is_median = metric.way is Way.MEDIAN_POST
    found = queries.around_the_median(study, metric) if is_median else queries.the_best(study, metric)
    parts = [Part(key=str(post), name=_words(text), value=value) for post, text, value in found]
    return Rule.MEDIAN if is_median else Rule.LARGEST, parts, "post"


def _words(text: str) -> str:
    line = " ".join(text.split())
    if not line:
        return "a post without words"
    return line if len(line) <= MOST_WORDS else f"{line[: MOST_WORDS - 1].rstrip()}…"
