"""What goes on another piece: a layer names it, and what was put on without a name stays as glue."""

import django.db.models.deletion
from django.db import migrations, models


def named(apps, schema_editor):
    """A file of a job could bring a part of nothing: it was glue."""
    apps.get_model("pieces", "Layer").objects.filter(technique="part").update(technique="glue")


class Migration(migrations.Migration):
    dependencies = [("accounts", "0005_own_pace"), ("cupboard", "0007_left_of_bowls"), ("pieces", "0007_one_bowl_a_colour")]

    operations = [
        migrations.RemoveConstraint(model_name="piece", name="piece_counts_at_least_one"),
        migrations.AddField(
            model_name="layer",
            name="part",
            field=models.ForeignKey(
                blank=True,
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="put_on",
                to="pieces.piece",
            ),
        ),
        migrations.AlterField(
            model_name="piece",
            name="spares",
            field=models.PositiveIntegerField(blank=True, default=None, null=True),
        ),
        migrations.RunPython(named, migrations.RunPython.noop),
        migrations.AddConstraint(
            model_name="layer",
            constraint=models.CheckConstraint(
                condition=models.Q(("technique", "part"), ("part", None), _connector="OR"),
                name="only_a_part_names_a_piece",
            ),
        ),
    ]
