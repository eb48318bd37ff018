"""What all tests share."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import coverage
import pytest
from hypothesis import settings

from bathys.plan import Plan, load_plan
from tests.plan_files import lists_of

settings.register_profile("untimed", deadline=None)
settings.load_profile("untimed")  # speed is measured by the bench, not here

_BROWSER = Path(__file__).parent / "browser"
_counted: set[str] = set()
"""Tests one case of which has run."""


@pytest.hookimpl(wrapper=True)
def pytest_runtest_protocol(item: pytest.Item) -> Iterator[None]:
    """Lines are counted in the first case of a test: counting takes nearly as long as running, and
    its other cases go over the same ones. In the browser and where it is marked they are not
    counted at all."""
    name = item.nodeid.partition("[")[0]
    is_known = name in _counted or item.get_closest_marker("uncounted") is not None
    counting = coverage.Coverage.current() if is_known or _BROWSER in item.path.parents else None
    _counted.add(name)
    if counting is not None:
        counting.stop()
    try:
        return (yield)
    finally:
        if counting is not None:
            counting.start()


EXAMPLE = Path(__file__).parent.parent / "examples" / "stacked-pair.json"


@pytest.fixture
def document() -> dict[str, Any]:
    """The demo plan as parsed JSON, to be spoilt at will."""
    return lists_of(EXAMPLE)


@pytest.fixture
def demo_plan() -> Plan:
    """The demo plan."""
    return load_plan(EXAMPLE.read_bytes())
