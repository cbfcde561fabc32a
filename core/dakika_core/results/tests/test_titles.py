"""Promise: a chart states something only where the data carry it, and a basis puts the numbers in."""

from datetime import date, timedelta

import numpy as np

from dakika_core.metrics.catalogue import CATALOGUE
from dakika_core.results.basis import formula_of
from dakika_core.results.titles import course_title
from dakika_core.values.figure import Figure, change

DAYS = [date(2026, 3, 2) + timedelta(days=i) for i in range(28)]


def test_a_clear_lead_is_stated() -> None:
    title = course_title("Reach", DAYS, np.full(28, 15.0), np.full(28, 10.0))
    assert title.text == "Reach runs ahead of the comparison in every week"
    many = course_title("Interactions", DAYS, np.full(28, 5.0), np.full(28, 10.0))
    assert many.text == "Interactions run behind the comparison in every week"


def test_from_which_week_on() -> None:
    now = np.concatenate([np.full(7, 8.0), np.full(21, 15.0)])
    assert course_title("Reach", DAYS, now, np.full(28, 10.0)).text.endswith("from the second week on")


def test_noise_holes_and_small_differences_are_not_stated() -> None:
    assert not course_title("Reach", DAYS, np.full(28, 10.4), np.full(28, 10.0)).is_statement
    holes = np.full(28, 20.0)
    holes[5:20] = np.nan
    assert not course_title("Reach", DAYS, holes, np.full(28, 10.0)).is_statement
    assert not course_title("Reach", DAYS[:6], np.full(6, 20.0), np.full(6, 1.0)).is_statement


def test_the_formula_holds_the_numbers() -> None:
    figure = Figure(value=0.05, n=3, numerator=50, denominator=1000)
    assert formula_of(CATALOGUE["er_reach"], figure) == "50 ÷ 1,000 = 5 %"
    assert "missing" in formula_of(CATALOGUE["er_reach"], Figure(value=None))


def test_a_change_from_nothing_has_no_percentage() -> None:
    assert change(5, 0).relative is None
    assert change(5, None).difference is None
    assert change(6, 5).relative == 0.2
