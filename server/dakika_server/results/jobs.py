"""Entry points of the worker for results."""

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database


@app.task(queue="files", name="results.measure")
@in_database
def measure(profile_id: int) -> None:
    """Bring a profile's measures up to date."""
    from dakika_server.results.measure import measure_profile
    from dakika_server.sources.models import Profile

    profile = Profile.objects.select_related("brand").filter(pk=profile_id).first()
    if profile is not None:
        measure_profile(profile)
