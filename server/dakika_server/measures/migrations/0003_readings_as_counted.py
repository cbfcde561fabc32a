"""A reading whose counts are the same is no change of measures."""

from django.db import migrations

from dakika_server.measures import changes


class Migration(migrations.Migration):
    dependencies = [("measures", "0002_what_came_since"), ("sources", "0008_answers_go_in_time")]
    operations = [migrations.RunSQL(changes.READINGS_AS_COUNTED, migrations.RunSQL.noop)]
