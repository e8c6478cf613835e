"""The highest revision number that a job ever had, so that none comes back."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models


def count_up(apps: Any, _: Any) -> None:
    for job in apps.get_model("jobs", "Job").objects.annotate(highest=models.Max("revisions__number")):
        job.latest = job.highest or 0
        job.save(update_fields=["latest"])


class Migration(migrations.Migration):
    dependencies = [("jobs", "0005_photo_taps")]
    operations = [
        migrations.AddField("job", "latest", models.PositiveIntegerField(default=0)),
        migrations.RunPython(count_up, migrations.RunPython.noop),
    ]
