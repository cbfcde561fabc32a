"""Figures of like names beside one another: what each counts, why they differ, and where the other one stands."""

import itertools
from dataclasses import replace

from dakika_core.metrics.catalogue import CATALOGUE, Metric, Over
from dakika_core.values.choice import Choice
from django.db.models import Count, Q, Sum

from dakika_server.figures.footing import USUAL_AGE, age_words
from dakika_server.figures.kinds import Related
from dakika_server.figures.study import Study
from dakika_server.measures.models import LATEST
from dakika_server.networks.definitions import network_name
from dakika_server.results.queries import measures_in
from dakika_server.results.summary import summary_of
from dakika_server.shared.hooks import Hook

# Areas above tell of figures of theirs that are called like a metric: (study, metric) to what they have.
related_elsewhere: Hook[[Study, Metric], list[Related]] = Hook("figures of like names elsewhere")


def related_to(study: Study, metric: Metric) -> list[Related]:
    """The figures that somebody may take for this one, with their values in the same study."""
    found: list[Related] = []
    if metric.over is Over.RECEIVED and metric.of is None and len(metric.needs) == 1:
        found += _of_posts(study, metric)
    if metric.key == "clicks":
        why = "each click on our short links, counted here one by one; bots are left out"
        found.append(_metric(study, "tracked_clicks", why, "results/traffic"))
    if metric.key == "tracked_clicks":
        why = "what the networks count on any link in a post, some of them with bots"
        found.append(_metric(study, "clicks", why, "results?metric=clicks"))
        found += _of_the_other_side(study)
    return [*found, *itertools.chain(*related_elsewhere(study, metric))]


def _of_posts(study: Study, metric: Metric) -> list[Related]:
    """The same name over the posts published in the period: at equal age, and as they were last seen."""
    (name,) = metric.needs
    found = []
    usual = study.age_hours if study.age_hours != LATEST else USUAL_AGE
    for age, why in (
        (usual, "of the posts published in these days alone, all at one age, so that they can be compared"),
        (LATEST, "of the posts published in these days alone, with all that came to them until now"),
    ):
        row = measures_in(replace(study, age_hours=age), study.period).aggregate(
            total=Sum(name), n=Count("pk", filter=Q(**{f"{name}__isnull": False}))
        )
        found.append(
            Related(
                name=metric.name, counted=age_words(age), value=row["total"], why=f"{why}; {row['n']:,} posts",
                path=f"results/posts?age={age}",
            )
        )  # fmt: skip
    return found


def _metric(study: Study, key: str, why: str, path: str) -> Related:
    metric = CATALOGUE[key]
    (found,) = summary_of(study, [metric])
    return Related(name=metric.name, counted=metric.counted(study.age_words), value=found.now.value, why=why, path=path)


def _of_the_other_side(study: Study) -> list[Related]:
    """Links are made for a network; posts of a profile carry them: the two need not be the same links."""
    if study.profiles_asked is not None and len(study.profiles) == 1:
        network = study.profiles[0].network
        other = replace(study, profiles_asked=None, networks=Choice((network,)))
        why = (
            "every link made for the network, wherever it stands; here are those that this profile's posts carried last"
        )
        return [replace(_metric(other, "tracked_clicks", why, f"results/traffic?network={network}"),
                        counted=f"on links made for {network_name(network)}")]  # fmt: skip
    if study.networks is not None and study.networks.single and len(study.profiles) == 1:
        profile = study.profiles[0]
        why = "those that its posts carried last; here is every link made for the network, wherever it stands"
        other = replace(study, networks=None, profiles_asked=Choice((profile.pk,)))
        return [replace(_metric(other, "tracked_clicks", why, f"results/traffic?profile={profile.pk}"),
                        counted=f"in posts of {profile.name}")]  # fmt: skip
    return []
