"""Own and competitor profiles side by side."""

from typing import Any

import numpy as np
from dakika_core.competitors.standing import Standing, standing_of

from dakika_server.figures.study import Study
from dakika_server.results import queries


def standings_of(study: Study) -> list[tuple[Any, Standing]]:
    """Each profile of the study with its standing; three queries whatever the number of profiles."""
    followers = queries.followers_in(study, study.period, has_gains=False)
    rows = queries.measures_in(study, study.period)
    posts: dict[int, list[tuple[float, float]]] = {}
    for profile_id, interactions, at_publishing in rows.values_list("profile_id", "interactions", "followers"):
        entry = (np.nan if interactions is None else interactions, np.nan if at_publishing is None else at_publishing)
        posts.setdefault(profile_id, []).append(entry)
    found = []
    for i, profile in enumerate(study.profiles):
        table = np.array(posts.get(profile.pk, []), dtype=float).reshape(-1, 2)
        known = followers.total[i][~np.isnan(followers.total[i])]
        start = followers.start[i]
        standing = standing_of(
            interactions_at_age=table[:, 0],
            followers_at_publishing=table[:, 1],
            posts=len(table),
            days=study.period.days,
            followers_start=None if start != start else float(start),
            followers_end=float(known[-1]) if len(known) else None,
        )
        found.append((profile, standing))
    return found
