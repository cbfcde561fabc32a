"""Entry points of the worker for results."""

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database


@app.periodic(cron="20 4 * * * 0")
@app.task(queue="upkeep", name="results.find_all", queueing_lock="results.find_all")
@in_database
def find_all(timestamp: int) -> None:
    """Have every brand's findings computed, each as a job of its own."""
    from dakika_server.brands.models import Brand

    del timestamp
    for pk in Brand.objects.order_by("pk").values_list("pk", flat=True):
        find_for.defer(brand_id=pk)


@app.task(queue="files", name="results.find")
@in_database
def find_for(brand_id: int) -> None:
    """Compute a brand's findings."""
    from dakika_server.brands.models import Brand
    from dakika_server.results.findings import find
    from dakika_server.shared import clock

    brand = Brand.objects.filter(pk=brand_id).first()
    if brand is not None:
        find(brand, clock.now())
