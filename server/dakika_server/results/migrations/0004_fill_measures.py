"""Fill what is new from what is there: when posts were published, sums by day; and ask for the new columns anew."""

from django.db import migrations, models

PUBLISHED = """
UPDATE results_postmeasure m SET published_at = p.published_at, format = p.format, readings = NULL FROM sources_post p WHERE p.id = m.post_id
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
WHOLE_DAYS = """
INSERT INTO results_profileday (brand_id, profile_id, day, format, published, impressions, reach, interactions, link_clicks,
    interactions_with_reach, reach_with_interactions, interactions_with_impressions, impressions_with_interactions,
    link_clicks_with_impressions, impressions_with_link_clicks)
SELECT brand_id, profile_id, day, '', SUM(published), SUM(impressions), SUM(reach), SUM(interactions), SUM(link_clicks),
    SUM(interactions_with_reach), SUM(reach_with_interactions), SUM(interactions_with_impressions),
    SUM(impressions_with_interactions), SUM(link_clicks_with_impressions), SUM(impressions_with_link_clicks)
FROM results_profileday GROUP BY 1, 2, 3
"""
PUBLISHED_SUMS = """
INSERT INTO results_profilepublished (brand_id, profile_id, age_hours, day, posts, taken_at, interactions_n, interactions,
    pair_n, interactions_with_followers, followers_with_interactions, index_n, index_log)
SELECT m.brand_id, m.profile_id, m.age_hours, (m.published_at AT TIME ZONE b.time_zone)::date, COUNT(*), MAX(m.taken_at),
    COUNT(interactions), SUM(interactions), COUNT(*) FILTER (WHERE interactions IS NOT NULL AND followers IS NOT NULL),
    SUM(interactions) FILTER (WHERE followers IS NOT NULL), SUM(followers) FILTER (WHERE interactions IS NOT NULL),
    COUNT(*) FILTER (WHERE index > 0), SUM(LN(index)) FILTER (WHERE index > 0)
FROM results_postmeasure m JOIN brands_brand b ON b.id = m.brand_id GROUP BY 1, 2, 3, 4
"""


class Migration(migrations.Migration):

    dependencies = [("results", "0003_tags_findings")]

    operations = [
        migrations.RunSQL(PUBLISHED, migrations.RunSQL.noop),
        migrations.RunSQL(SUMS, migrations.RunSQL.noop),
        migrations.RunSQL(WHOLE_DAYS, migrations.RunSQL.noop),
        migrations.RunSQL(PUBLISHED_SUMS, migrations.RunSQL.noop),
        migrations.AlterField("postmeasure", "published_at", models.DateTimeField()),
        migrations.AlterField("postmeasure", "format", models.CharField(max_length=12)),
    ]
