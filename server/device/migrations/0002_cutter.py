from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("device", "0001_device")]

    operations = [migrations.AddField("device", "cutter", models.IntegerField(default=1))]
