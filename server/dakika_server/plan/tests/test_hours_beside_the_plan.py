"""Promise: the hours that are proposed keep away from what is planned already."""

from datetime import datetime, timedelta
from typing import Any

import pytest

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import make_profile
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.shared import clock
from dakika_server.timing.testing import post_daily

pytestmark = pytest.mark.django_db
TIMING = "/api/brands/orrery-house/timing"


@pytest.mark.parametrize("state", ["scheduled", "draft"])
def test_no_hour_is_proposed_beside_a_planned_post(editor: Any, client_of: Any, brand: Brand, state: str) -> None:
    client = client_of(editor)
    profile = post_daily(make_profile(brand), evening=2.5)
    first = datetime.fromisoformat(client.get(TIMING).json()["free"][0]["at"])
    planned = PlannedPost.objects.create(brand=brand, created_at=clock.now(), scheduled_at=first, state=state)
    Version.objects.create(planned_post=planned, profile=profile, text="x", state=state, due_at=planned.scheduled_at)
    told = client.get(TIMING).json()
    assert [datetime.fromisoformat(one["at"]) for one in told["planned"]] == [first]
    assert told["planned"][0]["edition"] == 1
    apart = [abs(datetime.fromisoformat(slot["at"]) - first) for slot in told["free"]]
    assert min(apart) >= timedelta(hours=6)
