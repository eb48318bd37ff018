"""A dip tube as it is usually fitted, and one in the place of another outlet."""

from bathys.components.lift import edits as lift
from bathys.edits.usual import Data
from bathys.plan.way_out import Outlet

__all__ = ["CHOICE", "NAME", "instead_of", "usual"]

NAME, CHOICE = "dip tube", "dip tube through a wall"


def usual(tall: float) -> Data:
    """In a vessel so tall, as a solids lift but closed.

    Parameters
    ----------
    tall : float
        Height of the vessel, [m]

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {**lift.usual(tall), "vented": True}


def instead_of(old: Outlet) -> Data:
    """Its hole at the level that the other holds.

    Parameters
    ----------
    old : Outlet
        The outlet that stood there

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {**lift.instead_of(old), "kind": "dip_tube"}
