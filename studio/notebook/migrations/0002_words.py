"""Words are found by full-text indexes of the database."""

from django.db import migrations

INDEXES = (
    ("pieces_job", "name, note"),
    ("pieces_piece", "name"),
    ("bowls_bowl", "name"),
    ("colours_colour", "name, note"),
    ("cupboard_ingredient", "name"),
    ("notebook_note", "text"),
    ("notebook_keptphoto", "words"),
)


def indexed(table, columns):
    name = f"{table}_words"
    return migrations.RunSQL(
        f"CREATE FULLTEXT INDEX {name} ON {table} ({columns})", f"DROP INDEX {name} ON {table}"
    )


class Migration(migrations.Migration):

    dependencies = [
        ("notebook", "0001_notebook"), ("pieces", "0013_what_it_goes_by"), ("bowls", "0010_timers_of_a_send"),
        ("colours", "0005_bounds"), ("cupboard", "0008_numbers_within"),
    ]

    operations = [indexed(table, columns) for table, columns in INDEXES]
