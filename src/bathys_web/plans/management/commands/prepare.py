"""Bring database and static files up to date, in one process."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from bathys_web.plans.starters import warm_engine

__all__ = ["Command"]


class Command(BaseCommand):
    """``manage.py prepare``."""

    help = "Migrates, makes the cache table, collects static files, warms the engine."

    def handle(self, *args: Any, **options: Any) -> None:
        """Do it; each step leaves alone what is done already."""
        call_command("migrate", verbosity=0)
        call_command("createcachetable", verbosity=0)
        call_command("collectstatic", interactive=False, verbosity=0)
        warm_engine()  # compiles once; web processes then find the code on disk
