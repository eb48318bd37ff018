"""A plan knows the number of its last revision, so that the next one need not be looked for."""

from typing import Any

from django.db import migrations, models
from django.db.models import Max, OuterRef, Subquery


def count_revisions(apps: Any, schema_editor: Any) -> None:
    """Number of the last revision of every plan that stands there already."""
    plans, revisions = (apps.get_model("plans", n).objects for n in ("SavedPlan", "Revision"))
    last = revisions.filter(plan=OuterRef("pk")).order_by().values("plan")
    last = last.annotate(last=Max("number")).values("last")
    plans.filter(revisions__isnull=False).update(last_number=Subquery(last))


class Migration(migrations.Migration):
    dependencies = [("plans", "0011_physics_hash")]
    operations = [
        migrations.AddField("savedplan", "last_number", models.PositiveIntegerField(default=1)),
        migrations.RunPython(count_revisions, migrations.RunPython.noop),
    ]
