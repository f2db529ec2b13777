from django.db import migrations


class Migration(migrations.Migration):
    """A project as it is stored has a name of its own; its table stays."""

    dependencies = [("workshop", "0018_demo_marked")]

    operations = [
        migrations.AlterModelTable("project", "workshop_project"),
        migrations.RenameModel("Project", "StoredProject"),
    ]
