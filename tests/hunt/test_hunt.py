"""A hundred and fifty-four plans of the hunt, always the same ones: no harm untold, nothing broken
or hung.

``make hunt`` goes on from there with new seeds.
"""

import pytest

from tests.hunt.hunt import Case, hunt_one

pytestmark = pytest.mark.uncounted

SEEDS = (*range(100, 250), 6000287, 7001579, 8000875, 11000240)
"""The last ones are misses of earlier hunts: a pump that pushes water out of a bare inlet; a valve
shut ahead of the tee before a bed; a float valve that keeps a siphon running; a pump that has no
pipe."""


@pytest.fixture(scope="module")
def cases() -> list[Case]:
    """The plans, each worked out and followed."""
    return [hunt_one(seed) for seed in SEEDS]


def test_the_hunt_sees_harm(cases: list[Case]) -> None:
    """Or it would prove nothing."""
    assert sum(bool(c.harms) for c in cases) >= 8
    assert {h.kind for c in cases for h in c.harms} >= {"spills", "air", "starved"}


def test_every_harm_was_told(cases: list[Case]) -> None:
    assert [(c.seed, c.words, c.untold) for c in cases if c.untold] == []


def test_nothing_breaks_hangs_or_stays_unsolved(cases: list[Case]) -> None:
    assert [
        (c.seed, c.status, c.why) for c in cases if c.status in ("broken", "hung", "unsolved")
    ] == []


def test_few_alarms_are_false_and_few_plans_refused(cases: list[Case]) -> None:
    faults, alarms = sum(c.faults for c in cases), sum(len(c.alarms) for c in cases)
    assert faults > 20
    assert alarms <= 0.10 * faults
    assert sum(c.status == "refused" for c in cases) <= 2
