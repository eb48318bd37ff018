"""Drilled holes as they are usually made, and some in the place of another outlet."""

from bathys.components.holes.model import DrilledHoles
from bathys.edits.usual import Data, common_fields
from bathys.physics import area_of
from bathys.plan.way_out import Outlet

__all__ = ["CHOICE", "NAME", "instead_of", "usual"]

NAME, CHOICE = "drilled holes", "drilled holes"

_HOLE = 0.02  # [m]


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
    return {"height": 0.8 * tall, "diameter": _HOLE, "count": 4}


def instead_of(old: Outlet) -> Data:
    """As many holes as have the pipe's area, so that it is not choked.

    Parameters
    ----------
    old : Outlet
        The outlet that stood there

    Returns
    -------
    Data
        Its fields, as plan data
    """
    if isinstance(old, DrilledHoles):
        return old.model_dump(mode="json")
    area = area_of(old.pipe_bore)
    return {
        **common_fields(old),
        "kind": "holes",
        "height": old.level_held,
        "diameter": _HOLE,
        "count": max(round(area / area_of(_HOLE)), 1),
    }
