"""No colour is left here."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ("pieces", "0009_colours_elsewhere"), ("bowls", "0005_colours_elsewhere"),
        ("designs", "0006_colours_elsewhere"), ("colours", "0003_photos_of_them"),
    ]

    operations = [migrations.SeparateDatabaseAndState(state_operations=[migrations.DeleteModel("Colour")])]
