from django.db import migrations


def _renamed(old, new):
    def rename(apps, schema_editor):
        photos = apps.get_model("jobs", "Photo").objects
        for pk in photos.filter(result__has_key=old).values_list("pk", flat=True):
            photo = photos.get(pk=pk)
            photo.result = {new if k == old else k: v for k, v in photo.result.items()}
            photo.save(update_fields=["result"])

    return rename


class Migration(migrations.Migration):

    dependencies = [
        ('jobs', '0011_pad_fillings'),
    ]

    operations = [
        migrations.RunPython(_renamed("found", "outlines"), _renamed("outlines", "found"), elidable=False),
    ]
