"""Colours are those of the swatch book's own app; nothing of a table changes."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("pieces", "0008_parts"), ("colours", "0002_colour")]

    operations = [migrations.SeparateDatabaseAndState(state_operations=[
        migrations.AlterField(
            model_name="layer", name="colour",
            field=models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.PROTECT,
                                    related_name="layers", to="colours.colour"),
        ),
    ])]
