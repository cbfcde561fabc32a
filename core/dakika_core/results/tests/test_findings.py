"""Promise: what is there is found and said with its evidence; on a world without effects hardly anything is said."""

from datetime import date, timedelta

import numpy as np
import pytest

from dakika_core.results.findings import (
    Statement,
    group_statements,
    ranked,
    spike_statements,
    times,
    trend_statements,
    unusual_statements,
    without_format,
)
from dakika_core.results.groups import compare_groups, indicators
from dakika_core.results.spikes import spikes_in

HELD = {"tag": "profile and format", "format": "profile", "weekday": "profile and format"}
FORMATS = ("text", "link", "image", "short_video")
START = date(2026, 6, 1)


class Brand:
    """Half a year of a brand's posts on three profiles; effects are zero unless given."""

    def __init__(self, seed: int, *, format_effect: float = 0.0, tag_effect: float = 0.0, late: float = 0.0,
                 days: int = 180) -> None:  # fmt: skip
        rng = np.random.default_rng(seed)
        self.days = days
        n = days * 2
        self.day = np.sort(rng.integers(0, days, n))
        self.profile = rng.integers(0, 3, n)
        self.format = rng.choice(FORMATS, n)
        self.tags = {f"tag {t}": rng.random(n) < 0.12 for t in range(8)}
        log = rng.normal(0, 0.5, n) + 0.3 * self.profile
        log += format_effect * (self.format == "short_video") + tag_effect * self.tags["tag 0"]
        log += late * (self.day >= days - 28)
        self.log = log
        self.received = np.bincount(self.day, np.exp(log) * 100, minlength=days) * rng.lognormal(0, 0.15, days)

    def statements(self, today: int) -> list[Statement]:
        """What would be said on a day, as the server asks for it."""
        seen = (self.day <= today) & (self.day > today - 90)
        index = np.exp(self.log - 0.3 * self.profile)[seen]
        cells = indicators([f"{p}" for p in self.profile[seen]])
        formats = indicators(list(self.format[seen]))
        groupings = {
            "tag": compare_groups(index, {k: v[seen] for k, v in self.tags.items()}, np.column_stack([cells, formats])),
            "format": compare_groups(index, {f: self.format[seen] == f for f in FORMATS}, cells),
            "weekday": compare_groups(
                index, {str(d): self.day[seen] % 7 == d for d in range(7)}, np.column_stack([cells, formats])
            ),
        }  # fmt: skip
        first = max(0, today - 90)
        spikes = [
            ("Interactions", START + timedelta(days=first + s.at), s.value, s.level, s.z)
            for s in spikes_in(self.received[first : today + 1])
            if first + s.at > today - 28
        ]
        trends, unusual = {}, {}
        for p in range(3):
            own = (self.profile == p) & (self.day <= today) & (self.day > today - 118)
            left = without_format(self.log[own], list(self.format[own]))
            recent = self.day[own] > today - 28
            trends[f"profile {p}"] = (left[recent], left[~recent])
            new = self.day[own] > today - 7
            unusual[f"profile {p}"] = (left, left[new], list(np.flatnonzero(own)[new]))
        said = [*group_statements(groupings, HELD), *spike_statements(spikes)]
        return ranked([*said, *trend_statements(trends), *unusual_statements(unusual)])  # fmt: skip


def test_without_effects_fewer_than_one_day_in_ten_shows_a_finding() -> None:
    brands = [Brand(seed) for seed in range(40)]
    days = [bool(brand.statements(today)) for brand in brands for today in range(120, 180, 12)]
    assert np.mean(days) < 0.1


def test_a_format_and_a_tag_that_do_better_are_found() -> None:
    said = {s.subject: s for s in Brand(3, format_effect=0.5, tag_effect=0.6).statements(170)}
    assert {"format:short_video", "tag:tag 0"} <= set(said)
    tag = said["tag:tag 0"]
    assert tag.text.startswith("Posts tagged tag 0 do 1.")
    assert "profile and format held the same" in tag.detail
    assert tag.evidence["low"] <= np.exp(0.6) <= tag.evidence["high"]


def test_a_trend_is_found_and_named() -> None:
    said = [s for s in Brand(5, late=-0.5).statements(179) if s.kind == "trend"]
    assert said
    assert all("do less well" in s.text and s.size < 0 for s in said)


def test_posts_that_never_differ_have_no_trend() -> None:
    same = np.full(40, 3.0)
    assert trend_statements({"flat": (same, same), "step": (same + 1, same)}) == []


def test_a_day_far_out_is_said_with_its_usual() -> None:
    day = date(2026, 10, 31)
    after = day + timedelta(days=1)
    (said,) = spike_statements([
        ("Reach", day, 9000.0, 2000.0, 7.0), ("Reach", after, 6400.0, 2000.0, 5.9), ("Interactions", day, 90.0, 9.0, 6.1),
    ])  # fmt: skip
    assert said.detail == "So did interactions. It went on from 31 October to 1 November."
    assert said.text == "Reach stood out on Saturday 31 October 2026: 9,000 against a usual 2,000"
    (dip,) = spike_statements([("Reach", day, 0.0, 2000.0, -8.0)])
    assert (dip.kind, dip.size < 0) == ("dip", True)


def test_a_post_far_out_is_named() -> None:
    rng = np.random.default_rng(1)
    logs = rng.normal(0, 0.4, 80)
    new = np.append(logs[-5:], np.log(12.0))
    (said,) = unusual_statements({"Orrery House": (logs, new, [1, 2, 3, 4, 5, 6])})
    assert said.posts == (6,)
    assert "12.00" in said.detail
    assert unusual_statements({"few": (logs[:5], new, [1, 2, 3, 4, 5, 6])}) == []
    assert unusual_statements({"same": (np.zeros(40), np.array([1.0]), [1])}) == []


def test_size_and_certainty_make_the_order() -> None:
    def said(size: float, certainty: float, subject: str) -> Statement:
        return Statement(kind="group", subject=subject, text="", size=size, certainty=certainty)

    found = ranked([said(0.2, 0.99, "b"), said(-0.7, 0.98, "a"), said(0.2, 0.99, "a2")])
    assert [s.subject for s in found] == ["a", "a2", "b"]


@pytest.mark.parametrize(("ratio", "words"), [(1.42, "1.4 times"), (0.7, "0.7 times"), (12.4, "12 times")])
def test_ratios_in_words(ratio: float, words: str) -> None:
    assert times(ratio) == words
