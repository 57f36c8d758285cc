"""A layer keeps what its design drew of one piece, and no grams: these are reckoned. What a maker typed stays typed."""

from django.db import migrations

G_PER_ML = 1.2590799031476998  # coating at 32 % fat, as the grams were worked out


def drawn_of(design):
    """What a design drew of one piece, and what it says of its layer in the layer's own words."""
    drawn, asked = design.drawn, design.asked
    told = {"seconds": drawn.get("seconds"), "window": drawn.get("window")}
    if design.kind == "dip":
        sides = 2 if asked.get("way") == "two_sided" else 1
        of_layer = {"share": float(asked.get("share") or 1.0), "coats": int(asked.get("coats") or 1) * sides}
        told |= {"holes": int(asked.get("holes") or 0), "deep": sides == 2 or asked.get("sticks", "none") != "none"}
    else:
        of_layer = {}
        pieces = drawn.get("pieces") or 1
        if design.kind == "bottle":  # was told as if all of it were on one
            pieces = max(1, int(asked.get("cavities") or 1))
        told["ml"] = round(drawn.get("goes_on_g", 0.0) / pieces / G_PER_ML, 4)
        told["pieces"] = pieces
    return {**of_layer, "drawn": {name: value for name, value in told.items() if value}}


def typed(layer, design):
    """Whether a maker typed the grams of a layer: they are not what its design wrote there."""
    grams, drawn = layer.parameters.get("goes_on_g"), design.drawn
    if grams is None or design.kind == "bottle":
        return False
    wrote = drawn.get("goes_on_g", 0.0) / (drawn.get("pieces") or 1)
    return abs(grams - wrote) > max(0.1, 0.01 * wrote)


def grams_to_volumes(apps, editor):
    designs, changed = apps.get_model("designs", "Design"), 0
    for design in designs.objects.exclude(drawn={}).select_related("layer").iterator():
        of_layer = drawn_of(design)
        design.drawn = {**design.drawn, "of_layer": of_layer}
        if design.kind == "bottle":
            design.drawn["pieces"] = max(1, int(design.asked.get("cavities") or 1))
        design.save(update_fields=["drawn"])
        layer = design.layer
        if layer is None:
            continue
        told = {**layer.parameters, **of_layer}
        if not typed(layer, design):
            told.pop("goes_on_g", None)
        layer.parameters = told
        layer.save(update_fields=["parameters"])
        changed += 1
    if changed:
        print(f" {changed} layers are reckoned from what their designs drew;", end="")


class Migration(migrations.Migration):
    dependencies = [("designs", "0002_as_bought"), ("pieces", "0007_one_bowl_a_colour")]
    operations = [migrations.RunPython(grams_to_volumes, migrations.RunPython.noop)]
