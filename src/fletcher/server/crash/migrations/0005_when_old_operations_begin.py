"""Work lists of before 26 November say when each operation begins: after the hands' minutes and the waits before it."""

from collections import defaultdict

from typing import Any

from django.db import migrations


def _begin(apps: Any, _: object) -> None:
    begins: dict[object, float] = defaultdict(float)
    for task in apps.get_model("logbook", "Task").objects.order_by("job_id", "number"):
        operation, at = task.operation, begins[task.job_id]
        if isinstance(operation, dict) and "starts_min" not in operation:
            task.operation = {**operation, "starts_min": at}
            task.save(update_fields=["operation"])
        begins[task.job_id] += _typical(operation, "minutes") + _typical(operation, "wait_min")


def _typical(operation: Any, field: str) -> float:
    band = operation.get(field) if isinstance(operation, dict) else None
    value = band.get("typ") if isinstance(band, dict) else 0.0
    return value if isinstance(value, int | float) else 0.0


class Migration(migrations.Migration):
    dependencies = (("logbook", "0004_dates_that_can_be_kept"),)
    operations = (migrations.RunPython(_begin, migrations.RunPython.noop),)
