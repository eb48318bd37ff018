"""What an evaluation holds."""

from dataclasses import dataclass
from functools import cached_property

from bathys.evaluation.beds import BedResult
from bathys.evaluation.delivery import Delivery
from bathys.evaluation.duty import Duty
from bathys.evaluation.figures import Figure
from bathys.evaluation.listing import list_details, list_figures, list_headlines
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
    runs: dict[str, RunResult]
    deliveries: tuple[Delivery, ...]
    duties: dict[str, Duty]
    vessels: dict[str, VesselResult]
    beds: tuple[BedResult, ...]
    omissions: tuple[Omission, ...]

    @cached_property
    def figures(self) -> tuple[Figure, ...]:
        """Every figure, each with its comparison and its formula."""
        return list_figures(self)

    @cached_property
    def details(self) -> tuple[Figure, ...]:
        """Figures of the benches' tables besides."""
        return list_details(self)

    @property
    def levels(self) -> dict[str, VesselLevels]:
        """Levels by vessel id."""
        return {id_: result.levels for id_, result in self.vessels.items()}

    @cached_property
    def headlines(self) -> tuple[Figure, ...]:
        """The figures for the head of the page."""
        return list_headlines(self)

    def bed(self, vessel: str) -> BedResult | None:
        """The siphon bed of this id, if it is one."""
        return next((b for b in self.beds if b.bed.id == vessel), None)
