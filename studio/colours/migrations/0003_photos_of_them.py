"""Colours are those of the swatch book's own app; nothing of a table changes."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("colours", "0002_colour")]

    operations = [migrations.SeparateDatabaseAndState(state_operations=[
        migrations.AlterField(
            model_name="photo", name="colour",
            field=models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE,
                                    related_name="photo", to="colours.colour"),
        ),
    ])]
