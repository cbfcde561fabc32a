"""What people did on the brands' sites in the past half-year: those who clicked, and those who came by themselves."""

from datetime import datetime, timedelta
from typing import Any

import numpy as np

from dakika_standins.world.clicks import AGENT_SHARES, AGENTS, PATHS, WorldLink, home_of
from dakika_standins.world.model import HISTORY_DAYS, World, seed_of

# Of those who click, how many wait for the page; on a slow page fewer do.
ARRIVE = 0.86
SLOW = {"school-mornings": 0.25}
# What is bought on which page: the truth that a test may look at.
GOALS: dict[str, dict[str, tuple[str, float, int]]] = {
    "orrery": {
        "tickets": ("thanks-tickets", 0.07, 1400), "night-openings": ("thanks-tickets", 0.05, 1800),
        "repaired-hour": ("thanks-tickets", 0.06, 1400), "membership": ("thanks-membership", 0.05, 4800),
        "sky-tonight": ("thanks-newsletter", 0.05, 0), "workshops": ("thanks-tickets", 0.03, 2500),
    },
    "lantern": {"book": ("thanks-booking", 0.06, 9600), "cabins": ("thanks-booking", 0.05, 14200),
                "timetable": ("timetable-saved", 0.2, 0)},
}  # fmt: skip
OWN_COMERS = {"orrery": 26, "lantern": 14}
# So many agreed to be remembered, and so often it is one of them.
PEOPLE, REMEMBERED = 2500, 0.45
RETURN_DAYS = 9.0


def visits_of(
    world: World, owner: str, links: list[tuple[WorldLink, list[dict[str, str]]]], now: datetime
) -> list[dict[str, Any]]:
    """Visits of one brand's site, in order of time.

    `person` is the same for visits of somebody who agreed to be remembered; `click` is (code, place) of the
    click that brought them, or None; `reached` names the page of a goal.
    """
    rng = np.random.default_rng(seed_of(world.seed, "visits", owner))
    found: list[dict[str, Any]] = []
    for link, clicks in links:
        if link.owner != owner:
            continue
        for i, click in enumerate(clicks):
            if click["country"] and rng.random() < SLOW.get(link.path, ARRIVE):
                at = datetime.fromisoformat(click["at"]) + timedelta(seconds=float(rng.uniform(1, 4)))
                found.append(
                    _visit(
                        rng,
                        owner,
                        link.path,
                        at,
                        click["agent"],
                        "",
                        (click["country"], click["language"]),
                        (link.code, i),
                    )
                )
    for day in range(HISTORY_DAYS):
        count = int(rng.poisson(OWN_COMERS[owner]))
        homes = home_of(owner, rng, count)
        for home in homes:
            at = now - timedelta(days=day, hours=float(rng.uniform(0, 24)))
            referrer = str(
                rng.choice(["", "https://search.example/", "https://portaldous.example/"], p=[0.5, 0.4, 0.1])
            )
            path = str(rng.choice(PATHS[owner]))
            found.append(_visit(rng, owner, path, at, str(rng.choice(AGENTS, p=AGENT_SHARES)), referrer, home, None))
    # Some come back by themselves within days, and then buy more often than others.
    for visit in [v for v in found if v["person"] and rng.random() < 0.35]:
        at = datetime.fromisoformat(visit["at"]) + timedelta(days=float(rng.exponential(RETURN_DAYS)) + 0.05)
        again = _visit(
            rng, owner, visit["page"], at, visit["agent"], "", (visit["country"], visit["language"]), None, eager=2.5
        )
        found.append(again | {"person": visit["person"]})
    rows = [v for v in found if datetime.fromisoformat(v["at"]) <= now]
    return sorted(rows, key=lambda v: v["at"])


def _visit(
    rng: np.random.Generator, owner: str, page: str, at: datetime, agent: str, referrer: str, home: tuple[str, str],
    click: tuple[str, int] | None, *, eager: float = 1.0,
) -> dict[str, Any]:  # fmt: skip
    goal = GOALS[owner].get(page)
    reached = bool(goal and rng.random() < goal[1] * eager)
    pages = [f"/sites/{'orreryhouse' if owner == 'orrery' else 'lanternline'}/{page}"]
    if goal and reached:
        pages.append(pages[0].rpartition("/")[0] + f"/{goal[0]}")
    return {
        "at": at.isoformat(), "seconds": int(rng.exponential(70)), "page": page, "pages": pages, "agent": agent,
        "referrer": referrer, "country": home[0], "language": home[1], "click": click,
        "person": f"{seed_of(owner, int(rng.integers(PEOPLE))):032x}" if rng.random() < REMEMBERED else "",
        "reached": goal[0] if goal and reached else "", "cents": goal[2] if goal and reached else 0,
    }  # fmt: skip
