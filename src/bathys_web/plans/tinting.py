"""The side view's water shaded by what it carries, in the reader's units."""

from bathys.drawing import Scene
from bathys.drawing.tints import Tint, tint_of
from bathys.evaluation import Evaluation
from bathys.quality.shades import SHADES, shades_of
from bathys.quality.water import water_of
from bathys.units import System, show_number

__all__ = ["shades_for", "tints_for"]


def shades_for(found: Evaluation) -> tuple[tuple[str, str], ...]:
    """What the water can be shaded by; nothing for a plan whose fish are not told.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of (str, str)
        Key and name of each
    """
    return SHADES if found.plan.fish and water_of(found) is not None else ()


def tints_for(found: Evaluation, scene: Scene, units: System, key: str) -> tuple[Tint, ...]:
    """The shading of one constituent: each takes time to draw, and one is looked at.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    scene : Scene
        Its side view
    units : System
        The reader's units
    key : str
        Of what it is shaded by; empty for nothing

    Returns
    -------
    tuple of Tint
        What is drawn over the water: one, or none
    """
    water = water_of(found) if key and found.plan.fish else None
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
        if shade.key == key
    )
