"""What was written before versions had anything in common: the first text is the common one, the others are own."""

from django.db import migrations

FORWARD = """
UPDATE plan_plannedpost AS p SET text = v.text
FROM (SELECT DISTINCT ON (planned_post_id) planned_post_id, text FROM plan_version ORDER BY planned_post_id, id) v
WHERE v.planned_post_id = p.id;
UPDATE plan_version AS v SET
    due_at = p.scheduled_at,
    own = CASE WHEN v.text = p.text THEN ARRAY[]::varchar[] ELSE ARRAY['text'] END
FROM plan_plannedpost p WHERE p.id = v.planned_post_id;
"""


class Migration(migrations.Migration):
    dependencies = [("plan", "0004_common_and_own")]
    operations = [migrations.RunSQL(FORWARD, migrations.RunSQL.noop)]
