"""Brands, as they hand themselves in."""

from dakika_server.accounts.permissions import permit
from dakika_server.accounts.queries import brands_seen
from dakika_server.brands import retention
from dakika_server.brands.authentication import person_by_token
from dakika_server.brands.belongings import BELONGINGS, Belonging
from dakika_server.brands.models import Campaign
from dakika_server.brands.permissions import ROWS
from dakika_server.brands.queries import brands_of
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import note_changes
from dakika_server.shared.security import by_token


def _connect() -> None:
    note_changes({
        "brands_brand": None, "brands_membership": None, "brands_invitation": None, "brands_campaign": None,
    })  # fmt: skip
    permit(ROWS)
    retention.connect()
    # Sessions show the brands of a person; accounts stand below and cannot ask themselves.
    brands_seen.add("brands", brands_of)
    by_token.add("brands", person_by_token)
    BELONGINGS.add(
        "brands.campaigns",
        Belonging(
            one="campaign", many="campaigns", field="owner",
            rows=lambda brand, person: Campaign.objects.filter(brand=brand, owner=person),
        ),
    )  # fmt: skip


AREA = Area(name="brands", urls="dakika_server.brands.urls", connect=_connect)
