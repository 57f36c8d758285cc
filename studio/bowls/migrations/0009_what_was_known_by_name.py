"""What was known of a colour is kept by its full name; a job that is begun goes by what its first bowl went by."""

from typing import Any

from django.db import migrations


def by_name(apps: Any, _: Any) -> None:
    """Codes become names; jobs with a bowl or a day keep to what was known."""
    bowls, jobs = apps.get_model("bowls", "Bowl"), apps.get_model("pieces", "Job")
    known: dict[int, dict[str, float]] = {}
    for bowl in bowls.objects.exclude(taught={}).order_by("pk").iterator():
        bowl.taught = {f"strength.{code}": times for code, times in bowl.taught.items()}
        bowl.save(update_fields=["taught"])
        if bowl.job_id:
            known.setdefault(bowl.job_id, bowl.taught)
    begun = jobs.objects.filter(pk__in=bowls.objects.exclude(job=None).values("job"), taught={})
    for job in begun.iterator():
        of = {name: [times] * 3 for name, times in known.get(job.pk, {}).items()}
        job.taught = {"v": 1, "of": of}
        job.save(update_fields=["taught"])


class Migration(migrations.Migration):
    dependencies = [("bowls", "0008_coats_that_set"), ("pieces", "0013_what_it_goes_by")]

    operations = [migrations.RunPython(by_name, migrations.RunPython.noop)]
