"""A pretzel twist was as long as its string; now it is as wide as it is."""

from django.db import migrations

ROPE = 4.27  # of the string, in widths


def _wide(size):
    long_mm, string_mm = size["mm"]
    return {"v": 3, "mm": [round(float(long_mm) / ROPE, 1), string_mm]}


def to_wide(apps, schema_editor):
    for piece in apps.get_model("pieces", "Piece").objects.filter(core="pretzel_twist"):
        if piece.size.get("v") == 2:
            piece.size = _wide(piece.size)
            piece.save(update_fields=["size"])
    for row in apps.get_model("pieces", "Template").objects.all():
        kept = row.piece["piece"]
        if kept["core"] == "pretzel_twist" and kept["size"].get("v") == 2:
            kept["size"] = _wide(kept["size"])
            row.save(update_fields=["piece"])


class Migration(migrations.Migration):
    dependencies = [("pieces", "0005_as_bought")]
    operations = [migrations.RunPython(to_wide, migrations.RunPython.noop)]
