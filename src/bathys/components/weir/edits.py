"""A weir as it is usually cut, and one in the place of another outlet."""

from bathys.components.weir.model import Weir
from bathys.edits.usual import Data, common_fields
from bathys.plan.way_out import Outlet

__all__ = ["CHOICE", "NAME", "instead_of", "usual"]

NAME, CHOICE = "weir", "weir: notches, slots or a rim"


def usual(tall: float) -> Data:
    """In a vessel so tall [m].

    Parameters
    ----------
    tall : float
        Height of the vessel, [m]

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {"crest_height": 0.8 * tall, "edge": "notch", "count": 1, "angle": 90.0, "width": 0.05}


def instead_of(old: Outlet) -> Data:
    """One notch with its point at the level that the other holds.

    Parameters
    ----------
    old : Outlet
        The outlet that stood there

    Returns
    -------
    Data
        Its fields, as plan data
    """
    if isinstance(old, Weir):
        return old.model_dump(mode="json")
    return {**common_fields(old), "kind": "weir", "crest_height": max(old.level_held, 0.001)}
