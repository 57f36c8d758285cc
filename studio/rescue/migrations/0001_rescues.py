import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('accounts', '0006_numbers_within'),
        ('bowls', '0010_timers_of_a_send'),
        ('pieces', '0013_what_it_goes_by'),
    ]

    operations = [
        migrations.CreateModel(
            name='Rescue',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('step', models.CharField(blank=True, max_length=80)),
                ('key', models.UUIDField(unique=True)),
                ('symptom', models.CharField(choices=[('clumpy', 'clumpy'), ('thick', 'thick'), ('thin', 'thin'), ('stiffening', 'stiffening'), ('grainy', 'grainy'), ('specks', 'specks'), ('streaks', 'streaks'), ('too_dark', 'too_dark'), ('too_pale', 'too_pale'), ('wrong_tint', 'wrong_tint'), ('burnt_smell', 'burnt_smell'), ('coat_thick', 'coat_thick'), ('coat_thin', 'coat_thin'), ('slides', 'slides'), ('cracks', 'cracks'), ('foot', 'foot'), ('bubbles', 'bubbles'), ('soft', 'soft'), ('grey', 'grey'), ('wet', 'wet'), ('runs_together', 'runs_together'), ('line_stops', 'line_stops'), ('line_breaks', 'line_breaks'), ('line_spreads', 'line_spreads'), ('drip_far', 'drip_far'), ('drip_short', 'drip_short'), ('lace_breaks', 'lace_breaks'), ('lace_tears', 'lace_tears'), ('stuck', 'stuck'), ('breaks_out', 'breaks_out'), ('corners', 'corners'), ('no_print', 'no_print'), ('muddy', 'muddy'), ('first_plain', 'first_plain'), ('joint_slips', 'joint_slips'), ('paint_streaky', 'paint_streaky'), ('toppings_fall', 'toppings_fall'), ('toppings_sink', 'toppings_sink')], max_length=20)),
                ('cause', models.CharField(choices=[('overheated', 'overheated'), ('lumps', 'lumps'), ('cold', 'cold'), ('water', 'water'), ('water_colour', 'water_colour'), ('thick_product', 'thick_product'), ('thin_product', 'thin_product'), ('too_warm', 'too_warm'), ('too_much_fat', 'too_much_fat'), ('fat_unmelted', 'fat_unmelted'), ('overdose', 'overdose'), ('underdose', 'underdose'), ('wrong_hue', 'wrong_hue'), ('undermixed', 'undermixed'), ('powder', 'powder'), ('edge_set', 'edge_set'), ('lost_temper', 'lost_temper'), ('never_tempered', 'never_tempered'), ('mixed_fats', 'mixed_fats'), ('liquid_oil', 'liquid_oil'), ('warm_room', 'warm_room'), ('chilled_hard', 'chilled_hard'), ('damp', 'damp'), ('stick_not_set', 'stick_not_set'), ('cold_core', 'cold_core'), ('moist_core', 'moist_core'), ('not_shaken', 'not_shaken'), ('not_scraped', 'not_scraped'), ('not_tapped', 'not_tapped'), ('thin_wall', 'thin_wall'), ('mould_dirty', 'mould_dirty'), ('early_out', 'early_out'), ('lifted_late', 'lifted_late'), ('lifted_early', 'lifted_early'), ('hole_small', 'hole_small'), ('hole_big', 'hole_big'), ('cold_bag', 'cold_bag'), ('drip_big', 'drip_big'), ('drip_small', 'drip_small'), ('wall_warm', 'wall_warm'), ('wall_cold', 'wall_cold'), ('print_away', 'print_away'), ('overworked', 'overworked'), ('bottle_order', 'bottle_order'), ('toppings_late', 'toppings_late'), ('toppings_early', 'toppings_early'), ('thick_paint', 'thick_paint'), ('bead_set', 'bead_set')], max_length=20)),
                ('move', models.CharField(choices=[('stir', 'stir'), ('warm', 'warm'), ('cool', 'cool'), ('thin', 'thin'), ('add_base', 'add_base'), ('correct', 'correct'), ('temper', 'temper'), ('keep', 'keep'), ('swap', 'swap'), ('warm_bag', 'warm_bag'), ('cut_hole', 'cut_hole'), ('new_bag', 'new_bag'), ('squeeze_less', 'squeeze_less'), ('squeeze_more', 'squeeze_more'), ('chill_wall', 'chill_wall'), ('warm_wall', 'warm_wall'), ('cold_place', 'cold_place'), ('wait', 'wait'), ('boxed', 'boxed'), ('dry_core', 'dry_core'), ('shake', 'shake'), ('scrape', 'scrape'), ('tap', 'tap'), ('ease', 'ease'), ('second_coat', 'second_coat'), ('panels', 'panels'), ('turn_film', 'turn_film'), ('stop_sooner', 'stop_sooner'), ('order', 'order'), ('sooner', 'sooner'), ('thin_coats', 'thin_coats'), ('short_runs', 'short_runs')], max_length=20)),
                ('answers', models.JSONField(default=dict)),
                ('happened_at', models.DateTimeField()),
                ('undone', models.BooleanField(default=False)),
                ('helped', models.CharField(blank=True, choices=[('yes', 'It is right again'), ('partly', 'It is better'), ('no', 'It did not help')], max_length=6)),
                ('bowl', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='rescues', to='bowls.bowl')),
                ('job', models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name='rescues', to='pieces.job')),
                ('kitchen', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.kitchen')),
            ],
            options={
                'ordering': ['happened_at', 'pk'],
                'indexes': [models.Index(fields=['kitchen', 'happened_at'], name='rescue_resc_kitchen_11b6e1_idx')],
            },
        ),
    ]
