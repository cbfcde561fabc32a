"""Promise: what is saved of a report opens in other programs, holds its figures, and no formula of anybody's."""

import csv
import io
import shutil
import subprocess
import zipfile
from pathlib import Path
from typing import Any

import pytest
from django.test import Client
from openpyxl import load_workbook
from pptx import Presentation
from pypdf import PdfReader

from dakika_server.brands.models import Brand
from dakika_server.reports.models import Report
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
