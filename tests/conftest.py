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
    its other cases go over the same ones, unless it is marked that they do not. In the browser and
    where it is marked they are not counted at all."""
    every = item.get_closest_marker("counted") is not None
    name = item.nodeid if every else item.nodeid.partition("[")[0]
    is_known = name in _counted or item.get_closest_marker("uncounted") is not None
    _counted.add(name)
    _count(not is_known and _BROWSER not in item.path.parents)
    return (yield)


@pytest.hookimpl(tryfirst=True)
def pytest_sessionfinish() -> None:
    """What comes after the last test is counted as what came before the first."""
    _count(True)


def _count(wanted: bool) -> None:
    """Begin or leave off counting, if it is not so already: to begin takes as long as a small
    test, since each module that is there is looked at."""
    now = coverage.Coverage.current()
    if now is not None:
        _counter[:] = [now]
    if wanted and now is None:
        for counter in _counter:
            counter.start()
    elif now is not None and not wanted:
        now.stop()


_counter: list[coverage.Coverage] = []
"""What counts lines, if anything does."""

EXAMPLE = Path(__file__).parent.parent / "examples" / "stacked-pair.json"


@pytest.fixture
def document() -> dict[str, Any]:
    """The demo plan as parsed JSON, to be spoilt at will."""
    return lists_of(EXAMPLE)


@pytest.fixture
def demo_plan() -> Plan:
    """The demo plan."""
    return load_plan(EXAMPLE.read_bytes())
