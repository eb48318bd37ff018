"""A signed-in owner with the demo plan, on real PostgreSQL."""

from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from bathys.plan import Plan, plan_from_data
from bathys_web.computing import asking
from bathys_web.computing.kinds import kind_of
from bathys_web.computing.models import Computation
from bathys_web.computing.results import pack
from bathys_web.plans.actions.create_plan import create_plan
from bathys_web.plans.models import SavedPlan
from tests.emptied import write_nothing_after_emptying


@pytest.fixture(scope="session", autouse=True)
def quick_emptying(django_db_setup: Any) -> None:
    """For all that is tested here."""
    write_nothing_after_emptying()


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
def quick_settings(settings: Any) -> None:
    """What is slow and not what is tested: a password's hash is slow on purpose, and each client
    would list all static files anew, which the browser's tests fetch for real."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    settings.MIDDLEWARE = [each for each in settings.MIDDLEWARE if "whitenoise" not in each]


@pytest.fixture(autouse=True)
def at_once(monkeypatch: pytest.MonkeyPatch, request: pytest.FixtureRequest) -> None:
    """What is asked for is computed where it is asked, so that a test sees it at once; a test that
    is marked ``queued`` has the queue itself."""
    if "queued" not in request.keywords:
        monkeypatch.setattr(asking, "defer", _compute)


class _Always:
    """Goes on, and nobody looks on."""

    def __call__(self, share: float) -> bool:
        return True

    def show(self, so_far: Any) -> None:
        """Nobody waits."""


def _compute(key: str, lane: str, open_before: int) -> None:
    row = Computation.objects.get(key=key)
    found = kind_of(row.kind).compute(plan_from_data(row.document), row.words, _Always())
    row.state, row.result = Computation.State.DONE, pack(found)
    row.save()
