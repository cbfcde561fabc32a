"""Promise: what is saved of a report opens in other programs, holds its figures, and no formula of anybody's."""

import csv
import io
import math
import shutil
import subprocess
import zipfile
from pathlib import Path
from typing import Any
from urllib.parse import parse_qsl

import pytest
from django.test import Client
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import load_workbook
from pptx import Presentation
from pptx.enum.chart import XL_CHART_TYPE
from pypdf import PdfReader

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import QUERY, fill, make_profile
from dakika_server.reports.models import Report
from dakika_server.reports.slides import stacked
from dakika_server.reports.testing import report

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/reports"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def made(editor: Any, brand: Brand, own_profile: Any) -> Report:
    own_profile()
    found = report(editor, brand, "monthly", language="pt")
    pages = found.pages
    pages[0]["items"][0]["title"] = "=1+1 [a]/b: a very long title that no sheet could be called by"
    pages[0]["notes"] = "Say it slowly."
    Report.objects.filter(pk=found.pk).update(pages=pages)
    return Report.objects.get(pk=found.pk)


def saved(client: Client, made: Report, form: str) -> bytes:
    answer = client.get(f"{HOME}/{made.pk}/table", {"form": form})
    assert answer.status_code == 200
    return b"".join(answer.streaming_content)


def test_a_workbook_has_a_sheet_for_each_figure_and_no_formula(client: Client, made: Report) -> None:
    book = load_workbook(io.BytesIO(saved(client, made, "xlsx")))
    assert len(book.sheetnames) > 6
    assert all(len(name) <= 31 for name in book.sheetnames)
    for sheet in book:
        for row in sheet.iter_rows():
            assert all(cell.data_type != "f" for cell in row)
    first = book[book.sheetnames[0]]
    assert str(first["A1"].value).startswith("Dakika export")


def test_an_archive_has_the_same_as_csv(client: Client, made: Report) -> None:
    with zipfile.ZipFile(io.BytesIO(saved(client, made, "zip"))) as archive:
        names = archive.namelist()
        assert len(names) == len(set(names)) > 6
        for name in names:
            rows = list(csv.reader(io.StringIO(archive.read(name).decode())))
            assert rows[0][0].startswith("Dakika export")
            assert not any(cell.startswith(("=", "+", "@")) for row in rows for cell in row)


def test_slides_hold_charts_and_tables_that_can_be_edited(client: Client, made: Report) -> None:
    slides = Presentation(io.BytesIO(saved(client, made, "pptx")))
    told = list(slides.slides)
    assert len(told) == 6
    shapes = [shape for slide in told for shape in slide.shapes]
    charts = [shape.chart for shape in shapes if shape.has_chart]
    tables = [shape.table for shape in shapes if shape.has_table]
    assert charts or tables
    text = "\n".join(shape.text_frame.text for shape in shapes if shape.has_text_frame)
    assert "Relatório mensal" in text
    assert "O mês num relance" in text
    assert told[1].notes_slide.notes_text_frame.text == "Say it slowly."
    # Every figure of the first page stands on its slide as the page writes it.
    shown = client.get(f"{HOME}/{made.pk}/shown").json()["pages"][0]["items"][0]["cells"]
    assert all(cell["name"] in text for cell in shown)


@given(st.lists(st.floats(-1e6, 1e6, allow_nan=False).map(lambda value: round(value, 3)), min_size=1, max_size=12))
def test_stacked_columns_end_where_the_sum_of_the_parts_does(values: list[float]) -> None:
    ends = [math.fsum(values[: i + 1]) for i in range(len(values))]
    found = stacked(values)
    assert (found is None) == (min(ends) < -1e-9 and max(ends) > 1e-9) or min(map(abs, ends)) < 1e-6
    for (below, rise, fall), end in zip(found or [], ends, strict=False):
        assert rise == 0 or fall == 0
        assert below + rise == pytest.approx(end, abs=1e-6) if fall == 0 else below == pytest.approx(end, abs=1e-6)


def test_posts_findings_and_steps_are_on_slides(client: Client, editor: Any, brand: Brand, own_profile: Any) -> None:
    profile = make_profile(brand, "brevi", "Steps")
    fill(profile, 60, lambda i: {"counts": {"reactions": 10 + i}, "text": f"Star number {i} <&>"})
    made = report(editor, brand, "weekly")
    days = {**dict(parse_qsl(QUERY)), "first": "2026-10-16"}
    Report.objects.filter(pk=made.pk).update(study=days)
    told = list(Presentation(io.BytesIO(saved(client, Report.objects.get(pk=made.pk), "pptx"))).slides)
    shapes = list(told[2].shapes)
    cells = [cell.text for shape in shapes if shape.has_table for row in shape.table.rows for cell in row.cells]
    assert any("Star number" in text and "<&>" in text for text in cells)
    charts = [shape.chart for shape in shapes if shape.has_chart]
    steps = next(chart for chart in charts if chart.chart_type == XL_CHART_TYPE.COLUMN_STACKED)
    below, rises, falls = (list(series.values) for series in steps.plots[0].series)
    shown = client.get(f"{HOME}/{made.pk}/shown").json()["pages"][1]["items"][2]["cells"]
    whole = next(cell["now"]["value"] for cell in shown if cell["key"] == "change")
    assert rises[-1] == pytest.approx(whole)
    assert below[-2] + (rises[-2] if not falls[-2] else 0) == pytest.approx(whole)


def test_an_empty_report_is_no_broken_file(client: Client, editor: Any, brand: Brand) -> None:
    made = report(editor, brand, "blank")
    assert load_workbook(io.BytesIO(saved(client, made, "xlsx"))).sheetnames == ["Empty"]
    assert len(list(Presentation(io.BytesIO(saved(client, made, "pptx"))).slides)) == 1
    with zipfile.ZipFile(io.BytesIO(saved(client, made, "zip"))) as archive:
        assert archive.namelist() == []


@pytest.mark.skipif(shutil.which("soffice") is None, reason="Debian's libreoffice-impress and -calc are not here")
def test_another_office_program_reads_slides_and_workbook(client: Client, made: Report, tmp_path: Path) -> None:
    """LibreOffice of Debian, where it is installed: half a gigabyte that no test run should have to fetch."""
    for form, shown in (("pptx", 6), ("xlsx", 7)):
        (tmp_path / f"report.{form}").write_bytes(saved(client, made, form))
        subprocess.run(
            ["soffice", f"-env:UserInstallation={(tmp_path / 'office').as_uri()}", "--headless", "--convert-to", "pdf",
             "--outdir", str(tmp_path), str(tmp_path / f"report.{form}")],
            check=True, capture_output=True, timeout=240,
        )  # fmt: skip
        paper = PdfReader(tmp_path / "report.pdf")
        assert len(paper.pages) >= shown
        text = " ".join(page.extract_text() for page in paper.pages)
        told = "Por formato" if form == "pptx" else "Dakika export"
        assert told in text
        # What begins like a formula is read as what it is.
        assert "#NAME" not in text
        assert "Err:" not in text
        (tmp_path / "report.pdf").unlink()
