import json

from django.db import migrations, models


def called_by_its_profile(apps, schema_editor):
    for one in apps.get_model("device", "Device").objects.exclude(profile=""):
        one.machine = json.loads(one.profile).get("id", "")
        one.save(update_fields=["machine"])


class Migration(migrations.Migration):
    dependencies = [("device", "0002_cutter")]

    operations = [
        migrations.AddField(model_name="device", name="given", field=models.DateTimeField(null=True)),
        migrations.AddField(
            model_name="device", name="machine", field=models.CharField(default="", max_length=80, unique=True)
        ),
        migrations.RunPython(called_by_its_profile, migrations.RunPython.noop),
    ]
