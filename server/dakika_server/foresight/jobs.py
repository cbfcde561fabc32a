"""Entry points of the worker for foresight."""

from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database


@app.task(queue="bulk", name="foresight.look", priority=-5)
@in_database
def look(profile_id: int) -> None:
    """Look ahead for a profile, without measuring it."""
    from dakika_server.foresight.looking import look_ahead
    from dakika_server.sources.models import Profile

    profile = Profile.objects.select_related("brand").filter(pk=profile_id).first()
    if profile is not None:
        look_ahead(profile)
