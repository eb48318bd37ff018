"""Load the demo account and its plans, once."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand

from bathys.plan import load_plan
from bathys_web.accounts.views import DEMO_EMAIL
from bathys_web.plans.actions.create_plan import create_plan

_DEMO_PLANS = ("stacked-pair.json", "twelve-beds.json")


class Command(BaseCommand):
    """``manage.py load_demo``."""

    help = "Makes the demo account and its plans, unless they are there."

    def handle(self, *args: Any, **options: Any) -> None:
        """Make what is missing; what a visitor changed is left alone."""
        users = get_user_model().objects
        user, is_new = users.get_or_create(username="demo", defaults={"email": DEMO_EMAIL})
        if not is_new:
            return
        user.set_unusable_password()
        user.save()
        examples = Path(settings.PROJECT) / "examples"
        for name in _DEMO_PLANS:
            plan = load_plan((examples / name).read_bytes())
            create_plan(user, plan, "came with the demo")
