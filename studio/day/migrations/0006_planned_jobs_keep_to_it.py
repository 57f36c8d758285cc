"""A job whose day is planned goes by what was known then: by its labels, where none of its bowls says more."""

from typing import Any

from django.db import migrations


def keep_to_labels(apps: Any, _: Any) -> None:
    """Nothing that is learned from now on changes a day that was planned before."""
    planned = apps.get_model("day", "DayPlan").objects.values("job")
    jobs = apps.get_model("pieces", "Job").objects.filter(pk__in=planned, taught={})
    jobs.update(taught={"v": 1, "of": {}})


class Migration(migrations.Migration):
    dependencies = [("day", "0005_minutes_written_down"), ("bowls", "0009_what_was_known_by_name")]

    operations = [migrations.RunPython(keep_to_labels, migrations.RunPython.noop)]
