"""Making, changing, copying and taking away reports."""

from datetime import timedelta
from typing import Any

from dakika_core.reports.layout import free_place
from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.media.models import Asset
from dakika_server.reports.models import Report, ReportVersion
from dakika_server.reports.serializers.content import MOST_IN_ALL, MOST_ITEMS, MOST_PAGES, place_of
from dakika_server.reports.templates import TEMPLATES, new_name, pages_of
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors

MOST_REPORTS, MOST_VERSIONS = 2000, 60
# Changes of one person within so long are one step back.
ONE_STEP = timedelta(minutes=10)
KEPT_AWAY = timedelta(days=30)
CONTENT = ("title", "language", "study", "look", "pages")


def reports_of(brand: Brand) -> QuerySet[Report]:
    """A brand's reports and its own templates, without those taken away."""
    return Report.objects.filter(brand=brand, removed_at=None).select_related("made_by", "changed_by")


def report_of(brand: Brand, pk: int, *, for_update: bool = False) -> Report:
    """One of them. Raises Http404."""
    found = Report.objects.filter(brand=brand, pk=pk, removed_at=None)
    report = (found.select_for_update(of=("self",)) if for_update else found.select_related("made_by")).first()
    if report is None:
        raise Http404
    return report


def make_report(actor: Any, brand: Brand, *, template: str, title: str, language: str, own: int | None) -> Report:
    """A report from a template of ours, one of the team's own, or blank. Raises field errors and Http404."""
    require(actor, brand, "reports.write")
    if Report.objects.filter(brand=brand, removed_at=None).count() >= MOST_REPORTS:
        raise field_errors({"title": f"There are {MOST_REPORTS} reports already. Take some away first."})
    if own is not None:
        source = report_of(brand, own)
        filled: dict[str, Any] = {name: getattr(source, name) for name in CONTENT} | {"label": source.label}
    elif template in TEMPLATES:
        filled = pages_of(template, language) | {"label": ""}
    else:
        raise field_errors({"template": "There is no such template."})
    title = " ".join((title or filled["title"]).split())[:120]
    now = clock.now()
    with transaction.atomic():
        made = Report.objects.create(
            brand=brand, **{**filled, "title": title, "language": language if own is None else filled["language"]},
            made_by=actor, made_at=now, changed_by=actor, changed_at=now,
        )  # fmt: skip
        audit.record(actor, "make_report", made, brand_id=brand.pk, template=template)
    return made


def save_report(actor: Any, report: Report, *, edition: int, label: str, **content: Any) -> Report:
    """Keep a report as it is now. Raises Conflict where a colleague changed it, field errors for others' pictures."""
    require(actor, report.brand, "reports.write")
    _require_pictures(report.brand, content)
    with transaction.atomic():
        current = report_of(report.brand, report.pk, for_update=True)
        if current.edition != edition:
            by = current.changed_by.name if current.changed_by else "Somebody"
            raise Conflict("changed_meanwhile", f"{by} has changed this report since you opened it.")
        if all(getattr(current, name) == content[name] for name in CONTENT) and current.label == label:
            return current
        _keep_version(current, actor)
        for name in CONTENT:
            setattr(current, name, content[name])
        current.title = " ".join(current.title.replace("\x00", "").split()) or "Untitled"
        current.label = " ".join(label.split())
        current.changed_by, current.changed_at = actor, clock.now()
        current.edition += 1
        current.save()
        audit.record(actor, "change_report", current, brand_id=report.brand_id)
    return current


def _require_pictures(brand: Brand, content: dict[str, Any]) -> None:
    asked = {item["asset"] for page in content["pages"] for item in page["items"] if item["asset"]}
    asked |= {content["look"]["logo"]} if content["look"].get("logo") else set()
    known = Asset.objects.filter(brand=brand, pk__in=asked, kind=Asset.Kind.PICTURE).count()
    if known != len(asked):
        raise field_errors({"pages": "One of the pictures is not in this brand's library."})


def _keep_version(report: Report, actor: Any, name: str = "") -> None:
    """What it was before a change: not once more where the same person goes on changing."""
    last = report.versions.order_by("-edition").first()
    now = clock.now()
    goes_on = last is not None and last.by_id == actor.pk and now - last.at < ONE_STEP and report.changed_by == actor
    if goes_on and not name:
        return
    ReportVersion.objects.update_or_create(
        report=report, edition=report.edition,
        defaults={**{one: getattr(report, one) for one in CONTENT}, "by": actor, "at": now, "name": name},
    )  # fmt: skip
    kept = list(report.versions.filter(name="").order_by("-edition").values_list("pk", flat=True)[MOST_VERSIONS:])
    ReportVersion.objects.filter(pk__in=kept).delete()


