"""A standpipe as it is usually built, and one in the place of another outlet."""

from bathys.edits.usual import Data, common_fields, inch_pipe
from bathys.plan.way_out import Outlet

__all__ = ["CHOICE", "NAME", "instead_of", "usual"]

NAME, CHOICE = "standpipe", "standpipe"

_NARROWEST = 0.04  # in the place of holes [m]


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
    return {"bore": inch_pipe("1 1/2 in"), "rim_height": 0.8 * tall}


def pipe_in_place_of(old: Outlet) -> Data:
    """The other's own pipe, or one as wide as its holes."""
    if old.pipe is not None:
        return old.pipe.model_dump(mode="json")
    return {"kind": "inside", "diameter": max(_NARROWEST, float(getattr(old, "diameter", 0.0)))}


def instead_of(old: Outlet) -> Data:
    """As tall as the level that the other holds.

    Parameters
    ----------
    old : Outlet
        The outlet that stood there

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {
        **common_fields(old),
        "kind": "standpipe",
        "bore": pipe_in_place_of(old),
        "rim_height": old.level_held,
    }
