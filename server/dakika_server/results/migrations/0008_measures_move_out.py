"""What is worked out from readings gets a room of its own, `measures`; the tables take its name, with all rows."""

from django.db import migrations

MOVED = ("postmeasure", "postday", "profileday", "profilepublished")
RENAMED = [f"ALTER TABLE results_{name} RENAME TO measures_{name}" for name in MOVED]
NAMED_AS_BEFORE = [f"ALTER TABLE measures_{name} RENAME TO results_{name}" for name in MOVED]


class Migration(migrations.Migration):

    dependencies = [
        ("results", "0007_how_posts_begin"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.RunSQL(RENAMED, NAMED_AS_BEFORE)],
            state_operations=[
                migrations.DeleteModel(name=name) for name in ("PostMeasure", "PostDay", "ProfileDay", "ProfilePublished")
            ],
        ),
    ]
