"""Dipped biscuits and cakes with drips become stacks like every other piece."""

from django.db import migrations


def to_stacks(apps, schema_editor):
    piece_model, layer_model = apps.get_model("pieces", "Piece"), apps.get_model("pieces", "Layer")
    for piece in piece_model.objects.all():
        size = piece.size
        if size.get("v") != 1:
            continue
        second = size.get("thickness_mm", size.get("height_mm"))
        piece.size = {"v": 2, "mm": [size["diameter_mm"], second]}
        piece.save(update_fields=["size"])
        for layer in layer_model.objects.filter(piece=piece):
            told = {k: v for k, v in layer.parameters.items() if k not in ("v", "depth_share")}
            if "depth_share" in layer.parameters:
                told["share"] = layer.parameters["depth_share"]
            layer.parameters = {"v": 2, **told}
            layer.save(update_fields=["parameters"])


class Migration(migrations.Migration):

    dependencies = [("pieces", "0003_families")]

    operations = [migrations.RunPython(to_stacks, migrations.RunPython.noop)]
