"""Entry points of the worker for competitors."""

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database


@app.task(queue="mail", name="competitors.digest")
@in_database
def digest(brand_id: int, on: str) -> None:
    """Write a brand's weekly digests; run again, it writes none twice."""
    from datetime import datetime

    from dakika_server.brands.models import Brand
    from dakika_server.competitors.digest import send_digests

    brand = Brand.objects.filter(pk=brand_id).first()
    if brand is not None:
        send_digests(brand, datetime.fromisoformat(on))
