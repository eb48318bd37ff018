"""A builder's own pump may be known by points of its curve."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("plans", "0019_as_designed_rows")]

    operations = [
        migrations.AddField("ownpump", "points", models.JSONField(default=list)),
    ]
