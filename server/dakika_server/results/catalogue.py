"""The catalogue of a brand: ours, and the team's own metrics after it."""

from dakika_core.metrics.catalogue import CATALOGUE, Metric, team_metric, with_team
from dakika_core.metrics.formula import FormulaError

from dakika_server.results.models import OwnMetric

SHOWN_AT_FIRST = ("followers", "posts", "reach", "interactions", "er_reach", "clicks", "visits", "conversions")
MOST_SHOWN = 12


def catalogue_of(brand_id: int) -> dict[str, Metric]:
    """Every metric of a brand by key. A formula that no longer reads is left out."""
    team = {}
    for own in OwnMetric.objects.filter(brand_id=brand_id).order_by("name"):
        try:
            team[own.key] = team_metric(
                own.key, own.name, own.definition, own.formula, more_is_better=own.more_is_better
            )
        except FormulaError:  # pragma: no cover - formulas are checked when they are stored
            continue
    return with_team(team) if team else CATALOGUE


def chosen(catalogue: dict[str, Metric], wanted: str) -> list[Metric]:
    """The metrics of a list such as "reach,posts" that exist, once each; without any, those shown at first."""
    keys = [key for key in dict.fromkeys(wanted.split(",")) if key in catalogue] or list(SHOWN_AT_FIRST)
    return [catalogue[key] for key in keys[:MOST_SHOWN]]
