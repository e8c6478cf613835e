from __future__ import annotations

from collections.abc import Callable

from django.apps.registry import Apps
from django.db import migrations, models
from django.db.backends.base.schema import BaseDatabaseSchemaEditor
from django.db.migrations.operations.base import Operation

# what was words only becomes a message, or the same words from before there were messages
CARRIED = [("revision", "what"), ("photo", "sentence"), ("photo", "stage"), ("camera", "sentence")]


def carrying(model: str, field: str) -> Callable[[Apps, BaseDatabaseSchemaEditor], None]:
    def carry(apps: Apps, _: BaseDatabaseSchemaEditor) -> None:
        rows = apps.get_model("jobs", model).objects
        for number, words in rows.order_by("pk").values_list("pk", f"{field}_before").iterator():
            rows.filter(pk=number).update(**{field: words})

    return carry


def carried(model: str, field: str) -> list[Operation]:
    return [
        migrations.RenameField(model, field, f"{field}_before"),
        migrations.AddField(model, field, models.JSONField(blank=True, default=str), preserve_default=field != "what"),
        migrations.RunPython(carrying(model, field), migrations.RunPython.noop),
        migrations.RemoveField(model, f"{field}_before"),
    ]


class Migration(migrations.Migration):
    dependencies = [("jobs", "0008_document_parts")]

    operations = [
        *(step for model, field in CARRIED for step in carried(model, field)),
        migrations.AlterField("revision", "what", models.JSONField()),
    ]
