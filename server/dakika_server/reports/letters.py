"""A report's letter: its main figures and its words, in the report's language; the pages are attached."""

from typing import Any

from dakika_core.reports.languages import number_text
from dakika_core.values.figure import change
from django.conf import settings

from dakika_server.notices.stopping import stop_headers
from dakika_server.reports.models import DeliveryRun

MOST_FIGURES = 8


def letter_of(run: DeliveryRun, token: str) -> tuple[str, str, dict[str, str]]:
    """Subject, text and header fields of a run's letter to one reader."""
    kept: dict[str, Any] = run.shown or {}
    language, words = kept["language"], kept["shown"]["words"]
    parts = [f"{kept['title']}\n{run.brand.name}, {words['days']}"]
    if run.delivery.message:
        parts.append(run.delivery.message)
    if run.missing:
        parts.append(f"Not all data were there when this went out: {run.missing}.")
    if figures := figures_of(kept["shown"], language):
        parts.append("\n".join(figures))
    for page, shown in zip(kept["pages"], kept["shown"]["pages"], strict=True):
        told = ["".join(one["text"] for one in row) for row in shown["words"]]
        if any(told):
            parts.append("\n".join([*([page["title"]] if page["title"] else []), *told]))
    parts.append(
        f"For the team: {settings.PUBLIC_ADDRESS}/{run.brand.slug}/reports/{run.delivery.report_id}?run={run.pk}"
    )
    headers: dict[str, str] = {}
    if token:
        stop = f"{settings.PUBLIC_ADDRESS.rstrip('/')}/api/report/stop/{token}"
        parts.append(f"You get this because it was sent to you. No more of it: {stop}")
        headers = stop_headers(stop)
    return f"{kept['title']}: {words['days']}", "\n\n".join(parts) + "\n", headers


def figures_of(shown: dict[str, Any], language: str) -> list[str]:
    """The first single figures of the pages, a line each."""
    cells = [cell for page in shown["pages"] for item in page["items"] for cell in item["cells"] if not cell["row"]]
    lines: dict[str, str] = {}
    for cell in cells:
        if cell["name"] in lines or cell["now"]["value"] is None:
            continue
        line = f"{cell['name']}: {number_text(cell['now']['value'], cell['unit'], language)}"
        before = (cell["before"] or {}).get("value")
        relative = change(cell["now"]["value"], before).relative
        if relative is not None:
            told = number_text(before, cell["unit"], language)
            line += f" ({number_text(relative, 'change', language)}, {shown['words']['before']} {told})"
        lines[cell["name"]] = line
    return list(lines.values())[:MOST_FIGURES]
