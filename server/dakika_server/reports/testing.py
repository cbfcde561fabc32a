"""Reports for tests."""

from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.reports.keeping import make_report
from dakika_server.reports.models import Report


def report(actor: Any, brand: Brand, template: str = "weekly", **more: Any) -> Report:
    """A report from a template."""
    given = {"title": "", "language": "en", "own": None, **more}
    return make_report(actor, brand, template=template, **given)


def content_of(report: Report) -> dict[str, Any]:
    """What saving it as it is sends."""
    names = ("title", "label", "language", "study", "look", "pages", "edition")
    return {name: getattr(report, name) for name in names}
