"""Colours are those of the swatch book's own app; nothing of a table changes."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("designs", "0005_marked"), ("colours", "0002_colour")]

    operations = [migrations.SeparateDatabaseAndState(state_operations=[
        migrations.AlterField(
            model_name="design", name="colour",
            field=models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL,
                                    related_name="+", to="colours.colour"),
        ),
    ])]
