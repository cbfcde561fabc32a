"""Visits, goals, conversions and access logs get a room of their own, `site`; the tables take its name, with all rows."""

from django.db import migrations

MOVED = ("site", "goal", "visit", "conversion", "conversionstage", "accesslog", "accesslogchunk")
RENAMED = [f"ALTER TABLE links_{name} RENAME TO site_{name}" for name in MOVED]
NAMED_AS_BEFORE = [f"ALTER TABLE site_{name} RENAME TO links_{name}" for name in MOVED]


class Migration(migrations.Migration):

    dependencies = [
        ("links", "0007_access_logs"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunSQL(RENAMED, NAMED_AS_BEFORE)],
            # What refers to others goes before them.
            state_operations=[
                migrations.DeleteModel(name=name)
                for name in ("AccessLogChunk", "AccessLog", "ConversionStage", "Conversion", "Visit", "Goal", "Site")
            ],
        ),
    ]
