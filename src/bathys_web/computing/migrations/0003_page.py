"""Whose page a computation is for is called its page."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("computing", "0002_engine")]
    operations = [migrations.RenameField("computation", "desk", "page")]
