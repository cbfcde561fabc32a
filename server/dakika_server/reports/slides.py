"""A report as slides (ECMA-376, PresentationML): charts and tables of their own where the kind allows."""

import io
import itertools
import math
import tempfile
from collections.abc import Sequence
from datetime import datetime
from typing import IO, Any

from dakika_core.reports.languages import number_text
from dakika_core.reports.layout import COLUMNS, ROWS
from dakika_core.values.text import cut

from dakika_server.brands.models import Brand
from dakika_server.reports.models import Report
from dakika_server.reports.serializers.reports import shown_pages
from dakika_server.reports.showing import Shower

# A4 across in millimetres, as on paper; the same margins as there.
WIDE, TALL, PAD, TOP, WORDS, FOOT, GAP = 297.0, 210.0, 11.6, 22.0, 23.0, 12.0, 3.2
ACCENT, INK, MUTED = "9a2452", "18211c", "515c54"
MOST_PLACES = 400


def as_slides(report: Report, brand: Brand, now: datetime) -> IO[bytes]:
    """The report's pages as slides, in a temporary file that the caller closes."""
    from pptx import Presentation
    from pptx.util import Mm

    shown = shown_pages(Shower(report, brand, now), report.pages, report.language)
    slides = Presentation()
    slides.slide_width, slides.slide_height = Mm(WIDE), Mm(TALL)
    slides.core_properties.title, slides.core_properties.author = report.title, brand.name
    if report.look.get("has_cover"):
        _cover(slides, report, brand, shown["words"])
    for page, told in zip(report.pages, shown["pages"], strict=True):
        _page(slides, report, page, told)
    out = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    slides.save(out)
    out.seek(0)
    return out


def _cover(slides: Any, report: Report, brand: Brand, words: dict[str, Any]) -> None:
    slide = slides.slides.add_slide(slides.slide_layouts[6])
    _text(slide, (PAD, 20, 200, 10), [brand.name], 14, MUTED)
    _text(slide, (PAD, 90, WIDE - 2 * PAD, 30), [report.title], 40, INK, is_bold=True)
    if report.look.get("subtitle"):
        _text(slide, (PAD, 118, WIDE - 2 * PAD, 12), [report.look["subtitle"]], 18, INK)
    _text(slide, (PAD, 175, WIDE - 2 * PAD, 12), [words["days"]], 14, INK)


def _page(slides: Any, report: Report, page: dict[str, Any], told: dict[str, Any]) -> None:
    slide = slides.slides.add_slide(slides.slide_layouts[5])
    title = slide.shapes.title
    title.left, title.top, title.width, title.height = _emu(PAD, 6, WIDE - 2 * PAD, 14)
    _fill(title.text_frame, [page["title"] or " "], 22, INK, is_bold=True)
    top = TOP
    words = ["".join(one["text"] for one in row) for row in told["words"]]
    if page["has_words"] and any(words):
        _text(slide, (PAD, TOP, WIDE - 2 * PAD, WORDS), words, 12, INK)
        top += WORDS
    if page["notes"]:
        slide.notes_slide.notes_text_frame.text = page["notes"]
    column, row = (WIDE - 2 * PAD) / COLUMNS, (TALL - top - FOOT) / ROWS
    for item, seen in zip(page["items"], told["items"], strict=True):
        box = (
            PAD + item["x"] * column, top + item["y"] * row, item["w"] * column - GAP, item["h"] * row - GAP
        )  # fmt: skip
        _item(slide, report, item, seen, box)


def _item(slide: Any, report: Report, item: dict[str, Any], seen: dict[str, Any], box: tuple[float, ...]) -> None:
    language = report.language
    if item["kind"] == "text":
        _text(slide, box, ["".join(one["text"] for one in row) for row in seen["words"]], 12, INK)
        return
    if item["kind"] == "picture":
        _picture(slide, report, item, box)
        return
    x, y, w, h = box
    cells = seen["cells"]
    totals = [cell for cell in cells if not cell["row"]]
    if item["drawing"] == "tiles" and totals:
        each = w / len(totals)
        for at, cell in enumerate(totals):
            value = number_text(cell["now"]["value"], cell["unit"], language)
            _text(slide, (x + at * each, y, each, 6), [cell["name"]], 9, MUTED)
            _text(slide, (x + at * each, y + 5, each, 11), [value], 20, INK, is_bold=True)
        return
    _text(slide, (x, y, w, 6), [seen["error"] or seen["title"]], 10, INK, is_bold=True)
    box = (x, y + 6, w, max(8.0, h - 6))
    series = [one for one in seen["series"] if len(one["places"]) > 1]
    rows = list(dict.fromkeys(cell["row"] for cell in cells if cell["row"]))
    abouts = seen.get("rows") or []
    if item["drawing"] == "steps" and _steps(slide, cells, box, report.look.get("accent") or ""):
        return
    if item["drawing"] in ("cards", "calendar") and abouts:
        _abouts(slide, abouts[: item["rows"]], cells, box, language)
    elif item["drawing"] == "course" and series:
        _course(slide, series, box, report.look.get("accent") or "")
    elif item["drawing"] == "bars" and rows:
        _bars(slide, cells, item["rows"], box, report.look.get("accent") or "")
    elif cells:
        _table(slide, cells, rows[: item["rows"]], box, language)


