"""One of several broke: a tap at the bench."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('day', '0002_kinds'),
    ]

    operations = [
        migrations.AlterField(
            model_name='dayevent',
            name='kind',
            field=models.CharField(choices=[('done', 'done'), ('one', 'one more'), ('undone', 'not done after all'), ('longer', 'needs longer'), ('wrong', 'went wrong'), ('again', 'made again'), ('broke', 'one broke'), ('anew', 'from the beginning')], max_length=6),
        ),
    ]
