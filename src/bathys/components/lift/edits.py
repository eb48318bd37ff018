"""A solids lift as it is usually built, and one in the place of another outlet."""

from bathys.components.standpipe.edits import pipe_in_place_of
from bathys.edits.usual import Data, common_fields, inch_pipe
from bathys.plan.way_out import Outlet

__all__ = ["CHOICE", "NAME", "instead_of", "usual"]

NAME, CHOICE = "solids lift", "solids lift"

_LOW = 0.02  # its intake over the floor [m]


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
    return {"bore": inch_pipe("2 in"), "intake_height": _LOW, "crest_height": 0.85 * tall}


def instead_of(old: Outlet) -> Data:
    """Its crest at the level that the other holds.

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
        "kind": "lift",
        "bore": pipe_in_place_of(old),
        "crest_height": old.level_held,
        "intake_height": min(_LOW, 0.5 * old.level_held),
    }
