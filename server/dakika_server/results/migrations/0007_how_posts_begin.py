from django.db import migrations

# How posts begin is told too, and what they gain on a day along a curve: every profile is worked out anew, by the worker,
# once it is up. Until then the figures of before stand.
ANEW = """
UPDATE results_postmeasure SET readings = NULL WHERE age_hours = 0;
INSERT INTO sources_profilerebuild (brand_id, profile_id, asked_at, done, total)
SELECT brand_id, id, now() - interval '5 minutes', 0, 0 FROM sources_profile p
WHERE EXISTS (SELECT 1 FROM sources_post WHERE profile_id = p.id)
ON CONFLICT DO NOTHING
"""


class Migration(migrations.Migration):
    dependencies = [("results", "0006_monotone_and_drawn"), ("sources", "0005_real_files")]
    operations = [migrations.RunSQL(ANEW, migrations.RunSQL.noop)]
