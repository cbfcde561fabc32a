"""The state alone: the tables were made by links and have been renamed (links 0008)."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('brands', '0003_preferences'),
        ('links', '0008_what_is_of_the_site_moves_out'),
        ('sources', '0006_looked_into_by_a_worker'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name='Conversion',
                    fields=[
                        ('id', models.BigAutoField(primary_key=True, serialize=False)),
                        ('visitor', models.BinaryField(max_length=16, null=True)),
                        ('key', models.CharField(max_length=120)),
                        ('at', models.DateTimeField()),
                        ('cents', models.BigIntegerField()),
                        ('currency', models.CharField(max_length=3)),
                        ('stage', models.CharField(blank=True, help_text='of a contact: such as lead, offer, customer', max_length=40)),
                        ('contact', models.CharField(blank=True, help_text="the brand's own word for whom it is about", max_length=120)),
                        ('import_id', models.BigIntegerField(null=True)),
                        ('brand', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, to='brands.brand')),
                    ],
                ),
                migrations.CreateModel(
                    name='ConversionStage',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('stage', models.CharField(max_length=40)),
                        ('at', models.DateTimeField()),
                        ('by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                        ('conversion', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='stages', to='site.conversion')),
                    ],
                    options={
                        'ordering': ['at'],
                    },
                ),
                migrations.CreateModel(
                    name='Goal',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('name', models.CharField(max_length=80)),
                        ('kind', models.CharField(choices=[('page', 'Page'), ('event', 'Event'), ('import', 'Import')], max_length=6)),
                        ('pattern', models.CharField(blank=True, help_text="the page's path, * for any part; or the event's name", max_length=300)),
                        ('cents', models.BigIntegerField(default=0, help_text='worth, where a conversion says nothing of its own')),
                        ('currency', models.CharField(default='EUR', help_text='ISO 4217', max_length=3)),
                        ('is_archived', models.BooleanField(default=False)),
                        ('brand', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='goals', to='brands.brand')),
                    ],
                ),
                migrations.AddField(
                    model_name='conversion',
                    name='goal',
                    field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='conversions', to='site.goal'),
                ),
                migrations.CreateModel(
                    name='Site',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('name', models.CharField(max_length=120)),
                        ('hosts', models.JSONField(default=list, help_text='where the script may report from, such as orrery.example')),
                        ('key', models.CharField(help_text='stands in the page; opens nothing but its own counting', max_length=40, unique=True)),
                        ('created_at', models.DateTimeField()),
                        ('brand', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sites', to='brands.brand')),
                    ],
                ),
                migrations.CreateModel(
                    name='AccessLog',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('created_at', models.DateTimeField()),
                        ('ended_at', models.DateTimeField(null=True)),
                        ('file_name', models.CharField(max_length=255)),
                        ('size', models.BigIntegerField(help_text='bytes')),
                        ('state', models.CharField(choices=[('waiting', 'Waiting'), ('reading', 'Reading'), ('done', 'Done'), ('failed', 'Failed')], default='waiting', max_length=8)),
                        ('lines', models.BigIntegerField(default=0)),
                        ('visits', models.BigIntegerField(default=0)),
                        ('new_visits', models.BigIntegerField(default=0)),
                        ('not_pages', models.BigIntegerField(default=0)),
                        ('bots', models.BigIntegerField(default=0)),
                        ('unreadable', models.BigIntegerField(default=0)),
                        ('message', models.CharField(blank=True, max_length=300)),
                        ('brand', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, to='brands.brand')),
                        ('created_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                        ('site', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='logs', to='site.site')),
                    ],
                ),
                migrations.CreateModel(
                    name='Visit',
                    fields=[
                        ('id', models.BigAutoField(primary_key=True, serialize=False)),
                        ('visitor', models.BinaryField(help_text='a hash; of the day alone, unless the person agreed to more', max_length=16)),
                        ('started_at', models.DateTimeField()),
                        ('ended_at', models.DateTimeField()),
                        ('pages', models.IntegerField()),
                        ('paths', models.JSONField(default=list)),
                        ('channel', models.CharField(max_length=100)),
                        ('referrer', models.CharField(blank=True, max_length=255)),
                        ('source', models.CharField(blank=True, max_length=100)),
                        ('medium', models.CharField(blank=True, max_length=100)),
                        ('utm_campaign', models.CharField(blank=True, max_length=100)),
                        ('content', models.CharField(blank=True, max_length=100)),
                        ('click_key', models.UUIDField(null=True)),
                        ('device', models.CharField(blank=True, max_length=10)),
                        ('browser', models.CharField(blank=True, max_length=40)),
                        ('language', models.CharField(blank=True, max_length=3)),
                        ('country', models.CharField(blank=True, max_length=2)),
                        ('origin', models.CharField(help_text='script, log or file', max_length=6)),
                        ('brand', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, to='brands.brand')),
                        ('campaign', models.ForeignKey(db_index=False, null=True, on_delete=django.db.models.deletion.SET_NULL, to='brands.campaign')),
                        ('link', models.ForeignKey(db_index=False, null=True, on_delete=django.db.models.deletion.SET_NULL, to='links.trackedlink')),
                        ('post', models.ForeignKey(db_index=False, null=True, on_delete=django.db.models.deletion.SET_NULL, to='sources.post')),
                        ('site', models.ForeignKey(db_index=False, null=True, on_delete=django.db.models.deletion.SET_NULL, to='site.site')),
                    ],
                ),
                migrations.AddField(
                    model_name='conversion',
                    name='visit',
                    field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='conversions', to='site.visit'),
                ),
                migrations.CreateModel(
                    name='AccessLogChunk',
                    fields=[
                        ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                        ('number', models.IntegerField()),
                        ('data', models.BinaryField()),
                        ('log', models.ForeignKey(db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name='chunks', to='site.accesslog')),
                    ],
                    options={
                        'constraints': [models.UniqueConstraint(fields=('log', 'number'), name='access_log_chunk_once')],
                    },
                ),
                migrations.AddConstraint(
                    model_name='goal',
                    constraint=models.UniqueConstraint(fields=('brand', 'name'), name='goal_name_once'),
                ),
                migrations.AddConstraint(
                    model_name='site',
                    constraint=models.UniqueConstraint(fields=('brand', 'name'), name='site_name_once'),
                ),
                migrations.AddIndex(
                    model_name='accesslog',
                    index=models.Index(fields=['brand', '-created_at'], name='access_log_by_brand'),
                ),
                migrations.AddIndex(
                    model_name='visit',
                    index=models.Index(fields=['brand', 'started_at'], include=('channel', 'post', 'campaign'), name='visit_by_brand_time'),
                ),
                migrations.AddIndex(
                    model_name='visit',
                    index=models.Index(condition=models.Q(('click_key__isnull', False)), fields=['click_key'], name='visit_by_click'),
                ),
                migrations.AddIndex(
                    model_name='visit',
                    index=models.Index(condition=models.Q(('post__isnull', False)), fields=['post'], name='visit_by_post'),
                ),
                migrations.AddIndex(
                    model_name='visit',
                    index=models.Index(condition=models.Q(('link__isnull', False)), fields=['link'], name='visit_by_link'),
                ),
                migrations.AddConstraint(
                    model_name='visit',
                    constraint=models.UniqueConstraint(fields=('brand', 'visitor', 'started_at'), name='visit_once'),
                ),
                migrations.AddIndex(
                    model_name='conversion',
                    index=models.Index(fields=['brand', 'at'], name='conversion_by_brand_time'),
                ),
                migrations.AddIndex(
                    model_name='conversion',
                    index=models.Index(fields=['brand', 'visitor'], name='conversion_by_visitor'),
                ),
                migrations.AddIndex(
                    model_name='conversion',
                    index=models.Index(condition=models.Q(('import_id__isnull', False)), fields=['import_id'], name='conversion_by_import'),
                ),
                migrations.AddConstraint(
                    model_name='conversion',
                    constraint=models.UniqueConstraint(fields=('brand', 'key'), name='conversion_once'),
                ),
            ],
        ),
    ]
