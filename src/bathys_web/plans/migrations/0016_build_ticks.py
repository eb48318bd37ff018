"""Ticks of the order of work are kept with their plan."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("plans", "0015_own_prices")]
    operations = [
        migrations.CreateModel(
            "BuildTicks",
            [
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("done", models.JSONField()),
                (
                    "plan",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="ticks",
                        to="plans.savedplan",
                    ),
                ),
            ],
        )
    ]
