"""Every change of what jobs are made of gives its kitchen a new mark, by triggers of the database."""

from django.db import migrations

TABLES = (
    "pieces_job", "pieces_family", "pieces_piece", "pieces_layer", "pieces_colour", "cupboard_extra", "designs_design",
)
MARK = "UUID_SHORT()"


def marked(table, event, row):
    name = f"{table}_{event.lower()}_marks"
    made = (
        f"CREATE TRIGGER {name} AFTER {event} ON {table} FOR EACH ROW INSERT INTO common_change (kitchen_pk, mark) "
        f"VALUES ({row}.kitchen_id, {MARK}) ON DUPLICATE KEY UPDATE mark = {MARK}"
    )
    gone = f"DROP TRIGGER IF EXISTS {name}"
    return migrations.RunSQL([gone, made], gone)


class Migration(migrations.Migration):

    dependencies = [
        ("common", "0003_change"), ("cupboard", "0007_left_of_bowls"), ("pieces", "0008_parts"),
        ("designs", "0004_one_as_it_looks"),
    ]

    operations = [
        marked(table, event, row)
        for table in TABLES
        for event, row in (("INSERT", "NEW"), ("UPDATE", "NEW"), ("DELETE", "OLD"))
    ]
