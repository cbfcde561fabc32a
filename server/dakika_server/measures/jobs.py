"""Entry points of the worker for measures."""

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database


# The alias is its name of before: what was asked for then is still done.
@app.task(queue="measure", name="measures.measure", aliases=["results.measure"])
@in_database
def measure(profile_id: int) -> None:
    """Bring a profile's measures up to date."""
    from dakika_server.measures.measured import measured
    from dakika_server.measures.measuring import measure_profile
    from dakika_server.sources.models import Profile

    profile = Profile.objects.select_related("brand").filter(pk=profile_id).first()
    if profile is not None:
        measure_profile(profile)
        measured(profile)
