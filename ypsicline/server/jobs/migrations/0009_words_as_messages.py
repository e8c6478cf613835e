from __future__ import annotations

from django.apps.registry import Apps
from django.db import migrations, models
from django.db.backends.base.schema import BaseDatabaseSchemaEditor


def carry_words(apps: Apps, _: BaseDatabaseSchemaEditor) -> None:
    revisions = apps.get_model("jobs", "Revision").objects
    for number, words in revisions.order_by("pk").values_list("pk", "words").iterator():
        revisions.filter(pk=number).update(what=words)



class Migration(migrations.Migration):
    dependencies = [("jobs", "0008_document_parts")]

    operations = [
        migrations.RenameField("revision", "what", "words"),
        migrations.AddField("revision", "what", models.JSONField(default=str), preserve_default=False),
        migrations.RunPython(carry_words, migrations.RunPython.noop),
        migrations.RemoveField("revision", "words"),
    ]
