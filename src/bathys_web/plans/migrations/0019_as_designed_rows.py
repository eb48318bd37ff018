"""What was told of a plan when building began is kept with it."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("plans", "0018_own_containers")]

    operations = [
        migrations.AddField("asdesigned", "engine", models.CharField(default="", max_length=16)),
        migrations.AddField("asdesigned", "rows", models.JSONField(default=dict)),
    ]
