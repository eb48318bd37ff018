"""A plan may be put into the archive, and carry labels of its owner's."""

from django.contrib.postgres.fields import ArrayField
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("plans", "0013_dynamic_verdict")]
    operations = [
        migrations.AddField("savedplan", "is_archived", models.BooleanField(default=False)),
        migrations.AddField(
            "savedplan",
            "labels",
            ArrayField(models.CharField(max_length=30), default=list),
        ),
    ]
