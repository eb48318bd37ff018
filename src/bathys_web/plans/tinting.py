"""The side view's water shaded by what it carries, in the reader's units."""

from bathys.drawing import Scene
from bathys.drawing.tints import Tint, tint_of
from bathys.evaluation import Evaluation
from bathys.quality.shades import shades_of
from bathys.quality.water import water_of
from bathys.units import System, show_number

__all__ = ["tints_for"]


def tints_for(found: Evaluation, scene: Scene, units: System) -> tuple[Tint, ...]:
    """One for each constituent; none for a plan whose fish are not told.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    scene : Scene
        Its side view
    units : System
        The reader's units

    Returns
    -------
    tuple of Tint
        What can be drawn over the water
    """
    water = water_of(found) if found.plan.fish else None
    if water is None:
        return ()
    return tuple(
        tint_of(
            scene,
            shade.key,
            shade.name,
            shade.goodness,
            {id_: show_number(value, "dissolved", units) for id_, value in shade.values.items()},
        )
        for shade in shades_of(found, water)
    )
