"""Promise: posts are grouped by the words they open with, in any script, and an opening that does nothing is rarely claimed."""

from typing import Any

import numpy as np
import pytest
from dakika_core.results.groups import compare_groups, indicators

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import fill, make_profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
TEXTS = (
    "Night opening: the house stays open", "night  OPENING, again", "#Night-opening tonight", "\U0001f319 Night opening!",
    "Ωρολόγιο πύργου και φως", "«Ωρολόγιο» πύργου", "One", "", "https://orrery.example/a",
)  # fmt: skip


def test_the_first_two_words_whatever_stands_around_them(editor: Any, client_of: Any, brand: Brand) -> None:
    fill(make_profile(brand), 90, lambda i: {"text": TEXTS[i % len(TEXTS)]})
    said = client_of(editor).get(f"{BASE}/groups?by=opening&first=2026-01-01&last=2026-12-31").json()["groups"]
    found = {group["name"]: group["n"] for group in said}
    assert found["“night opening …”"] >= 30
    assert sum(n for name, n in found.items() if "πύργου" in name) == 20
    assert found["fewer than two words"] == 20
    assert found["“https orrery …”"] == 10


def test_in_a_world_where_openings_do_nothing_hardly_any_is_claimed() -> None:
    """300 worlds of 240 posts with 18 openings each; false discoveries are held to 5 % (Benjamini and Hochberg)."""
    rng = np.random.default_rng(18)
    claimed = 0
    for _ in range(300):
        index = rng.lognormal(0, 0.6, 240)
        opening = rng.choice(18, 240, p=np.arange(18, 0, -1) / 171)
        profiles = indicators([str(one) for one in rng.integers(0, 4, 240)])
        groups = compare_groups(index, {str(one): opening == one for one in range(18)}, profiles)
        claimed += any(group.verdict in ("better", "worse") for group in groups)
    # At most 5 % of worlds, and what chance adds to that in 300 of them (three standard errors).
    assert claimed <= 300 * (0.05 + 3 * (0.05 * 0.95 / 300) ** 0.5)


def test_an_opening_that_does_something_is_found() -> None:
    rng = np.random.default_rng(19)
    found = 0
    for _ in range(100):
        opening = rng.choice(10, 240)
        index = rng.lognormal(0, 0.6, 240) * np.where(opening == 3, 1.8, 1.0)
        groups = compare_groups(index, {str(one): opening == one for one in range(10)}, np.ones((240, 1)))
        found += next(group for group in groups if group.name == "3").verdict == "better"
    assert found >= 85
