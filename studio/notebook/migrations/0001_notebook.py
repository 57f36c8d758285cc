
import django.db.models.deletion
import uuid
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('accounts', '0006_numbers_within'),
        ('bowls', '0010_timers_of_a_send'),
        ('colours', '0005_bounds'),
        ('cupboard', '0008_numbers_within'),
        ('designs', '0007_bounds'),
        ('pieces', '0013_what_it_goes_by'),
    ]

    operations = [
        migrations.CreateModel(
            name='KitchenMark',
            fields=[
                ('kitchen', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='accounts.kitchen')),
                ('uid', models.UUIDField(default=uuid.uuid4, unique=True)),
            ],
        ),
        migrations.CreateModel(
            name='BowlSummary',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('seq', models.PositiveIntegerField()),
                ('lightness', models.FloatField(null=True)),
                ('a', models.FloatField(null=True)),
                ('b', models.FloatField(null=True)),
                ('melted_g', models.FloatField()),
                ('on_pieces_g', models.FloatField()),
                ('given_g', models.FloatField()),
                ('lost_g', models.FloatField()),
                ('left_g', models.FloatField()),
                ('parts', models.JSONField(default=dict)),
                ('bowl', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='summary', to='bowls.bowl')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Carrying',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('way', models.CharField(choices=[('out', 'written'), ('in', 'brought in')], max_length=3)),
                ('state', models.CharField(choices=[('asked', 'asked'), ('at it', 'at it'), ('done', 'done'), ('failed', 'failed')], default='asked', max_length=6)),
                ('done', models.PositiveIntegerField(default=0)),
                ('total', models.PositiveIntegerField(default=0)),
                ('size', models.BigIntegerField(default=0)),
                ('says', models.CharField(blank=True, max_length=400)),
                ('task', models.UUIDField(blank=True, null=True)),
                ('at', models.DateTimeField()),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
            ],
            options={
                'ordering': ['-at', '-pk'],
            },
        ),
        migrations.CreateModel(
            name='KeptPhoto',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('uid', models.UUIDField(default=uuid.uuid4, unique=True)),
                ('width', models.PositiveIntegerField()),
                ('height', models.PositiveIntegerField()),
                ('words', models.CharField(blank=True, max_length=200)),
                ('remarks', models.CharField(blank=True, max_length=300)),
                ('drawn', models.BooleanField(default=False)),
                ('taken_at', models.DateTimeField()),
                ('bowl', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='bowls.bowl')),
                ('ingredient', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='cupboard.ingredient')),
                ('job', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='pieces.job')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
                ('piece', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='photos', to='pieces.piece')),
            ],
        ),
        migrations.CreateModel(
            name='MadeAgain',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('job', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='made_again', to='pieces.job')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
                ('of', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='again', to='pieces.job')),
            ],
            options={
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Note',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('text', models.CharField(max_length=1000)),
                ('key', models.UUIDField(unique=True)),
                ('at', models.DateTimeField()),
                ('gone', models.BooleanField(default=False)),
                ('step', models.CharField(blank=True, max_length=80)),
                ('says', models.CharField(blank=True, max_length=200)),
                ('before', models.OneToOneField(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='put_otherwise', to='notebook.note')),
                ('bowl', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='notes', to='bowls.bowl')),
                ('colour', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='notes', to='colours.colour')),
                ('design', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='notes', to='designs.design')),
                ('ingredient', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='notes', to='cupboard.ingredient')),
                ('job', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='notes', to='pieces.job')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
                ('piece', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='notes', to='pieces.piece')),
            ],
            options={
                'ordering': ['at', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='Outcome',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.UUIDField(unique=True)),
                ('good', models.PositiveIntegerField(blank=True, null=True)),
                ('coat', models.CharField(blank=True, choices=[('thin', 'too thin'), ('right', 'right'), ('thick', 'too thick')], max_length=5)),
                ('bowl', models.CharField(blank=True, choices=[('short', 'too little'), ('enough', 'enough'), ('left', 'some left over')], max_length=6)),
                ('liked', models.CharField(blank=True, choices=[('yes', 'liked it'), ('so_so', 'so-so'), ('no', 'no')], max_length=5)),
                ('at', models.DateTimeField()),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='outcomes', to='pieces.job')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
                ('piece', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='outcomes', to='pieces.piece')),
            ],
            options={
                'ordering': ['at', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='OpenedPack',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('lot', models.CharField(blank=True, max_length=40)),
                ('best_before', models.DateField(blank=True, null=True)),
                ('at', models.DateTimeField()),
                ('ingredient', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='opened', to='cupboard.ingredient')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
                ('photo', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='notebook.keptphoto')),
            ],
            options={
                'ordering': ['at', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='CameFrom',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('table', models.CharField(max_length=20)),
                ('origin', models.UUIDField()),
                ('number', models.BigIntegerField()),
                ('here', models.BigIntegerField()),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
            ],
            options={
                'indexes': [models.Index(fields=['kitchen', 'table', 'here'], name='notebook_ca_kitchen_037e98_idx')],
                'constraints': [models.UniqueConstraint(fields=('kitchen', 'table', 'origin', 'number'), name='a_row_comes_once')],
            },
        ),
        migrations.AddIndex(
            model_name='keptphoto',
            index=models.Index(fields=['kitchen', 'taken_at'], name='notebook_ke_kitchen_268594_idx'),
        ),
        migrations.AddConstraint(
            model_name='outcome',
            constraint=models.CheckConstraint(condition=models.Q(models.Q(('good__gte', 0), ('good__lte', 100000)), ('good', None), _connector='OR'), name='outcome_good_within'),
        ),
    ]
