"""Revisions and verdicts are known by what figures come of."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("plans", "0010_long_runs_go")]
    operations = [
        migrations.AddField(
            "revision", "physics_hash", models.CharField(max_length=64, default="")
        ),
        migrations.RenameField("followed", "content_hash", "physics_hash"),
    ]
