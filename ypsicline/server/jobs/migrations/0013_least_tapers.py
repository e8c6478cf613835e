from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("jobs", "0012_outlines_of_photos")]

    operations = [
        migrations.RemoveField("padfilling", "can_go_deeper"),
        migrations.AddField("padfilling", "sought", models.JSONField(null=True)),
    ]
