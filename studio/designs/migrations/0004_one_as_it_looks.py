"""How one of what was designed looks is kept with it."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('designs', '0003_what_is_drawn'),
    ]

    operations = [
        migrations.AddField(
            model_name='design',
            name='one',
            field=models.JSONField(blank=True, default=dict),
        ),
    ]
