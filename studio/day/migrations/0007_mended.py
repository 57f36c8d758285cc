from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0006_numbers_within'),
        ('day', '0006_planned_jobs_keep_to_it'),
    ]

    operations = [
        migrations.AddField(
            model_name='dayevent',
            name='minutes',
            field=models.FloatField(default=0.0),
        ),
        migrations.AlterField(
            model_name='dayevent',
            name='kind',
            field=models.CharField(choices=[('done', 'done'), ('one', 'one more'), ('undone', 'not done after all'), ('longer', 'needs longer'), ('wrong', 'went wrong'), ('again', 'made again'), ('broke', 'one broke'), ('anew', 'from the beginning'), ('mended', 'is being mended')], max_length=6),
        ),
        migrations.AddConstraint(
            model_name='dayevent',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('minutes__gte', 0), ('minutes__lte', 20160)), ('minutes', None), _connector='OR'), name='day_event_minutes_within'),
        ),
    ]
