"""What an evaluation holds."""

from dataclasses import dataclass

from bathys.evaluation.beds import BedResult
from bathys.evaluation.delivery import Delivery
from bathys.evaluation.duty import Duty
from bathys.evaluation.runs import RunResult
from bathys.evaluation.vessels import VesselLevels, VesselResult
from bathys.network import Balance
from bathys.physics.water import Water
from bathys.plan.model import Plan

__all__ = ["Evaluation", "Omission"]


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


@dataclass(frozen=True)
class Evaluation:
    """All numbers of a plan.

    Attributes
    ----------
    plan : Plan
        The plan
    water : Water
        Its water
    balance : Balance
        Flows and levels with every pump running
    mean : Balance
        Flows and levels with each pump counted for the time it runs
    runs : dict of RunResult
        By run id
    deliveries : tuple of Delivery
        The ways from pumps to outlets
    duties : dict of Duty
        By pump id
    vessels : dict of VesselResult
        By vessel id
    beds : tuple of BedResult
        Siphon beds
    omissions : tuple of Omission
        What was not worked out
    """

    plan: Plan
    water: Water
    balance: Balance
    mean: Balance
    runs: dict[str, RunResult]
    deliveries: tuple[Delivery, ...]
    duties: dict[str, Duty]
    vessels: dict[str, VesselResult]
    beds: tuple[BedResult, ...]
    omissions: tuple[Omission, ...]

    @property
    def levels(self) -> dict[str, VesselLevels]:
        """Levels by vessel id."""
        return {id_: result.levels for id_, result in self.vessels.items()}

    def bed(self, vessel: str) -> BedResult | None:
        """The siphon bed of this id, if it is one."""
        return next((b for b in self.beds if b.bed.id == vessel), None)
