"""How high each vessel stands, or how deep it is dug in."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.plan.vessel import Vessel

__all__ = ["Base", "bases_of"]

_AROUND = 0.1  # room to work round a vessel that is dug in (common practice) [m]
_LEVEL = 1e-3  # heights that are as good as the datum [m]


@dataclass(frozen=True, slots=True)
class Base:
    """What a vessel stands on.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    height : float
        Of its stand; below 0 if it is dug in, [m]
    dug : float
        Earth to take out, with room to work round it, [m³]
    """

    vessel: Vessel
    height: float
    dug: float

    @property
    def stands(self) -> bool:
        """Whether it needs a stand."""
        return self.height > _LEVEL

    @property
    def is_dug_in(self) -> bool:
        """Whether it is dug in."""
        return self.height < -_LEVEL


def bases_of(found: Evaluation) -> tuple[Base, ...]:
    """The base of every vessel that stands in no other.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Base
        The lowest first
    """
    rows = []
    for vessel in found.plan.vessels:
        if vessel.within is not None:
            continue
        deep = max(-vessel.floor_height, 0.0)
        round_it = vessel.shape.footprint + _AROUND * vessel.shape.perimeter
        rows.append(Base(vessel, vessel.floor_height, deep * round_it))
    return tuple(sorted(rows, key=lambda row: row.height))
