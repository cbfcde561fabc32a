"""What is worth saying about these weeks, and how seldom would it be said by chance?

Each kind of statement has its share of the chance of a false alarm: together they stay under one
day in ten on a world without effects. Statements are ranked by size times certainty.

In the trade's words: insights, multiple testing, false discovery rate.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from dakika_core.results.groups import GroupResult, benjamini_hochberg
from dakika_core.results.spikes import MAD_TO_SD, tail_limit

Array = NDArray[np.float64]

# Chances of a false alarm by kind; days five deviations out are rarer than these.
GROUPS_ALPHA = 0.02
TRENDS_ALPHA = 0.015
UNUSUAL_ALPHA = 0.003
SPIKE_Z, SPIKE_ALPHA = 5.0, 0.002
# What is smaller than this is not worth an analyst's morning, however certain.
LEAST_GROUP = np.log(1.15)
LEAST_TREND = np.log(1.2)
LEAST_UNUSUAL = np.log(2.0)
FEWEST_IN_GROUP = 8
FEWEST_POSTS = 12
# Log values closer than this are the same: posts that never differ have no scatter to judge a trend by.
SAME = 1e-9


@dataclass(frozen=True, kw_only=True)
class Statement:
    """One statement: what it is about, in words, how large (log ratio) and how certain (0 to 1), and its posts.

    subject names what it is about, so that it is known again; it is unique within its kind.
    """

    kind: str
    subject: str
    text: str
    detail: str = ""
    size: float
    certainty: float
    posts: tuple[int, ...] = ()
    evidence: Mapping[str, object] = field(default_factory=dict)

    @property
    def weight(self) -> float:
        """Its place in the list."""
        return abs(self.size) * self.certainty


def times(ratio: float) -> str:
    """A ratio in words: 1.4 times, or 0.7 times."""
    return f"{ratio:.2g} times" if ratio < 10 else f"{ratio:.0f} times"


def group_statements(groupings: Mapping[str, Sequence[GroupResult]], held: Mapping[str, str]) -> list[Statement]:
    """Groups that differ from the other posts, over all groupings looked at together.

    The false discovery rate is bounded over all groups of all groupings at once (Benjamini and
    Hochberg 1995), since all of them were looked at. held: what the adjusted figures keep the same,
    in words, by grouping.
    """
    looked_at = [
        (by, group, group.adjusted or group.raw)
        for by, groups in groupings.items()
        for group in groups
        if group.n >= FEWEST_IN_GROUP and (group.adjusted or group.raw) is not None
    ]
    q = benjamini_hochberg(np.array([ratio.p for _, _, ratio in looked_at if ratio is not None]))
    found = []
    for (by, group, ratio), chance in zip(looked_at, q, strict=True):
        if ratio is None or chance > GROUPS_ALPHA or abs(np.log(ratio.value)) < LEAST_GROUP:
            continue
        kept = f", {held[by]} held the same" if group.adjusted and held.get(by) else ""
        low, high = ratio.interval.low, ratio.interval.high
        found.append(
            Statement(
                kind="group", subject=f"{by}:{group.name}",
                text=f"{called(by, group.name)} do {times(ratio.value)} as well as the others",
                detail=f"{ratio.value:.2f} ({low:.2f} to {high:.2f}) from {group.n} posts{kept}.",
                size=float(np.log(ratio.value)), certainty=float(1 - chance),
                evidence={"by": by, "name": group.name, "ratio": ratio.value, "low": low, "high": high, "n": group.n,
                          "raw": group.raw.value if group.raw else None},
            )
        )  # fmt: skip
    return found


def called(by: str, name: str) -> str:
    """What posts of a group are called in a sentence; those of none say so."""
    if name in ("in no campaign", "without a tag"):
        return f"Posts {name}"
    if by == "language" and name == "not said":
        return "Posts whose language is not said"
    return {
        "tag": f"Posts tagged {name}", "hashtag": f"Posts with {name}", "campaign": f"Posts of {name}",
        "weekday": f"{name} posts", "length": f"Posts of {name} characters", "language": f"Posts in {name}",
        "boosted": f"Posts that were {name}",
    }.get(by, f"{name.replace('_', ' ').capitalize()} posts")  # fmt: skip


DayOut = tuple[str, date, float, float, float]


def spike_statements(spikes: Sequence[DayOut]) -> list[Statement]:
    """Days far beyond their level: (metric, day, value, level, robust z) each, of all metrics together.

    The chance of one by luck is that of five standard deviations. What goes on for days in a row,
    or in several metrics at once, is one thing and said once: by the day and metric that lie farthest out.
    """
    far = [one for one in spikes if abs(one[4]) >= SPIKE_Z and one[3] > 0 and one[2] >= 0]
    found = []
    for run in _runs(far):
        metric, day, value, level, z = max(run, key=lambda one: (abs(one[4]), one[0]))
        also = sorted({one[0] for one in run} - {metric})
        days = sorted({one[1] for one in run})
        detail = f"So did {_listed([name.lower() for name in also])}. " if also else ""
        detail += f"It went on from {days[0]:%-d %B} to {days[-1]:%-d %B}. " if len(days) > 1 else ""
        found.append(
            Statement(
                kind="spike" if z > 0 else "dip", subject=day.isoformat(),
                text=f"{metric} {'stood out' if z > 0 else 'fell away'} on {day:%A} {day.day} {day:%B %Y}: "
                f"{value:,.0f} against a usual {level:,.0f}",
                detail=detail.strip(),
                size=float(np.log(max(value, 0.5) / level)), certainty=float(2 * NormalDist().cdf(abs(z)) - 1),
                evidence={"metric": metric, "day": day.isoformat(), "value": value, "level": level, "z": z,
                          "also": also},
            )
        )  # fmt: skip
    return found


def _runs(spikes: Sequence[DayOut]) -> list[list[DayOut]]:
    """Spikes, and dips, of days in a row: whatever the metric."""
    runs: list[list[DayOut]] = []
    for is_up in (True, False):
        last: date | None = None
        for one in sorted((s for s in spikes if (s[4] > 0) is is_up), key=lambda s: (s[1], s[0])):
            if last is None or (one[1] - last).days > 1:
                runs.append([])
            runs[-1].append(one)
            last = one[1]
    return runs


def _listed(names: Sequence[str]) -> str:
    return " and ".join(filter(None, [", ".join(names[:-1]), names[-1]]))


def trend_statements(profiles: Mapping[str, tuple[Array, Array]]) -> list[Statement]:
    """Profiles whose posts of the last weeks do otherwise than those before.

    profiles: name to (log values of the recent posts, of the earlier ones), format effects taken
    out. Welch's comparison, the false discovery rate bounded over the profiles.
    """
    from scipy.stats import ttest_ind

    known = {
        name: (recent, earlier)
        for name, (recent, earlier) in profiles.items()
        if len(recent) >= FEWEST_POSTS
        and len(earlier) >= FEWEST_POSTS
        and np.ptp(earlier) > SAME
        and np.ptp(recent) > SAME
    }
    tests = {name: ttest_ind(recent, earlier, equal_var=False) for name, (recent, earlier) in known.items()}
    q = benjamini_hochberg(np.array([float(t.pvalue) for t in tests.values()]))
    found = []
    for (name, (recent, earlier)), chance in zip(known.items(), q, strict=True):
        size = float(recent.mean() - earlier.mean())
        if not chance <= TRENDS_ALPHA or abs(size) < LEAST_TREND:
            continue
        limits = tests[name].confidence_interval(0.95)
        word = "do better" if size > 0 else "do less well"
        low, high = np.exp(limits.low), np.exp(limits.high)
        found.append(
            Statement(
                kind="trend", subject=name, text=f"Posts of {name} {word} than in the months before",
                detail=f"{np.exp(size):.2f} times ({low:.2f} to {high:.2f}), "
                f"{len(recent)} posts against {len(earlier)}, formats held the same.",
                size=size, certainty=float(1 - chance),
                evidence={"ratio": float(np.exp(size)), "low": float(low), "high": float(high), "n": len(recent)},
            )
        )  # fmt: skip
    return found


def unusual_statements(profiles: Mapping[str, tuple[Array, Array, Sequence[int]]]) -> list[Statement]:
    """Posts of the last days that lie far outside of what their profile's posts do.

    profiles: name to (log indices of all its posts, log indices of the new ones, numbers of the new
    ones). A post counts when its distance in robust standard deviations is beyond what the largest
    of all new posts would reach by chance, and it is at least twice or half of typical.
    """
    from scipy.special import stdtr

    many = sum(len(new) for _, new, _ in profiles.values())
    found = []
    for name, (logs, new, numbers) in profiles.items():
        if len(logs) < FEWEST_POSTS:
            continue
        middle = float(np.median(logs))
        scale = MAD_TO_SD * float(np.median(np.abs(logs - middle)))
        if scale <= 0:
            continue
        # The scale is an estimate itself: a median absolute deviation of n values knows about a third of n.
        freedom = max(3.0, 0.37 * len(logs))
        for log, number in zip(new, numbers, strict=True):
            size = float(log) - middle
            chance = many * 2 * float(stdtr(freedom, -abs(size) / scale))
            if chance > UNUSUAL_ALPHA or abs(size) < LEAST_UNUSUAL:
                continue
            # Where posts go viral now and then, one more is no news.
            others = np.sign(size) * (np.delete(logs, int(np.argmin(np.abs(logs - log)))) - middle) / scale
            if abs(size) / scale < tail_limit(others, many=many, alpha=UNUSUAL_ALPHA):
                continue
            word = "far above" if size > 0 else "far below"
            found.append(
                Statement(
                    kind="unusual", subject=str(number), text=f"A post of {name} lies {word} its typical",
                    detail=f"Its index is {np.exp(float(log)):.2f}; {len(logs)} posts of the profile were looked at.",
                    size=size, certainty=1 - chance, posts=(number,),
                    evidence={"index": float(np.exp(float(log))), "profile": name},
                )
            )  # fmt: skip
    return found


def ranked(statements: Sequence[Statement]) -> list[Statement]:
    """The heaviest first; equal ones by name, so that the order does not jump about."""
    return sorted(statements, key=lambda s: (-s.weight, s.kind, s.subject))


def without_format(logs: Array, formats: Sequence[str]) -> Array:
    """Log values with the mean of their format taken out: shape (n,)."""
    left = logs.astype(float).copy()
    names = np.array(formats)
    for name in set(formats):
        left[names == name] -= logs[names == name].mean()
    return left
