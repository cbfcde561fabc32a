"""A study as one sentence, the same on a screen, in a file and in a report."""

from collections.abc import Iterable
from datetime import date
from typing import Any

from dakika_core.values.choice import Choice

from dakika_server.brands.models import Campaign
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import network_name
from dakika_server.sources.models import Post

SHOWN = 3


def listed(names: Iterable[str], last: str = "and") -> str:
    """Names in a row: a, b and c."""
    *before, end = list(names) or [""]
    return f"{', '.join(before)} {last} {end}" if before else end


def _chosen(choice: Choice[Any], name: dict[Any, str], of: str = "") -> str:
    """A choice in words: "a or b", "neither a nor b"; what is not known by a name is told so."""
    words = [name.get(value, "something unknown") for value in choice.values]
    shown = [*words[:SHOWN], f"{len(words) - SHOWN} more"] if len(words) > SHOWN + 1 else words
    if choice.is_not:
        return f"not {of}{listed(shown, 'or')}"
    return f"{of}{listed(shown, 'or')}"


def narrowed_words(study: Study) -> list[str]:
    """What it asks of posts besides their profiles, each in a few words."""
    found = []
    if study.formats:
        found.append(_chosen(study.formats, {value: value.replace("_", " ") for value in study.formats.values}))
    if study.tags:
        tag: Any = Post._meta.get_field("post_tags").related_model._meta.get_field("tag").related_model
        names = dict(tag.objects.filter(brand=study.brand, pk__in=study.tags.values).values_list("pk", "name"))
        found.append(_chosen(study.tags, names, "tagged "))
    if study.campaigns:
        of = Campaign.objects.filter(brand=study.brand, pk__in=study.campaigns.values)
        found.append(_chosen(study.campaigns, dict(of.values_list("pk", "name")), "of "))
    if study.languages:
        found.append(_chosen(study.languages, {code: code for code in study.languages.values}, "in "))
    if study.is_boosted is not None:
        found.append("boosted" if study.is_boosted else "not boosted")
    return found


def profile_words(study: Study) -> str:
    """Whose posts are studied."""
    if study.profiles_asked:
        names = {p.pk: f"{p.name} on {network_name(p.network)}" for p in study.profiles}
        if not study.profiles_asked.is_not:
            return _chosen(Choice(tuple(names)), names).replace(" or ", " and ") if names else "no profile"
        return f"all profiles but {len(study.profiles_asked.values)}"
    if study.networks:
        of = {key: network_name(key) for key in study.networks.values}
        if study.networks.is_not:
            return f"all profiles but those on {listed(of.values())}"
        return listed(of.values())
    return "all profiles"


def span_words(first: date, last: date) -> str:
    """Days in words: 3 October 2026, 1 to 28 October 2026, 28 September to 4 October 2026."""
    end = f"{last.day} {last:%B} {last.year}"
    if first == last:
        return end
    if (first.year, first.month) == (last.year, last.month):
        return f"{first.day} to {end}"
    begin = f"{first.day} {first:%B}" + ("" if first.year == last.year else f" {first.year}")
    return f"{begin} to {end}"


def sentence(study: Study) -> str:
    """The study as one sentence without an end: "Studying Brevi and Pictor, not boosted, 1 to 28 October 2026, ..."."""
    parts = [
        profile_words(study), *narrowed_words(study), span_words(study.period.first, study.period.last),
        f"posts {study.age_words}", f"against {span_words(study.compared.first, study.compared.last)}",
    ]  # fmt: skip
    return f"Studying {', '.join(parts)}"
