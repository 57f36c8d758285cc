"""The table has the name of its app."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [("colours", "0003_photos_of_them"), ("pieces", "0010_no_colours")]

    operations = [migrations.AlterModelTable("colour", None)]
