"""What following a plan through time brought out is called its dynamic verdict."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("plans", "0012_last_number")]
    operations = [migrations.RenameModel("Followed", "DynamicVerdict")]
