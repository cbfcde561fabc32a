"""How a figure of one post is made, wherever one is told."""

import math
from collections.abc import Mapping

from dakika_core.metrics.basis import Part, Rule, total
from dakika_core.metrics.catalogue import Metric
from dakika_core.metrics.observed import INTERACTION_PARTS

from dakika_server.measures.models import PostMeasure


def post_parts(measure: PostMeasure, names: tuple[str, ...], catalogue: Mapping[str, Metric]) -> list[Part]:
    """Those numbers of a post at an age that are known."""
    found = {name: 1.0 if name == "posts" else getattr(measure, name) for name in names}
    return [
        Part(key=key, name=catalogue[key].name if key in catalogue else key.replace("_", " "), value=float(n))
        for key, n in found.items()
        if n is not None
    ]


def made_of(
    measure: PostMeasure, key: str, value: float | None, catalogue: Mapping[str, Metric]
) -> tuple[Rule, list[Part]] | None:
    """Interactions by kind, the index by its two; None for another figure, and where the parts do not give it.

    Of posts as last seen the index is held against the typical of another age, which is not kept beside it.
    """
    if value is None or key not in ("interactions", "index"):
        return None
    if key == "interactions":
        kinds = post_parts(measure, INTERACTION_PARTS, catalogue)
        return (Rule.SUM, kinds) if math.isclose(total(kinds), value, abs_tol=1e-9) else None
    two = post_parts(measure, ("interactions", "typical"), catalogue)
    gives = len(two) == 2 and two[1].value and math.isclose(two[0].value / two[1].value, value, rel_tol=1e-9)
    return (Rule.RATIO, two) if gives else None


def made_or_known(
    measure: PostMeasure, key: str, value: float | None, catalogue: Mapping[str, Metric]
) -> tuple[Rule, list[Part]]:
    """The same, and one number that was read where there is no more to tell."""
    known = [] if value is None else [Part(key=key, name="as it is known at this age", value=value)]
    return made_of(measure, key, value, catalogue) or (Rule.SUM, known)