def name_version(actor: Any, report: Report, name: str) -> ReportVersion:
    """Keep it as it is now under a name. Raises field errors for none."""
    require(actor, report.brand, "reports.write")
    name = " ".join(name.replace("\x00", "").split())[:80]
    if not name:
        raise field_errors({"name": "Give the version a name."})
    with transaction.atomic():
        current = report_of(report.brand, report.pk, for_update=True)
        _keep_version(current, actor, name)
        return current.versions.get(edition=current.edition)


def go_back(actor: Any, report: Report, edition: int) -> Report:
    """Make a report what it was; what it is now is kept as a version. Raises Http404."""
    require(actor, report.brand, "reports.write")
    with transaction.atomic():
        current = report_of(report.brand, report.pk, for_update=True)
        version = current.versions.filter(edition=edition).first()
        if version is None:
            raise Http404
        ReportVersion.objects.get_or_create(
            report=current, edition=current.edition,
            defaults={**{one: getattr(current, one) for one in CONTENT}, "by": actor, "at": clock.now()},
        )  # fmt: skip
        for name in CONTENT:
            setattr(current, name, getattr(version, name))
        current.changed_by, current.changed_at = actor, clock.now()
        current.edition += 1
        current.save()
        audit.record(actor, "go_back_in_report", current, brand_id=report.brand_id, edition=edition)
    return current


def copy_report(actor: Any, report: Report, to: Brand, *, is_template: bool) -> Report:
    """A copy, in its brand or another one's, as a report or a template.

    In another brand what it asks of profiles, tags and campaigns, and its pictures, are left behind: they are none of
    that brand's.
    """
    require(actor, report.brand, "reports.read")
    require(actor, to, "reports.write")
    now = clock.now()
    content = {name: getattr(report, name) for name in CONTENT}
    if to.pk != report.brand_id:
        content = _without_ours(content)
    with transaction.atomic():
        made = Report.objects.create(
            brand=to, **{**content, "title": f"{report.title} (copy)"[:120]}, label=report.label,
            is_template=is_template, made_by=actor, made_at=now, changed_by=actor, changed_at=now,
        )  # fmt: skip
        audit.record(actor, "copy_report", made, brand_id=to.pk, source=report.pk)
    return made


def _without_ours(content: dict[str, Any]) -> dict[str, Any]:
    keys = ("profile", "tag", "campaign")

    def study(asked: dict[str, str] | None) -> dict[str, str] | None:
        return None if asked is None else {name: value for name, value in asked.items() if name not in keys}

    pages = [
        {**page, "items": [{**item, "study": study(item["study"]), "asset": None} for item in page["items"]]}
        for page in content["pages"]
    ]
    return {**content, "study": study(content["study"]), "look": {**content["look"], "logo": None}, "pages": pages}


def put_away(actor: Any, report: Report, *, is_away: bool) -> None:
    """Take a report away, or back within thirty days. Its links open nothing while it is away."""
    require(actor, report.brand, "reports.write")
    with transaction.atomic():
        Report.objects.filter(pk=report.pk).update(removed_at=clock.now() if is_away else None)
        audit.record(actor, "put_away_report", report, brand_id=report.brand_id, away=is_away)


def forget_reports() -> int:
    """Reports that were taken away long ago; how many."""
    return Report.objects.filter(removed_at__lt=clock.now() - KEPT_AWAY).delete()[0]


def add_item(actor: Any, report: Report, *, item: dict[str, Any], page: str) -> tuple[Report, str]:
    """Put a figure into a report, where there is room: on a page, else on a new one at the end; the page's name.

    Raises Conflict where the report is full.
    """
    require(actor, report.brand, "reports.write")
    with transaction.atomic():
        current = report_of(report.brand, report.pk, for_update=True)
        pages = [dict(one) for one in current.pages]
        names = {one["id"] for each in pages for one in (each, *each["items"])}
        if sum(len(one["items"]) for one in pages) >= MOST_IN_ALL:
            raise Conflict("report_full", f"A report holds at most {MOST_IN_ALL} figures.")
        among = [one for one in pages if one["id"] == page] or [one for one in pages if not page][-1:]
        into = next((one for one in among if len(one["items"]) < MOST_ITEMS), None)
        place = free_place([place_of(one) for one in into["items"]], item["w"], item["h"]) if into else None
        if into is None or place is None:
            if len(pages) >= MOST_PAGES:
                raise Conflict("report_full", f"A report has at most {MOST_PAGES} pages.")
            into = {"id": new_name(names), "title": "", "words": None, "has_words": True, "notes": "", "ground": "",
                    "items": []}  # fmt: skip
            pages.append(into)
            place = free_place([], item["w"], item["h"])
        assert place is not None
        made = {**item, "id": new_name(names | {into["id"]}), "x": place.x, "y": place.y, "w": place.w, "h": place.h}
        into["items"] = [*into["items"], made]
        _keep_version(current, actor)
        current.pages, current.edition = pages, current.edition + 1
        current.changed_by, current.changed_at = actor, clock.now()
        current.save()
        audit.record(actor, "put_into_report", current, brand_id=report.brand_id, kind=item["kind"])
    return current, str(into["id"])
