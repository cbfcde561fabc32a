"""links.links: each link with its clicks."""

from typing import Any

from dakika_core.metrics.basis import Rule
from dakika_core.metrics.catalogue import Unit

from dakika_server.figures.kinds import (
    Basis,
    Behind,
    Cell,
    FigureKind,
    FigureSet,
    cell_key,
    cell_of,
    cell_parts,
    count_of,
)
from dakika_server.figures.sheets import Row, Sheet, about
from dakika_server.figures.study import Study
from dakika_server.links.kinds.asked import PEOPLE, LinksParameters, by_step, scope_of, spans_of, step_of
from dakika_server.links.models import ClickDay
from dakika_server.links.queries import links_of
from dakika_server.links.queries.links import counted
from dakika_server.networks.definitions import network_name

NONE = (0, 0, 0)
COLUMNS = {"people": "clicks", "bots": "bots", "over": "after the end"}


class Links(FigureKind):
    """All links, most clicked first."""

    key, name, params = "links.links", "Links", LinksParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """Of each link the clicks of people, of bots, and after its end."""
        scope, (begun, held) = scope_of(study, params), spans_of(study)
        links = {link.pk: link for link in links_of(study.brand) if scope.links is None or link.pk in scope.links}
        now, before = counted(study.brand, begun), counted(study.brand, held)
        order = sorted(links, key=lambda pk: (-now.get(pk, NONE)[0], -pk))
        return FigureSet(
            title=f"{len(links):,} links", made=(links, order), definitions=[("clicks", PEOPLE)],
            cells=[
                Cell(key=cell_key(pk, column), name=f"{links[pk].name or links[pk].code}, {name}", unit=Unit.COUNT,
                     row=str(pk), column=name, now=count_of(now.get(pk, NONE)[i]),
                     before=count_of(before.get(pk, NONE)[i]) if column == "people" else None)
                for pk in order
                for i, (column, name) in enumerate(COLUMNS.items())
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """A link's count by week or month."""
        made = cell_of(self.compute(study, params), cell)
        pk, column = cell_parts(cell)
        begun, _ = spans_of(study)
        rows = ClickDay.objects.filter(
            brand_id=study.brand.pk, link_id=int(pk), day__gte=begun.first, day__lte=begun.last
        )
        return Basis(
            key=cell, name=made.name, unit=Unit.COUNT, definition=PEOPLE, figure=made.now, before=made.before,
            rule=Rule.SUM, parts=by_step(rows, begun, column), parts_name=step_of(begun), is_counted_here=True,
            behind=Behind(path=f"links/{pk}", name="The link"), what="on our links",
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row a link."""
        del params
        links, order = made.made
        at = {cell.key: cell for cell in made.cells}
        rows: list[Row] = []
        for pk in order:
            link, (people, bots, over) = links[pk], (at[cell_key(pk, column)] for column in COLUMNS)
            rows.append([
                link.name, link.code, link.destination, network_name(link.network) if link.network else "",
                link.campaign.name if link.campaign else "", int(people.now.value or 0),
                int(people.before.value or 0) if people.before else None, int(bots.now.value or 0),
                int(over.now.value or 0),
            ])  # fmt: skip
        return Sheet(
            name="links", rows=rows, definitions=made.definitions, about=about(study),
            head=["name", "code", "destination", "network", "campaign", "clicks", "comparison", "bots",
                  "after the end"],
        )  # fmt: skip
