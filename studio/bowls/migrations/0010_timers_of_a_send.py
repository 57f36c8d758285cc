from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('bowls', '0009_what_was_known_by_name'),
    ]

    operations = [
        migrations.AddField(
            model_name='timer',
            name='key',
            field=models.UUIDField(blank=True, null=True),
        ),
    ]
