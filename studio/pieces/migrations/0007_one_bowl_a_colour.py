"""One bowl a colour from now on: bowls that are begun, and those kept apart by choice, stay what they were."""

from django.db import migrations

# The flow that each technique wanted a bowl of its own for.
FLOWS = {
    "dip": "dip", "second_dip": "dip", "angled_dip": "dip", "rim": "dip", "pour": "marbling", "spread": "slab",
    "solid": "solid_mould", "shell": "shell", "cap": "shell", "cake_drip": "cake_drip", "lines": "lettering",
    "lettering": "lettering", "dots": "lettering", "drizzle": "drizzle", "flood": "flood", "lace": "lace",
    "transfer": "sheet", "film": "sheet", "petals": "petals", "marbling": "marbling", "paint": "flood", "glue": "glue",
}


def bowls_stay(apps, editor):
    layers, uses = apps.get_model("pieces", "Layer"), apps.get_model("bowls", "BowlUse")
    begun = set(uses.objects.values_list("layer_id", flat=True))
    jobs = {}
    for layer in layers.objects.select_related("piece").order_by("piece__job_id", "pk"):
        flow = layer.joined or FLOWS.get(layer.technique, "")
        if flow:
            one = (layer.white, layer.colour_id, layer.base_id)
            groups = jobs.setdefault(layer.piece.job_id, {}).setdefault(one, {})
            groups.setdefault((flow, layer.apart), []).append(layer)
    for ones in jobs.values():
        last = max((la.apart for groups in ones.values() for mine in groups.values() for la in mine), default=0)
        for groups in ones.values():
            kept = [mine for (_, apart), mine in groups.items() if apart or any(la.pk in begun for la in mine)]
            free = [mine for mine in groups.values() if mine not in kept]
            for place, mine in enumerate(kept):
                last = last + 1 if place or free else last
                apart = last if place or free else 0
                layers.objects.filter(pk__in=[la.pk for la in mine]).update(apart=apart)


class Migration(migrations.Migration):
    dependencies = [("pieces", "0006_twists_are_so_wide"), ("bowls", "0004_as_bought")]
    operations = [
        migrations.RunPython(bowls_stay, migrations.RunPython.noop),
        migrations.RemoveField("layer", "joined"),
    ]
