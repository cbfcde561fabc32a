"""Promise: every figure, of whichever kind, opens its basis, whose parts give its value; has a table; and a file."""

import csv
import io
import math
from typing import Any

import pytest
from dakika_server.figures.kinds import KINDS
from django.test import Client
from openpyxl import load_workbook

from figures.conftest import QUERY

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/figures"
# Each kind with what may be asked of it: every way that gives other cells.
ASKED: dict[str, list[dict[str, str]]] = {
    "results.course": [{"metrics": ",".join(keys)} for keys in (
        ("followers", "net_followers", "gained_followers", "lost_followers", "follower_growth", "posts",
         "posts_per_week", "reach", "impressions", "interactions", "er_reach", "ctr"),
        ("tracked_clicks", "visits", "conversions", "visit_rate", "conversion_rate", "er_followers",
         "interactions_per_1000", "interactions_per_post", "index", "saves", "applause", "daily_reach"),
    )],
    "results.posts": [{"columns": "reach,er_reach,saves,watch_time"}],
    "results.groups": [{"by": "format"}, {"by": "tag", "metric": "er_reach"}, {"by": "weekday", "metric": "reach"}],
    "results.audience": [{}],
    "results.difference": [{"metric": "interactions"}, {"metric": "er_reach"}, {"metric": "visits"}],
    "results.top": [
        {"metric": "reach"}, {"metric": "interactions", "limit": "24"}, {"metric": "er_reach", "end": "bottom"},
        {"metric": "index"}, {"metric": "interactions_per_1000"},
    ],
    "results.findings": [{}, {"limit": "20"}],
    "plan.calendar": [{"ahead": ahead} for ahead in ("this_week", "next_week", "two_weeks", "four_weeks")],
    "results.growth": [{}],
    "plan.boosts": [{}],
    "plan.hashtag": [{}],
    "competitors.best": [{}, {"limit": "24"}],
    "competitors.followers": [{}],
    "foresight.under_way": [{}],
    "plan.campaign": [{}],
    "foresight.calibration": [{}, {"of": "said"}],
    "timing.trials": [{}],
    "links.life": [{}, {"text": "Link 3"}],
    "links.clicks": [{}, {"text": "Link 3"}],
    "links.links": [{}],
    "links.spread": [{"dimension": d} for d in ("referrer", "device", "country", "reason", "network", "campaign")],
    "links.hours": [{}],
    "site.traffic": [{}],
    "site.funnel": [{"by": by} for by in ("network", "campaign", "post")],
    "site.attribution": [{"by": "channel"}, {"by": "campaign", "window": "7"}, {"by": "channel", "of": "value"}],
    "competitors.table": [{}, {"by": "profile"}],
    "competitors.band": [{"metric": "followers"}, {"metric": "interactions_per_1000", "by": "profile"}],
    "competitors.gap": [{}],
    "competitors.presence": [{}],
    "competitors.works": [{"by": by} for by in ("format", "topic", "hashtag")],
    "timing.hours": [{}],
    "timing.held": [{}],
}  # fmt: skip
STUDIES: list[dict[str, str]] = [
    {},
    {"network": "brevi,pictor", "boosted": "no"},
    {"format": "!image", "compare": "year_before"},
    {"network": "!brevi", "age": "24"},
]
# Of large sets not every cell is opened: so many in the plain study, and so many in each of the others.
MOST_OPENED, MOST_IN_OTHERS = 24, 6


@pytest.fixture(scope="module")
def client(world: Any) -> Client:
    from dakika_server.accounts.models import User

    client = Client()
    client.force_login(User.objects.earliest("pk"), backend="django.contrib.auth.backends.ModelBackend")
    return client


def cases() -> list[tuple[str, dict[str, str], dict[str, str]]]:
    return [(key, params, study) for key, every in ASKED.items() for params in every for study in STUDIES]


def test_no_kind_is_left_out() -> None:
    assert {*KINDS} == {*ASKED}


