"""A shell made to hold so much, by scaling one of its dimensions."""

from scipy.optimize import brentq

from bathys.edits.editing import Change, EditRefused, set_value
from bathys.plan.model import Plan
from bathys.plan.shells import Shape
from bathys.vessels import shell_volume

__all__ = ["dimensions_of", "set_volume"]

_DIMENSIONS = ("height", "length", "width", "diameter")
_LEAST, _MOST = 0.01, 100.0  # bounds of a vessel's size [m]


def dimensions_of(shape: Shape) -> tuple[str, ...]:
    """Dimensions of a shell that may be scaled to a wanted volume; none of a measured one."""
    if shape.kind == "measured":
        return ()
    return tuple(d for d in _DIMENSIONS if d in type(shape).model_fields)


def set_volume(plan: Plan, vessel: str, volume: float, dimension: str) -> Change:
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
    if dimension not in dimensions_of(shape):
        raise EditRefused("Pick the dimension that is to change with it.")

    def off(size: float) -> float:
        return shell_volume(shape.model_copy(update={dimension: size})) - volume

    least = _LEAST
    if dimension == "height":
        # A cone or a dish stays as it is under the upright wall.
        least = max(least, 1.001 * float(getattr(shape, "cone_height", 0.0)),
                    1.001 * float(getattr(shape, "dish_height", 0.0)))  # fmt: skip
    if off(least) > 0.0 or off(_MOST) < 0.0:
        raise EditRefused(f"No {dimension} that a vessel may have makes it hold that.")
    size = float(brentq(off, least, _MOST, xtol=1e-9))
    return set_value(plan, f"vessels.{vessel}.shape.{dimension}", round(size, 6))
