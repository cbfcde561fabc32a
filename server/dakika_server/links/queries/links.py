"""Lists of links and pages with their counts."""

from typing import Any

from dakika_core.values.choice import Choice
from dakika_core.values.period import Period
from django.db.models import BigIntegerField, Count, F, OuterRef, Q, QuerySet, Subquery, Sum, Value
from django.db.models.functions import Coalesce

from dakika_server.brands.models import Brand
from dakika_server.figures.study import in_choice
from dakika_server.links.models import ClickDay, LinkPage, LinkUse, PageView, TrackedLink


def links_of(
    brand: Brand,
    *,
    networks: Choice[str] | None = None,
    campaigns: Choice[int] | None = None,
    text: str = "",
    post_id: int | None = None,
) -> QuerySet[TrackedLink]:
    """A brand's links, with what is known of each since it was made."""
    found = TrackedLink.objects.filter(brand=brand).select_related("campaign", "domain", "created_by")
    if networks:
        found = found.filter(in_choice("network", networks))
    if campaigns:
        found = found.filter(in_choice("campaign_id", campaigns))
    if post_id:
        found = found.filter(uses__post_id=post_id)
    if text:
        found = found.filter(Q(name__icontains=text) | Q(destination__icontains=text) | Q(code__icontains=text))
    return found.annotate(
        clicks_ever=Coalesce(F("total__people"), Value(0)), last_click_at=F("total__last_at"),
        posts=Coalesce(
            Subquery(
                LinkUse.objects.filter(link=OuterRef("pk")).values("link")
                .annotate(n=Count("pk")).values("n"), output_field=BigIntegerField(),
            ), Value(0),
        ),
    )  # fmt: skip


def one_link(brand: Brand, pk: int) -> TrackedLink | None:
    """A link of the brand, or None."""
    return links_of(brand).filter(pk=pk).first()


def counted(brand: Brand, period: Period, link_id: int | None = None) -> dict[int, tuple[int, int, int]]:
    """People's clicks, bots' and those after the end, by link (or of one), in one reading of the index."""
    one = {} if link_id is None else {"link_id": link_id}
    rows = (
        ClickDay.objects.filter(brand_id=brand.pk, day__gte=period.first, day__lte=period.last, **one)
        .values("link_id").annotate(p=Sum("people"), b=Sum("bots"), o=Sum("over")).values_list("link_id", "p", "b", "o")
    )  # fmt: skip
    return {link: (people, bots, over) for link, people, bots, over in rows}


def _seen(period: Period) -> Any:
    """How often people opened a page; nothing where no opening was ever counted."""
    rows = PageView.objects.filter(brand_id=OuterRef("brand_id"), page=OuterRef("pk"))
    within = Sum("people", filter=Q(at__gte=period.start, at__lt=period.end), default=0)
    return rows.order_by().values("page").annotate(n=within).values("n")


def pages_of(brand: Brand, period: Period) -> QuerySet[LinkPage]:
    """Pages with how often people opened them in the period, and the clicks that came through them."""
    within = Q(click__at__gte=period.start, click__at__lt=period.end, click__bot_reason="")
    return (
        LinkPage.objects.filter(brand=brand).prefetch_related("entries__link")
        .annotate(clicks=Count("click", filter=within), seen=Subquery(_seen(period))).order_by("title")
    )  # fmt: skip
