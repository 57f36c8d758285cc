"""The colours of the swatch book come here from the pieces: first what is said of them, the table follows."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("colours", "0001_photos"), ("pieces", "0008_parts")]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[
            migrations.CreateModel(
                name="Colour",
                fields=[
                    ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                    ("version", models.PositiveIntegerField(default=1)),
                    ("name", models.CharField(max_length=60)),
                    ("lightness", models.FloatField()),
                    ("a", models.FloatField()),
                    ("b", models.FloatField()),
                    ("came_from", models.CharField(choices=[
                        ("first", "there from the first"), ("shade", "chosen by its shade"), ("chart", "from the chart"),
                        ("photo", "from a photo"), ("bowl", "from a bowl"), ("reading", "from a reading"),
                        ("brought", "brought in"),
                    ], default="shade", max_length=8)),
                    ("note", models.CharField(blank=True, max_length=200)),
                    ("made", models.JSONField(blank=True, default=dict)),
                    ("since", models.DateTimeField(auto_now_add=True, null=True)),
                    ("kitchen", models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="+", to="accounts.kitchen")),
                ],
                options={
                    "db_table": "pieces_colour",
                    "ordering": ["pk"],
                    "constraints": [
                        models.UniqueConstraint(fields=("kitchen", "name"), name="one_colour_name_a_kitchen")],
                },
            ),
        ]),
    ]
