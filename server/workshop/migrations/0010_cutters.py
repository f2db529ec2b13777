from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("workshop", "0009_versions_variants")]

    operations = [
        migrations.CreateModel(
            name="LibraryCutter",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=80, unique=True)),
                ("document", models.TextField()),
            ],
            options={"ordering": ["name"]},
        ),
    ]