@pytest.mark.parametrize(("key", "params", "study"), cases())
def test_every_figure_opens_a_basis_whose_parts_give_it(
    client: Client, key: str, params: dict[str, str], study: dict[str, str]
) -> None:
    asked = {**QUERY, **params, **study}
    made = client.get(f"{BASE}/{key}", asked).json()
    assert made["cells"] or made["note"], "what cannot be told says why"
    assert made["study"].startswith("Studying ")
    most = MOST_IN_OTHERS if study else MOST_OPENED
    opened = [*made["cells"][:: max(1, len(made["cells"]) // most)], *made["cells"][: most // 6]]
    for cell in opened:
        told = client.get(f"{BASE}/{key}/basis", {**asked, "cell": cell["key"]}).json()
        assert told.get("definition"), (cell, told)
        assert_same(told["figure"]["value"], cell["now"]["value"], cell)
        if cell["now"]["value"]:
            assert told["parts"], (cell, told)
            assert_same(worked_out(told, key, cell["key"]), cell["now"]["value"], told)
        assert all(part["name"] for part in told["parts"]), told["parts"]
    assert len({cell["key"] for cell in made["cells"]}) == len(made["cells"]), "each has a key of its own"


def assert_same(found: float | None, wanted: float | None, about: Any) -> None:
    assert (found is None) == (wanted is None), (found, wanted, about)
    if found is not None and wanted is not None:
        assert math.isclose(found, wanted, rel_tol=1e-9, abs_tol=1e-9), (found, wanted, about)


def worked_out(told: dict[str, Any], kind: str, cell: str) -> float | None:
    """The value of the parts, reckoned here again: nothing of the server's own is asked but the formula's text."""
    values, weights = [p["value"] for p in told["parts"]], [p["weight"] for p in told["parts"]]
    match told["rule"]:
        case "sum":
            return sum(values)
        case "product":
            return math.prod(values)
        case "ratio":
            return float(values[0] / values[1]) if values[1] else None
        case "mean":
            return sum(v * w for v, w in zip(values, weights, strict=True)) / sum(weights)
        case "geometric_mean":
            logs = [w * math.log(v) for v, w in zip(values, weights, strict=True)]
            return math.exp(sum(logs) / sum(weights))
        case "formula":
            return by_formula(cell.rpartition(".")[2], {p["key"]: p["value"] for p in told["parts"]})
    raise AssertionError(told["rule"])


def by_formula(metric: str, sums: dict[str, float]) -> float | None:
    """The formulas of what is asked here, written out a second time (metrics.md's definitions)."""
    s = sums
    match metric:
        case "reach" | "interactions":
            return s[metric]
        case "er_reach":
            return s["interactions"] / s["reach"]
        case "er_impressions":
            return s["interactions"] / s["impressions"]
        case "ctr":
            return s["link_clicks"] / s["impressions"]
        case "visit_rate":
            return s["click_visits"] / s["tracked_clicks"]
        case "conversion_rate":
            return s["conversions"] / s["visits"]
        case "er_followers":
            return s["interactions"] / s["followers"]
        case "interactions_per_1000":
            return 1000 * s["interactions"] / s["followers"]
        case "interactions_per_post":
            return s["interactions"] / s["posts"]
        case "applause":
            return s["reactions"] / s["posts"]
        case "watch_time":
            return s["video_seconds"] / s["video_views"]
    raise AssertionError(metric)


@pytest.mark.parametrize(("key", "params"), [(key, every[0]) for key, every in ASKED.items()])
def test_every_kind_has_a_table_that_holds_its_figures(client: Client, key: str, params: dict[str, str]) -> None:
    asked = {**QUERY, **params}
    answer = client.get(f"{BASE}/{key}/table", asked)
    text = answer.getvalue().decode()
    mark, _, rest = text.partition("\r\n")
    assert mark.startswith(f"Dakika export,{key.partition('.')[0]}.")
    head, *rows = csv.reader(io.StringIO(rest.partition("\r\n\r\n")[0]))
    assert rows, text
    assert all(len(row) == len(head) for row in rows)
    assert "2026-09-28 to 2026-11-08" in text, "what was studied stands in the file"
    book = load_workbook(io.BytesIO(client.get(f"{BASE}/{key}/table", {**asked, "form": "xlsx"}).getvalue()))
    assert len(list(book.worksheets[0].iter_rows())) == len(rows) + 2


@pytest.mark.parametrize("key", [*ASKED])
def test_nobody_opens_what_is_not_there(client: Client, key: str) -> None:
    for cell in ("nothing", "1.nothing", "x.y.z", "999999.people", "\x00", "💶.share"):
        assert client.get(f"{BASE}/{key}/basis", {**QUERY, "cell": cell}).status_code == 400, cell
    assert client.get(f"{BASE}/{key}/basis", QUERY).status_code == 400
    assert client.get(f"{BASE}/{key}s", QUERY).status_code == 404
    assert client.get(f"{BASE.replace('orrery', 'lantern')}/{key}", QUERY).status_code == 404


def test_kinds_tell_what_they_ask_for(client: Client) -> None:
    told = {kind["key"]: kind["parameters"] for kind in client.get(BASE).json()}
    assert {*told} == {*KINDS}
    for key, every in ASKED.items():
        assert {name for params in every for name in params} <= {*told[key]}
