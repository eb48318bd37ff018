"""Revisions and verdicts are known by what figures come of."""

from typing import Any

from django.db import migrations, models

from bathys.plan import BadPlan, physics_hash, plan_from_data


def name_revisions(apps: Any, schema_editor: Any) -> None:
    """Name what stands there already; what cannot be read keeps no name, and so no verdict."""
    revisions = apps.get_model("plans", "Revision").objects
    for revision in revisions.only("pk", "document").iterator(chunk_size=50):
        try:
            name = physics_hash(plan_from_data(revision.document))
        except BadPlan:
            continue
        revisions.filter(pk=revision.pk).update(physics_hash=name)


class Migration(migrations.Migration):
    dependencies = [("plans", "0010_long_runs_go")]
    operations = [
        migrations.AddField(
            "revision", "physics_hash", models.CharField(max_length=64, default="")
        ),
        migrations.RenameField("followed", "content_hash", "physics_hash"),
        migrations.RunPython(name_revisions, migrations.RunPython.noop),
    ]
