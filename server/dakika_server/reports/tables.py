"""The figures behind a report as tables: a workbook with a sheet for each, or an archive of CSV files."""

import re
import tempfile
import zipfile
from collections.abc import Iterator
from datetime import datetime
from typing import IO, Any

from dakika_core.sources.files.guard import neutralise
from rest_framework.exceptions import APIException

from dakika_server.brands.models import Brand
from dakika_server.figures.kinds import KINDS
from dakika_server.figures.making import table_of
from dakika_server.figures.sheets import Sheet, as_csv
from dakika_server.reports.models import Report
from dakika_server.reports.studies import asked_of, question_of, study_at

# Of a sheet's name in a workbook (ECMA-376, 18.2.19: at most 31 characters, none of these).
_LONGEST_NAME, _NO_NAME = 31, re.compile(r"[\\/*?:\[\]'\x00-\x1f]")


def sheets_of(report: Report, brand: Brand, now: datetime) -> Iterator[tuple[str, Sheet | str]]:
    """Each figure's table by a name of its own, the same question once; words where it cannot be told."""
    known: set[tuple[str, str, str]] = set()
    names: set[str] = set()
    for page in report.pages:
        for item in page["items"]:
            kind = KINDS.get(item["kind"])
            asked = asked_of(report.study, item["study"])
            mark = question_of(item, asked)
            if kind is None or mark in known:
                continue
            known.add(mark)
            name = _free(item["title"] or kind.name, names)
            try:
                params = kind.params(data=item["params"])
                params.is_valid(raise_exception=True)
                yield name, table_of(kind, study_at(kind, brand, asked, now), params.validated_data)
            except APIException as error:
                yield name, str(error.detail)


def as_book(report: Report, brand: Brand, now: datetime) -> IO[bytes]:
    """One workbook, in a temporary file that the caller closes. Words that begin like a formula stay words."""
    import xlsxwriter

    out = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    options = {"constant_memory": True, "strings_to_formulas": False, "strings_to_urls": False, "in_memory": False}
    with xlsxwriter.Workbook(out, options) as book:
        head = book.add_format({"bold": True, "bottom": 1})
        for name, sheet in sheets_of(report, brand, now):
            page = book.add_worksheet(name)
            if isinstance(sheet, str):
                page.write_string(0, 0, sheet)
                continue
            page.set_column(0, 0, 30)
            row = _write(page, 0, sheet.mark)
            row = _write(page, row, sheet.head, head)
            for line in sheet.rows:
                row = _write(page, row, line)
            row += 1
            for pair in (*sheet.about, *sheet.definitions):
                row = _write(page, row, pair)
        if not book.worksheets():
            book.add_worksheet("Empty").write_string(0, 0, "This report holds no figures.")
    out.seek(0)
    return out


def _write(page: Any, row: int, values: Any, form: Any = None) -> int:
    for column, value in enumerate(values):
        if value is None:
            continue
        if isinstance(value, bool) or not isinstance(value, int | float):
            page.write_string(row, column, str(neutralise(value)), form)
        else:
            page.write_number(row, column, value, form)
    return row + 1


def as_archive(report: Report, brand: Brand, now: datetime) -> IO[bytes]:
    """CSV files in a ZIP archive, in a temporary file that the caller closes."""
    out = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, sheet in sheets_of(report, brand, now):
            if isinstance(sheet, str):
                archive.writestr(f"{name}.txt", sheet)
                continue
            with archive.open(f"{name}.csv", "w") as file:
                for part in as_csv(sheet):
                    file.write(part)
    out.seek(0)
    return out


def _free(title: str, names: set[str]) -> str:
    plain = " ".join(_NO_NAME.sub(" ", title).split())[:_LONGEST_NAME].strip(". ") or "Figures"
    name, number = plain, 1
    while name.lower() in names:
        number += 1
        name = f"{plain[: _LONGEST_NAME - 4]} {number}"
    names.add(name.lower())
    return name
