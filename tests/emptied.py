"""How the tables are emptied between tests."""

from django.db.models.signals import post_migrate


def write_nothing_after_emptying() -> None:
    """Django writes its permissions anew each time it has emptied the tables, which takes longer
    than emptying them; nothing here reads them."""
    post_migrate.receivers = []