def _course(slide: Any, series: list[dict[str, Any]], box: tuple[float, ...], accent: str) -> None:
    """Courses of one unit as a chart of lines."""
    from pptx.chart.data import CategoryChartData
    from pptx.enum.chart import XL_CHART_TYPE, XL_LEGEND_POSITION

    drawn = [one for one in series if one["unit"] == series[0]["unit"]][:4]
    data = CategoryChartData()
    data.categories = drawn[0]["places"][:MOST_PLACES]
    for one in drawn:
        data.add_series(one["name"], one["values"][: len(drawn[0]["places"])][:MOST_PLACES])
    chart = slide.shapes.add_chart(XL_CHART_TYPE.LINE, *_emu(*box), data).chart
    chart.has_legend = len(drawn) > 1
    if chart.has_legend:
        chart.legend.position, chart.legend.include_in_layout = XL_LEGEND_POSITION.TOP, False
    chart.font.size = _points(9)
    for at, one in enumerate(chart.plots[0].series):
        one.smooth = False
        one.format.line.color.rgb = _colour((accent.removeprefix("#") or ACCENT) if at == 0 else MUTED)
        one.format.line.width = _points(2 if at == 0 else 1)


def _bars(slide: Any, cells: list[dict[str, Any]], most: int, box: tuple[float, ...], accent: str) -> None:
    """Rows of one column as bars, the largest on top."""
    from pptx.chart.data import CategoryChartData
    from pptx.enum.chart import XL_CHART_TYPE

    column = leading_column(cells)
    ranked = sorted(
        (cell for cell in cells if cell["row"] and cell["column"] == column and cell["now"]["value"] is not None),
        key=lambda cell: -cell["now"]["value"],
    )[:most]
    data = CategoryChartData()
    # A bar chart is drawn from below.
    data.categories = [cell["row"] for cell in reversed(ranked)]
    data.add_series(column, [cell["now"]["value"] for cell in reversed(ranked)])
    if not ranked:
        return
    chart = slide.shapes.add_chart(XL_CHART_TYPE.BAR_CLUSTERED, *_emu(*box), data).chart
    chart.has_legend, chart.has_title = False, False
    chart.font.size = _points(9)
    fill = chart.plots[0].series[0].format.fill
    fill.solid()
    fill.fore_color.rgb = _colour(accent.removeprefix("#") or ACCENT)


def stacked(values: Sequence[float]) -> list[tuple[float, float, float]] | None:
    """Parts that add up, as columns that stand on each other: (unseen below, rise, fall) each, of one sign.

    None where the sum crosses zero on its way: columns cannot be stacked through it.
    """
    ends = list(itertools.accumulate(values))
    if not ends or min(ends) < 0 < max(ends):
        return None
    sign = -1.0 if min(ends) < 0 else 1.0
    pairs = [(sign * begin, sign * end) for begin, end in itertools.pairwise([0.0, *ends])]
    return [
        (sign * min(begin, end), sign * max(0.0, end - begin), sign * max(0.0, begin - end)) for begin, end in pairs
    ]


def _steps(slide: Any, cells: list[dict[str, Any]], box: tuple[float, ...], accent: str) -> bool:
    """Parts that add up to a whole as stacked columns; False where the cells have no such parts."""
    from pptx.chart.data import CategoryChartData
    from pptx.enum.chart import XL_CHART_TYPE

    whole = next((cell for cell in cells if cell["key"] in ("change", "whole")), None)
    parts = [cell for cell in cells if cell is not whole and cell["now"]["value"] is not None]
    way = parts[0]["key"].partition(".")[0] if parts else ""
    parts = [cell for cell in parts if "." not in cell["key"] or cell["key"].partition(".")[0] == way]
    values = [float(cell["now"]["value"]) for cell in parts]
    columns = stacked(values)
    if whole is None or len(parts) < 2 or columns is None or whole["now"]["value"] is None:
        return False
    if not math.isclose(math.fsum(values), whole["now"]["value"], rel_tol=1e-6, abs_tol=1e-6):
        return False
    below, rises, falls = zip(*columns, strict=True)
    data = CategoryChartData()
    data.categories = [cell["row"] or cell["column"] for cell in (*parts, whole)]
    data.add_series(" ", [*below, 0.0])
    data.add_series("+", [*rises, float(whole["now"]["value"])])
    data.add_series("\u2212", [*falls, 0.0])
    chart = slide.shapes.add_chart(XL_CHART_TYPE.COLUMN_STACKED, *_emu(*box), data).chart
    chart.has_legend, chart.has_title = False, False
    chart.font.size = _points(9)
    unseen, *seen = chart.plots[0].series
    chart.plots[0].gap_width = 50
    unseen.format.fill.background()
    for series, colour in zip(seen, (accent.removeprefix("#") or ACCENT, MUTED), strict=True):
        series.format.fill.solid()
        series.format.fill.fore_color.rgb = _colour(colour)
    return True


