"""Who is on which network, and is it worth being there?"""

from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np
from dakika_core.competitors.field import PUBLIC, ProfileSums, Sums
from dakika_core.values.figure import Figure
from django.db.models import Max, Min

from dakika_server.competitors.field import Member, known_days, members_of, of_whole, sums_in
from dakika_server.competitors.standings import total_of
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import all_networks, is_in_reach, network_name
from dakika_server.sources.models import Post

# Who has published nothing for so long has left, as far as one can see.
SILENT = timedelta(days=60)
COLUMNS = ("followers", "posts_per_week", "interactions_per_week", "interactions_per_post", "interactions_per_1000")


@dataclass(frozen=True, kw_only=True)
class There:
    """A member on a network. share: its part of the interactions of all members there. first and last: its posts.

    entered: its first post, where its history is known whole and begins within the period; left: its last, where it
    has been silent for sixty days and its profile is still collected.
    """

    member: Member
    sums: Sums
    followers: Figure
    posts_per_week: Figure
    share: float | None
    first: datetime | None
    last: datetime | None
    entered: date | None
    left: date | None


@dataclass(frozen=True, kw_only=True)
class Network:
    """A network as the set uses it. figures: by COLUMNS over the others alone, so that it can be told of networks where
    we are not; ours: the same of us. posts_each: posts a week of an average member there: how hard it is worked.
    """

    key: str
    name: str
    members: list[There]
    figures: dict[str, Figure]
    ours: dict[str, Figure] | None
    audience: float | None
    posts_each: float | None
    others: int


def presence_of(study: Study) -> list[Network]:
    """Networks by the others' interactions a week, the most first. Those that nobody uses are left out."""
    known = known_days(study)
    sums = sums_in(study, study.period, known, ["measured", "paired"])
    ends = {
        pk: (first, last)
        for pk, first, last in Post.objects.filter(profile__in=study.profile_ids)
        .values_list("profile_id").annotate(Min("published_at"), Max("published_at"))
    }  # fmt: skip
    found, everybody = [], members_of(study)
    for key in dict.fromkeys(p.network for p in study.profiles):
        members = [_narrow(member, key) for member in everybody if key in member.networks]
        rows = of_whole(study, members, sums)
        totals = np.array([total_of(row)[0] for row in rows])
        whole = float(np.nansum(totals))
        there = [
            _there(study, member, row, None if np.isnan(total) or not whole else float(total) / whole, ends)
            for member, row, total in zip(members, rows, totals, strict=True)
        ]  # fmt: skip
        found.append(_network(key, there, _of_others(study, key, sums)))
    return sorted(found, key=lambda n: (-(n.figures["interactions_per_week"].value or 0.0), n.name))


def _narrow(member: Member, network: str) -> Member:
    inner = tuple(p for p in member.profiles if p.network == network)
    return Member(key=f"{member.key}@{network}", name=member.name, is_own=member.is_own, profiles=inner,
                  competitor=member.competitor)  # fmt: skip


def _there(
    study: Study, member: Member, sums: Sums, share: float | None, ends: dict[int, tuple[datetime, datetime]]
) -> There:
    told = [ends[p.pk] for p in member.profiles if p.pk in ends]
    first, last = (min(f for f, _ in told), max(t for _, t in told)) if told else (None, None)
    zone = study.brand.zone
    is_whole = all(p.history_done_at is not None for p in member.profiles)
    entered = first.astimezone(zone).date() if first and is_whole else None
    silent = last and last.astimezone(zone).date() < study.today - SILENT
    return There(
        member=member, sums=sums, followers=PUBLIC["followers"].of(sums),
        posts_per_week=PUBLIC["posts_per_week"].of(sums), share=share, first=first, last=last,
        entered=entered if entered and entered >= study.period.first else None,
        left=last.astimezone(zone).date() if last and silent else None,
    )  # fmt: skip


def _of_others(study: Study, network: str, sums: ProfileSums) -> Sums:
    """All profiles of others on a network as one."""
    others = [i for i, p in enumerate(study.profiles) if p.network == network and p.kind != "own"]
    return sums.of([others])[0][0] if others else Sums(posts=0, days=0)


def _network(key: str, there: list[There], whole: Sums) -> Network:
    others = [one for one in there if not one.member.is_own]
    own = [one for one in there if one.member.is_own]
    pace = PUBLIC["posts_per_week"].of(whole).value
    return Network(
        key=key, name=network_name(key), members=sorted(there, key=lambda o: -(o.share or 0.0)), others=len(others),
        figures={column: PUBLIC[column].of(whole) for column in COLUMNS},
        ours={column: PUBLIC[column].of(own[0].sums) for column in COLUMNS} if own else None,
        audience=PUBLIC["followers"].of(whole).value,
        posts_each=pace / len(others) if pace is not None and others else None,
    )  # fmt: skip


def unused(study: Study) -> list[str]:
    """Networks with public profiles that nobody of the set is on, by name."""
    used = {p.network for p in study.profiles}
    return [
        one.name
        for key, one in all_networks().items()
        if key not in used and one.has_public_profiles and is_in_reach(key)
    ]
