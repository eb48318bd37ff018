"""What a row of water tests says of the bacteria: how far the water has come."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from bathys.quality.cycling import CLEAR

__all__ = ["Cycled", "CycledStage", "WaterTest", "cycled_by_tests"]

CycledStage = Literal["begun", "ammonia", "nitrite", "nearly", "cycled", "upset"]
"""Nothing told yet; ammonia is not turned over; nitrite is not; both are low once; both stay low;
either is high again after they were low."""

_TWICE = 0.9  # days between two tests that confirm each other [d]
_NITRATE = 5.0  # from which on something has been turned over (common practice) [g/m³]


@dataclass(frozen=True, slots=True)
class WaterTest:
    """A water test.

    Attributes
    ----------
    day : float
        When, [d]
    ammonia, nitrite, nitrate : float or None
        Nitrogen of each, [g/m³]; none where it was not tested
    """

    day: float
    ammonia: float | None = None
    nitrite: float | None = None
    nitrate: float | None = None

    @property
    def is_clear(self) -> bool | None:
        """Whether ammonia and nitrite are both low; none where one of them was not tested."""
        if self.ammonia is None or self.nitrite is None:
            return None
        return max(self.ammonia, self.nitrite) <= CLEAR


@dataclass(frozen=True, slots=True)
class Cycled:
    """How far the water has come.

    Attributes
    ----------
    stage : CycledStage
        How far
    since : float or None
        Day of the test from which on it is so, [d]; none before anything is told
    """

    stage: CycledStage
    since: float | None


def cycled_by_tests(tests: Sequence[WaterTest]) -> Cycled:
    """How far the water has come by its tests.

    Ammonia rises first, then nitrite, then nitrate; once both of the first stay low while they are
    made, bacteria turn over all of it (common practice). Low figures before anything has risen tell
    nothing: there is nothing in the water yet.

    Parameters
    ----------
    tests : sequence of WaterTest
        In any order

    Returns
    -------
    Cycled
        By those in which both were tested
    """
    rows = sorted((t for t in tests if t.is_clear is not None), key=lambda t: t.day)
    stage: CycledStage = "begun"
    since: float | None = None
    was_cycled = False
    for test in rows:
        now = _stage_at(test, stage, since, was_cycled)
        if now != stage:
            stage, since = now, test.day
        was_cycled = was_cycled or now == "cycled"
    return Cycled(stage, since)


def _stage_at(
    test: WaterTest, before: CycledStage, since: float | None, was_cycled: bool
) -> CycledStage:
    if not test.is_clear:
        if was_cycled:
            return "upset"
        return "nitrite" if (test.nitrite or 0.0) > CLEAR else "ammonia"
    if before == "cycled":
        return "cycled"
    if before == "nearly":
        return "cycled" if since is not None and test.day - since >= _TWICE else "nearly"
    has_turned = before in ("ammonia", "nitrite", "upset") or (test.nitrate or 0.0) >= _NITRATE
    return "nearly" if has_turned else "begun"
