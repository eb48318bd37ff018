"""What all tests share."""

from pathlib import Path
from typing import Any

import pytest
from hypothesis import settings

from bathys.plan import Plan, load_plan
from tests.plan_files import lists_of

settings.register_profile("untimed", deadline=None)
settings.load_profile("untimed")  # speed is measured by the bench, not here

EXAMPLE = Path(__file__).parent.parent / "examples" / "stacked-pair.json"


@pytest.fixture
def document() -> dict[str, Any]:
    """The demo plan as parsed JSON, to be spoilt at will."""
    return lists_of(EXAMPLE)


@pytest.fixture
def demo_plan() -> Plan:
    """The demo plan."""
    return load_plan(EXAMPLE.read_bytes())
