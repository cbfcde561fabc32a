"""Fill what is new from what is there: when posts were published, sums by day; and ask for the new columns anew."""

from django.db import migrations, models

PUBLISHED = """
UPDATE results_postmeasure m SET published_at = p.published_at, readings = NULL FROM sources_post p WHERE p.id = m.post_id
"""
SUMS = """
WITH gained AS (
    SELECT d.brand_id, d.profile_id, d.day, p.format, SUM(d.impressions) AS impressions, SUM(d.reach) AS reach,
        SUM(d.interactions) AS interactions, SUM(d.link_clicks) AS link_clicks,
        SUM(d.interactions) FILTER (WHERE d.reach IS NOT NULL) AS a, SUM(d.reach) FILTER (WHERE d.interactions IS NOT NULL) AS b,
        SUM(d.interactions) FILTER (WHERE d.impressions IS NOT NULL) AS c,
        SUM(d.impressions) FILTER (WHERE d.interactions IS NOT NULL) AS e,
        SUM(d.link_clicks) FILTER (WHERE d.impressions IS NOT NULL) AS f,
        SUM(d.impressions) FILTER (WHERE d.link_clicks IS NOT NULL) AS g
    FROM results_postday d JOIN sources_post p ON p.id = d.post_id GROUP BY 1, 2, 3, 4
), published AS (
    SELECT p.brand_id, p.profile_id, (p.published_at AT TIME ZONE b.time_zone)::date AS day, p.format, COUNT(*) AS n
    FROM sources_post p JOIN brands_brand b ON b.id = p.brand_id GROUP BY 1, 2, 3, 4
)
INSERT INTO results_profileday (brand_id, profile_id, day, format, published, impressions, reach, interactions, link_clicks,
    interactions_with_reach, reach_with_interactions, interactions_with_impressions, impressions_with_interactions,
    link_clicks_with_impressions, impressions_with_link_clicks)
SELECT brand_id, profile_id, day, format, COALESCE(n, 0), impressions, reach, interactions, link_clicks, a, b, c, e, f, g
FROM gained FULL JOIN published USING (brand_id, profile_id, day, format)
"""


class Migration(migrations.Migration):

    dependencies = [("results", "0003_tags_findings")]

    operations = [
        migrations.RunSQL(PUBLISHED, migrations.RunSQL.noop),
        migrations.RunSQL(SUMS, migrations.RunSQL.noop),
        migrations.AlterField("postmeasure", "published_at", models.DateTimeField()),
    ]
