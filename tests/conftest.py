"""What all tests share."""

import json
from pathlib import Path
from typing import Any

import pytest

from bathys.plan import Plan, load_plan

EXAMPLE = Path(__file__).parent.parent / "examples" / "stacked-pair.json"


@pytest.fixture
def document() -> dict[str, Any]:
    """The demo plan as parsed JSON, to be spoilt at will."""
    return json.loads(EXAMPLE.read_text())


@pytest.fixture
def demo_plan() -> Plan:
    """The demo plan."""
    return load_plan(EXAMPLE.read_bytes())
