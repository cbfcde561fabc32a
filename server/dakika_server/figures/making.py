"""Making figures by their kind: what screens, reports, mails and files call."""

from dataclasses import replace
from datetime import datetime
from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.figures.kinds import FigureKind, FigureSet
from dakika_server.figures.sheets import Sheet
from dakika_server.figures.study import Study, study_of
from dakika_server.figures.words import sentence
from dakika_server.measures.queries import freshest
from dakika_server.networks.definitions import network_name
from dakika_server.sources.files.own import mark_line
from dakika_server.sources.health import holes_in


def study_for(kind: FigureKind, brand: Brand, values: dict[str, Any], now: datetime) -> Study:
    """The study as a kind takes it. Raises ValidationError for one of what is not there."""
    return study_of(brand, values, now, kind=kind.whose(values))


def made_of(kind: FigureKind, study: Study, params: dict[str, Any]) -> FigureSet:
    """The figures of a kind. Raises ValidationError for parameters that name nothing."""
    return kind.compute(study, params)


def basis_of(kind: FigureKind, study: Study, params: dict[str, Any], cell: str, now: datetime) -> dict[str, Any]:
    """A figure's basis with what goes for every figure of the study. Raises ValidationError for no such cell."""
    if kind.is_of_whole_days:
        study = study.of_whole_days()
    basis = kind.basis(study, params, cell)
    profiles = [p for p in study.profiles if basis.of_profile in (None, p.pk)]
    # What is counted here no network's silence touches.
    holes = "" if basis.is_counted_here else holes_in(
        study.brand, profiles, study.period.first, study.period.last, now
    )  # fmt: skip
    return {
        **vars(basis), "study": sentence(study), "period": study.period, "compared": study.compared, "holes": holes,
        "time_zone": study.brand.time_zone, "as_of": freshest([p.pk for p in profiles]),
        "profiles": [f"{p.name} · {network_name(p.network)}" for p in profiles],
    }  # fmt: skip


def table_of(kind: FigureKind, study: Study, params: dict[str, Any]) -> Sheet:
    """A kind's table, marked as ours. Raises ValidationError for parameters that name nothing."""
    sheet = kind.table(study, params, kind.compute(study, params))
    area = kind.key.partition(".")[0]
    return replace(sheet, mark=mark_line(f"{area}.{sheet.name}", study.brand.slug, str(study.today)))
