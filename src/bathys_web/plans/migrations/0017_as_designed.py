"""Building begins with a revision that is kept in mind."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("plans", "0016_build_ticks")]
    operations = [
        migrations.CreateModel(
            "AsDesigned",
            [
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("since", models.DateTimeField(auto_now_add=True)),
                (
                    "plan",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="as_designed",
                        to="plans.savedplan",
                    ),
                ),
                (
                    "revision",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="+",
                        to="plans.revision",
                    ),
                ),
            ],
        )
    ]
