"""The demo's reports: a client's month in Portuguese, the week's review, each with something of somebody's own."""

from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.reports.keeping import make_report
from dakika_server.reports.models import Report


def make_reports(editor: Any, brand: Brand) -> None:
    """Two from templates: one for the museum's director, one for the team."""
    month = make_report(editor, brand, template="monthly", title="", language="pt", own=None)
    look = {
        **month.look,
        "accent": "#1f5c7a",
        "subtitle": "Para a dire\u00e7\u00e3o",
        "footer": "Ninth Bell, para Orrery House",
    }
    Report.objects.filter(pk=month.pk).update(label="Dire\u00e7\u00e3o", look=look)
    week = make_report(editor, brand, template="weekly", title="", language="en", own=None)
    pages = week.pages
    pages[0]["notes"] = "Begin with the visits: they are what the museum asks for."
    Report.objects.filter(pk=week.pk).update(pages=pages, label="Team")
