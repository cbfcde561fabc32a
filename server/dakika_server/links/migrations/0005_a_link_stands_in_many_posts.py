from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [("links", "0004_sums_and_notifications")]

    operations = [migrations.RemoveField(model_name="trackedlink", name="post")]
