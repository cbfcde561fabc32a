"""Entry points of the worker for results."""

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database


@app.task(queue="findings", name="results.find")
@in_database
def find_for(brand_id: int, morning: bool = False) -> None:  # noqa: FBT001, FBT002 (arguments of a job go by name)
    """Compute a brand's findings; in the morning people are told of the new ones."""
    from dakika_server.brands.models import Brand
    from dakika_server.results.findings import find
    from dakika_server.results.morning import tell_of_findings
    from dakika_server.shared import clock

    brand = Brand.objects.filter(pk=brand_id).first()
    if brand is None:
        return
    find(brand, clock.now())
    if morning:
        tell_of_findings(brand)
