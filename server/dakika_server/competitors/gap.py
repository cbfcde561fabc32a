"""The gap between us and a competitor, or the set's middle: on which factor, and what would close it."""

from dataclasses import dataclass, replace
from datetime import timedelta

from dakika_core.competitors.field import Sums, in_a_row
from dakika_core.competitors.gap import FACTORS, Gap, Product, gap_between, middle_of, product_of

from dakika_server.competitors.field import (
    Bins,
    Member,
    known_days,
    members_of,
    of_members,
    of_whole,
    sums_by_bin,
    sums_in,
)
from dakika_server.figures.study import Study
from dakika_server.shared.errors import field_errors

MIDDLE = "middle"
QUARTER_WEEKS, LOOKED_BACK_WEEKS = 13, 52
NAMES = {
    "audience": "audience of a post", "posts": "posts a week", "reaction": "reaction per post and follower",
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class GapAgainst:
    """A gap with both sides. against: the key asked for. products: everybody's week. problem: why it cannot be split.

    best_quarter: our best thirteen weeks of the last year by factor. own_followers: of all our profiles, which a target
    for the audience goes by.
    """

    against: str
    name: str
    gap: Gap | None
    problem: str
    members: list[tuple[Member, Product | None]]
    best_quarter: dict[str, float]
    posts: tuple[int, int]
    own_followers: float | None


def gap_of(study: Study, against: str = MIDDLE) -> GapAgainst:
    """Split the gap. Raises a field error for somebody who is not in the set; a fixed number of queries."""
    members = members_of(study)
    known = known_days(study)
    every = of_whole(study, members, sums_in(study, study.period, known, ["paired"]))
    products = [(member, product_of(sums)) for member, sums in zip(members, every, strict=True)]
    us = next((i for i, m in enumerate(members) if m.is_own), None)
    them = next((i for i, m in enumerate(members) if m.key == against and not m.is_own), None)
    if against != MIDDLE and them is None:
        raise field_errors({"against": "This competitor is not in the set. Choose another."})
    others = [product for member, product in products if not member.is_own and product]
    name = "the middle of the set" if them is None else members[them].name
    theirs = middle_of(others) if them is None else products[them][1]
    ours = products[us][1] if us is not None else None
    problem = _problem(name, ours, theirs, has_us=us is not None)
    best = _best_quarter(study, members[us]) if us is not None and not problem else {}
    field = [product for i, (member, product) in enumerate(products) if not member.is_own and product and i != us]
    gap = gap_between(ours, theirs, field=field, best_quarter=best) if ours and theirs and not problem else None
    return GapAgainst(
        against=against, name=name, gap=gap, problem=problem, members=products, best_quarter=best,
        posts=(_paired(every, us), _paired(every, them)), own_followers=None if us is None else every[us].followers,
    )  # fmt: skip


def _paired(every: list[Sums], i: int | None) -> int:
    return 0 if i is None else round(every[i].paired)


def _problem(name: str, ours: Product | None, theirs: Product | None, *, has_us: bool) -> str:
    if not has_us:
        return "None of our own profiles is in this set, so there is no gap to split."
    if ours is None:
        return "We published nothing in this period whose reactions and followers are known. Choose a longer period."
    if theirs is None:
        return f"Of {name} nothing is known in this period that could be split. Choose a longer period or another."
    return ""


def _best_quarter(study: Study, us: Member) -> dict[str, float]:
    """Our best of each factor over any thirteen weeks of the year up to the period's end."""
    own = replace(study, profiles=us.profiles)
    end = study.period.last + timedelta(days=1)
    firsts = tuple(end - timedelta(weeks=LOOKED_BACK_WEEKS - i) for i in range(LOOKED_BACK_WEEKS))
    sums = sums_by_bin(own, Bins(firsts=firsts, days=7), known_days(own), ["paired"])
    (weeks,) = of_members(own, [us], sums)
    best: dict[str, float] = {}
    for i in range(LOOKED_BACK_WEEKS - QUARTER_WEEKS + 1):
        window = weeks[i : i + QUARTER_WEEKS]
        if any(week.days < 7 for week in window):
            continue
        product = product_of(in_a_row(window))
        for name, value in zip(FACTORS, product.factors(), strict=True) if product else ():
            best[name] = max(best.get(name, 0.0), value)
    return best


def gap_words(found: GapAgainst) -> str:
    """The gap as a sentence, which calls nothing the cause that may be chance."""
    gap = found.gap
    if gap is None:
        return found.problem
    behind = gap.difference > 0
    whole = f"{abs(gap.difference):,.0f} interactions a week {'fewer' if behind else 'more'} than {found.name}"
    reaction = gap.levers[-1].interval
    rest = gap.difference - gap.levers[-1].part
    if reaction and rest + reaction.low <= 0 <= rest + reaction.high:
        whole += ", which may be chance"
    pulls = sorted(gap.levers, key=lambda lever: -lever.part if behind else lever.part)
    main = pulls[0]
    if main.interval and main.interval.low <= 0 <= main.interval.high:
        return f"We get {whole}; the largest part is {NAMES[main.factor]}, but that may be chance"
    side = "behind" if behind else "ahead"
    return f"We get {whole}: above all by {NAMES[main.factor]}, where we are {side} by {abs(main.part):,.0f} a week"
