"""What an evaluation holds."""

from dataclasses import dataclass

from bathys.evaluation.duty import Duty
from bathys.evaluation.figures import Figure
from bathys.physics.water import Water
from bathys.plan.model import Plan
from bathys.simulation import Cycle, Outage, PumpedBedLoop

__all__ = ["Evaluation", "LoopResult", "Omission", "VesselLevels"]


@dataclass(frozen=True, slots=True)
class Omission:
    """A part that is not worked out, and why. Missing is better than wrong.

    Attributes
    ----------
    place : str
        Id of the part
    sentence : str
        Why it is not worked out
    """

    place: str
    sentence: str


@dataclass(frozen=True, slots=True)
class VesselLevels:
    """Water levels of a vessel over the datum [m].

    Attributes
    ----------
    low, high : float
        Lowest and highest with the pump running
    at_rest : float
        With the pump off and all drained back
    """

    low: float
    high: float
    at_rest: float


@dataclass(frozen=True, slots=True)
class LoopResult:
    """The numbers of one pumped bed loop.

    Attributes
    ----------
    loop : PumpedBedLoop
        The loop as compiled
    duty : Duty
        The pump's duty
    cycle : Cycle
        The bed's cycle
    outages : tuple of Outage
        Power cuts at their worst moments
    tank_turnover : float
        Mean flow over the tank's mean volume, [1/s]
    bed_turnover : float
        Mean flow over the bed's shell volume, [1/s]
    """

    loop: PumpedBedLoop
    duty: Duty
    cycle: Cycle
    outages: tuple[Outage, ...]
    tank_turnover: float
    bed_turnover: float


@dataclass(frozen=True, slots=True)
class Evaluation:
    """All numbers of a plan.

    Attributes
    ----------
    plan : Plan
        The plan
    water : Water
        Its water
    loops : tuple of LoopResult
        What was worked out
    levels : dict of VesselLevels
        By vessel id, where known
    omissions : tuple of Omission
        What was not worked out
    figures : tuple of Figure
        The figures that matter, each with its comparison and source
    """

    plan: Plan
    water: Water
    loops: tuple[LoopResult, ...]
    levels: dict[str, VesselLevels]
    omissions: tuple[Omission, ...]
    figures: tuple[Figure, ...]
