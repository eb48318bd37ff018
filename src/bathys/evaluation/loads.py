"""What vessels weigh when they are full."""

from bathys.evaluation.result import Evaluation
from bathys.evaluation.vessels import VesselResult
from bathys.parts.media import MEDIA
from bathys.vessels import storage_of

__all__ = ["SHELL_MASS", "full_mass"]

SHELL_MASS = 6.0
"""Of a plastic shell, by the area of its floor and walls (assumed; about that of a stock tank)
[kg/m²]."""


def full_mass(found: Evaluation, result: VesselResult) -> float:
    """Mass of a vessel with the most water that stands in it, its medium and its shell.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    result : VesselResult
        Those of the vessel

    Returns
    -------
    float
        Mass, [kg]
    """
    vessel = result.vessel
    storage = storage_of(found.plan, vessel)
    water = float(
        storage.volume(max(result.levels.high, result.levels.at_rest) - vessel.floor_height)
    )
    walls = vessel.shape.perimeter * vessel.shape.height + result.area
    mass = water * found.water.density + SHELL_MASS * walls
    if vessel.media is not None:
        depth = vessel.media.top - vessel.media.bottom
        mass += result.area * depth * MEDIA[vessel.media.kind].bulk_density
    return mass
