"""A signed-in owner with the demo plan, on real PostgreSQL."""

from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from bathys.plan import Plan
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import SavedPlan


@pytest.fixture
def owner(db: Any) -> Any:
    """Whose plan it is."""
    return get_user_model().objects.create_user("owner", "owner@bathys.example")


@pytest.fixture
def stranger(db: Any) -> Any:
    """Somebody else."""
    return get_user_model().objects.create_user("stranger", "other@bathys.example")


@pytest.fixture
def saved(owner: Any, demo_plan: Plan) -> SavedPlan:
    """The owner's plan."""
    return create_plan(owner, demo_plan, "made for a test")


@pytest.fixture
def browser(owner: Any) -> Client:
    """The owner, signed in."""
    client = Client()
    client.force_login(owner)
    return client


@pytest.fixture(autouse=True)
def _waits(settings: Any) -> None:
    """What is followed through time is waited for, so that a test sees it at once."""
    settings.PATIENCE = 60.0
