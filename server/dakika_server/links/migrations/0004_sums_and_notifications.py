"""Sums kept by triggers, notifications for the redirect, and what there was before taken along."""

from django.db import migrations

from dakika_server.links import sql


class Migration(migrations.Migration):

    dependencies = [("links", "0003_redirect_beside_django"), ("brands", "0001_initial")]

    operations = [
        migrations.RunSQL(
            "INSERT INTO links_linkuse (link_id, post_id) SELECT id, post_id FROM links_trackedlink WHERE post_id IS NOT NULL",
            migrations.RunSQL.noop,
        ),
        migrations.RunSQL(sql.SUMS, migrations.RunSQL.noop),
        migrations.RunSQL(sql.NOTIFICATIONS, migrations.RunSQL.noop),
        migrations.RunSQL("SELECT links_sum_anew(id) FROM brands_brand", migrations.RunSQL.noop),
    ]
