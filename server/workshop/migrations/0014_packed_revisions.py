"""Documents of revisions become differences from whole ones, both compressed."""

from typing import Any

import django.db.models.deletion
import zstandard
from django.db import migrations, models

#: So many revisions of a project stand upon one whole document.
EACH = 50


def pack(apps: Any, schema_editor: Any) -> None:
    here = schema_editor.connection.alias
    projects, revisions, grounds = (
        apps.get_model("workshop", name).objects.using(here) for name in ("Project", "Revision", "Ground")
    )
    for project in projects.values_list("id", flat=True):
        of_it = list(revisions.filter(project=project).order_by("id").values_list("id", flat=True))
        for count, revision_id in enumerate(of_it):
            data = revisions.values_list("document", flat=True).get(id=revision_id).encode()
            if count % EACH == 0:
                how = zstandard.ZstdCompressionDict(data, dict_type=zstandard.DICT_TYPE_RAWCONTENT)
                ground = grounds.create(project_id=project, whole=zstandard.ZstdCompressor(3).compress(data))
            difference = zstandard.ZstdCompressor(3, dict_data=how).compress(data)
            revisions.filter(id=revision_id).update(ground=ground, difference=difference)


class Migration(migrations.Migration):
    dependencies = [("workshop", "0013_offcuts_of_steps")]

    operations = [
        migrations.CreateModel(
            name="Ground",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("whole", models.BinaryField()),
                (
                    "project",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="grounds", to="workshop.project"
                    ),
                ),
            ],
        ),
        migrations.AddField(
            model_name="revision",
            name="ground",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.RESTRICT,
                related_name="revisions",
                to="workshop.ground",
            ),
        ),
        migrations.AddField(model_name="revision", name="difference", field=models.BinaryField(default=b"")),
        migrations.RunPython(pack),
        migrations.AlterField(
            model_name="revision",
            name="ground",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.RESTRICT, related_name="revisions", to="workshop.ground"
            ),
        ),
        migrations.AlterField(model_name="revision", name="difference", field=models.BinaryField()),
        migrations.RemoveField(model_name="revision", name="document"),
    ]