def _abouts(
    slide: Any, abouts: list[dict[str, Any]], cells: list[dict[str, Any]], box: tuple[float, ...], language: str
) -> None:
    """Posts or findings as a table: when and where, what they say, and their figures by name."""
    body = []
    for one in abouts:
        own = [cell for cell in cells if cell["row"] == one["row"]]
        figures = "; ".join(f"{cell['column']} {_number(cell, language)}" for cell in own)
        body.append([one["at"].replace("T", " "), cut(one["text"], 90), figures or one["detail"]])
    _grid(slide, ["", "", ""], body, box)


def leading_column(cells: list[dict[str, Any]]) -> str:
    """The column that rows are ordered by: the first that has intervals throughout, else the first."""
    columns = list(dict.fromkeys(cell["column"] for cell in cells if cell["row"]))
    whole = (
        name for name in columns
        if all(cell["now"]["interval"] for cell in cells if cell["row"] and cell["column"] == name)
    )  # fmt: skip
    return str(next(whole, columns[0] if columns else ""))


def _table(slide: Any, cells: list[dict[str, Any]], rows: list[str], box: tuple[float, ...], language: str) -> None:
    """The figures as a table, their numbers as the language writes them."""
    if rows:
        columns = list(dict.fromkeys(cell["column"] for cell in cells if cell["row"]))[:10]
        at = {(cell["row"], cell["column"]): cell for cell in cells}
        head = ["", *columns]
        body = [[row, *[_number(at.get((row, column)), language) for column in columns]] for row in rows]
    else:
        head, body = ["", ""], [[cell["name"], _number(cell, language)] for cell in cells[:12]]
    _grid(slide, head, body, box)


def _grid(slide: Any, head: list[str], body: list[list[str]], box: tuple[float, ...]) -> None:
    # A row of a slide is no lower than its text: what has no room is left to the workbook.
    body = body[: max(1, int(box[3] / 6.2) - 1)]
    frame = slide.shapes.add_table(len(body) + 1, len(head), *_emu(box[0], box[1], box[2], 6.2 * (len(body) + 1)))
    frame.table.first_row = True
    for r, line in enumerate([head, *body]):
        frame.table.rows[r].height = _emu(6.2)[0]
        for c, text in enumerate(line):
            cell = frame.table.cell(r, c)
            cell.margin_top = cell.margin_bottom = 0
            _fill(cell.text_frame, [text], 9, "ffffff" if r == 0 else INK)


def _number(cell: dict[str, Any] | None, language: str) -> str:
    return number_text(cell["now"]["value"], cell["unit"], language) if cell else ""


def _picture(slide: Any, report: Report, item: dict[str, Any], box: tuple[float, ...]) -> None:
    from dakika_server.media import storage
    from dakika_server.media.models import Asset

    asset = Asset.objects.filter(brand=report.brand, pk=item["asset"] or 0, state=Asset.State.READY).first()
    rendition = asset and asset.renditions.filter(purpose="preview").first()
    # Slides take JPEG and PNG, not everything that a browser does.
    if not rendition or rendition.media_type not in ("image/jpeg", "image/png"):
        return
    try:
        content = storage.opened(rendition.file).read()
    except FileNotFoundError:
        return
    left, top, width, height = _emu(*box)
    picture = slide.shapes.add_picture(io.BytesIO(content), left, top)
    scale = min(width / picture.width, height / picture.height)
    picture.width, picture.height = int(picture.width * scale), int(picture.height * scale)


def _text(
    slide: Any, box: tuple[float, ...], lines: list[str], size: float, colour: str, *, is_bold: bool = False
) -> None:
    frame = slide.shapes.add_textbox(*_emu(*box)).text_frame
    frame.word_wrap = True
    frame.margin_left = frame.margin_right = frame.margin_top = frame.margin_bottom = 0
    _fill(frame, lines, size, colour, is_bold=is_bold)


def _fill(frame: Any, lines: list[str], size: float, colour: str, *, is_bold: bool = False) -> None:
    for at, line in enumerate(lines):
        paragraph = frame.paragraphs[0] if at == 0 else frame.add_paragraph()
        run = paragraph.add_run()
        # What XML cannot hold is left out.
        run.text = "".join(sign for sign in line if sign >= " " or sign == "\t")
        run.font.size, run.font.bold, run.font.color.rgb = _points(size), is_bold, _colour(colour)


def _emu(*millimetres: float) -> list[int]:
    return [round(one * 36_000) for one in millimetres]


def _points(size: float) -> Any:
    from pptx.util import Pt

    return Pt(size)


def _colour(text: str) -> Any:
    from pptx.dml.color import RGBColor

    return RGBColor.from_string(text.upper())
