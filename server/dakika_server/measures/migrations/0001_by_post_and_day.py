"""The state alone: the tables were made by results and have been renamed (results 0008)."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('results', '0008_measures_move_out'),
        ('brands', '0003_preferences'),
        ('sources', '0006_looked_into_by_a_worker'),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name='PostDay',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('day', models.DateField()),
                        ('impressions', models.FloatField(null=True)),
                        ('reach', models.FloatField(null=True)),
                        ('interactions', models.FloatField(null=True)),
                        ('link_clicks', models.FloatField(null=True)),
                        ('is_placed', models.BooleanField(db_default=False, default=False)),
                        ('brand', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, to='brands.brand')),
                        ('post', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='days', to='sources.post')),
                        ('profile', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, to='sources.profile')),
                    ],
                    options={
                        'indexes': [models.Index(fields=['profile', 'day'], include=('post', 'impressions', 'reach', 'interactions', 'link_clicks'), name='gain_by_profile_day')],
                        'constraints': [models.UniqueConstraint(fields=('post', 'day'), name='gain_once_per_day')],
                    },
                ),
                migrations.CreateModel(
                    name='PostMeasure',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('age_hours', models.SmallIntegerField()),
                        ('published_at', models.DateTimeField()),
                        ('format', models.CharField(max_length=12)),
                        ('taken_at', models.DateTimeField(null=True)),
                        ('readings', models.IntegerField(help_text='how many readings it was made from; NULL asks for it anew', null=True)),
                        ('followers', models.FloatField(null=True)),
                        ('impressions', models.FloatField(null=True)),
                        ('reach', models.FloatField(null=True)),
                        ('interactions', models.FloatField(null=True)),
                        ('reactions', models.FloatField(null=True)),
                        ('comments', models.FloatField(null=True)),
                        ('shares', models.FloatField(null=True)),
                        ('saves', models.FloatField(null=True)),
                        ('link_clicks', models.FloatField(null=True)),
                        ('profile_visits', models.FloatField(null=True)),
                        ('video_views', models.FloatField(null=True)),
                        ('video_seconds', models.FloatField(null=True)),
                        ('video_completions', models.FloatField(null=True)),
                        ('calls', models.FloatField(null=True)),
                        ('directions', models.FloatField(null=True)),
                        ('negative', models.FloatField(null=True)),
                        ('typical', models.FloatField(help_text='typical interactions of its format at this age', null=True)),
                        ('index', models.FloatField(help_text='interactions / typical', null=True)),
                        ('profile_index', models.FloatField(help_text='interactions / typical of the profile, whatever the format', null=True)),
                        ('brand', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, to='brands.brand')),
                        ('post', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='measures', to='sources.post')),
                        ('profile', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, to='sources.profile')),
                    ],
                    options={
                        'indexes': [models.Index(fields=['profile', 'age_hours', 'published_at'], name='measure_by_profile_age_time')],
                        'constraints': [models.UniqueConstraint(fields=('post', 'age_hours'), name='measure_once_per_age')],
                    },
                ),
                migrations.CreateModel(
                    name='ProfileDay',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('day', models.DateField()),
                        ('format', models.CharField(max_length=12)),
                        ('published', models.IntegerField(default=0)),
                        ('placed', models.IntegerField(db_default=0, default=0, help_text='posts whose later total stands on this day, that of publishing')),
                        ('impressions', models.FloatField(null=True)),
                        ('reach', models.FloatField(null=True)),
                        ('interactions', models.FloatField(null=True)),
                        ('link_clicks', models.FloatField(null=True)),
                        ('interactions_with_reach', models.FloatField(null=True)),
                        ('reach_with_interactions', models.FloatField(null=True)),
                        ('interactions_with_impressions', models.FloatField(null=True)),
                        ('impressions_with_interactions', models.FloatField(null=True)),
                        ('link_clicks_with_impressions', models.FloatField(null=True)),
                        ('impressions_with_link_clicks', models.FloatField(null=True)),
                        ('brand', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, to='brands.brand')),
                        ('profile', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, to='sources.profile')),
                    ],
                    options={
                        'constraints': [models.UniqueConstraint(fields=('profile', 'format', 'day'), name='profile_day_once')],
                    },
                ),
                migrations.CreateModel(
                    name='ProfilePublished',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('age_hours', models.SmallIntegerField()),
                        ('day', models.DateField()),
                        ('posts', models.IntegerField()),
                        ('taken_at', models.DateTimeField(null=True)),
                        ('interactions_n', models.IntegerField(default=0)),
                        ('interactions', models.FloatField(null=True)),
                        ('pair_n', models.IntegerField(default=0)),
                        ('interactions_with_followers', models.FloatField(null=True)),
                        ('followers_with_interactions', models.FloatField(null=True)),
                        ('index_n', models.IntegerField(default=0)),
                        ('index_log', models.FloatField(null=True)),
                        ('brand', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, to='brands.brand')),
                        ('profile', models.ForeignKey(db_constraint=False, db_index=False, on_delete=django.db.models.deletion.CASCADE, to='sources.profile')),
                    ],
                    options={
                        'constraints': [models.UniqueConstraint(fields=('profile', 'age_hours', 'day'), name='published_once')],
                    },
                ),
            ],
        ),
    ]
