"""A shell made to hold so much, by scaling one of its dimensions."""

from bathys.edits.editing import VOLUME, Change, EditRefused, set_value
from bathys.plan.model import Plan

__all__ = ["set_volume"]

_LEAST, _MOST = 0.01, 100.0  # bounds of a vessel's size [m]


def set_volume(plan: Plan, vessel: str, volume: float, dimension: str, typed: str = "") -> Change:
    """Make a vessel's shell hold so much up to its rim, by one of its dimensions.

    Parameters
    ----------
    plan : Plan
        The plan before
    vessel : str
        The vessel's id
    volume : float
        What its shell is to hold with nothing in it, [m³]
    dimension : str
        The dimension to scale, such as ``height``
    typed : str
        What was typed for the volume, where that says more than it

    Returns
    -------
    Change
        The plan after, and what changed

    Raises
    ------
    EditRefused
        If there is no such vessel or dimension, or no size of it would do
    """
    try:
        shape = plan.vessel(vessel).shape
    except KeyError:
        raise EditRefused(f"There is no “{vessel}” in this plan any more.") from None
    if dimension not in shape.SCALED:
        raise EditRefused("Pick the dimension that is to change with it.")

    def off(size: float) -> float:
        return shape.model_copy(update={dimension: size}).capacity - volume

    least = _LEAST
    if dimension == "height":
        # What is under it stays as it is under the upright wall.
        least = max(least, 1.001 * shape.bottom)
    if off(least) > 0.0 or off(_MOST) < 0.0:
        raise EditRefused(f"No {dimension} that a vessel may have makes it hold that.")
    from scipy.optimize import brentq  # noqa: PLC0415 - it takes 45 MB; following a plan needs none

    size = float(brentq(off, least, _MOST, xtol=1e-9))
    path = f"vessels.{vessel}.shape.{dimension}"
    return set_value(plan, path, round(size, 6), typed, VOLUME)
