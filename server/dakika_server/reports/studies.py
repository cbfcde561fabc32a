"""What a report's figures are of: its own study, or that of a figure, with days that move with today."""

from datetime import date, datetime
from typing import Any

from dakika_core.reports.spans import span_days

from dakika_server.brands.models import Brand
from dakika_server.figures.kinds import FigureKind
from dakika_server.figures.making import study_for
from dakika_server.figures.study import Study
from dakika_server.reports.serializers.content import ReportStudySerializer

USUAL_SPAN = "last_28"
DAYS = ("span", "first", "last")


def asked_of(report_study: dict[str, str], item_study: dict[str, str] | None) -> dict[str, str]:
    """What an item is asked of: its own study, with the report's days where it names none; else the report's."""
    if item_study is None:
        return report_study
    if any(name in item_study for name in DAYS):
        return item_study
    days = {name: value for name, value in report_study.items() if name in (*DAYS, "compare")}
    return {**days, **item_study}


def question_of(item: dict[str, Any], asked: dict[str, str]) -> tuple[str, str, str]:
    """What two items ask alike has the same: kind, parameters, study."""
    return item["kind"], repr(sorted(item["params"].items())), repr(sorted(asked.items()))


def study_at(kind: FigureKind, brand: Brand, asked: dict[str, str], now: datetime) -> Study:
    """The study of a kind as of an instant. Raises ValidationError for what is not there any more."""
    return study_for(kind, brand, values_at(brand, asked, now), now)


class Studies:
    """Studies as of one instant, each put together once: most figures of a report are of one and the same."""

    def __init__(self, brand: Brand, now: datetime) -> None:
        self._brand, self._now = brand, now
        self._made: dict[tuple[str, str | None], Study] = {}

    def of(self, kind: FigureKind, asked: dict[str, str]) -> Study:
        """The study of a kind. Raises ValidationError for what is not there any more."""
        values = values_at(self._brand, asked, self._now)
        key = repr(sorted(asked.items())), kind.whose(values)
        if key not in self._made:
            self._made[key] = study_for(kind, self._brand, values, self._now)
        return self._made[key]


def values_at(brand: Brand, asked: dict[str, str], now: datetime) -> dict[str, Any]:
    """A kept study's values with its days as of an instant."""
    given = ReportStudySerializer(data=asked)
    given.is_valid(raise_exception=True)
    values: dict[str, Any] = dict(given.validated_data)
    span = values.pop("span", None)
    if span or not (values.get("first") or values.get("last")):
        today: date = now.astimezone(brand.zone).date()
        values["first"], values["last"] = span_days(span or USUAL_SPAN, today, brand.first_weekday)
    return values


def query_at(brand: Brand, asked: dict[str, str], now: datetime) -> dict[str, str]:
    """The same as an address has it, its days written out: what a basis or a table is asked with."""
    values = values_at(brand, asked, now)
    found = {name: value for name, value in asked.items() if name not in DAYS}
    return {**found, "first": str(values["first"]), "last": str(values["last"])}
