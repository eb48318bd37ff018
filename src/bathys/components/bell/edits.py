"""A bell siphon as it is usually built, and one in the place of another siphon."""

from bathys.components.bell.model import BellSiphon
from bathys.edits.usual import INCH, Data, common_fields, inch_pipe
from bathys.parts.bells import SLOTS_OVER_PIPE, bell_over
from bathys.physics import area_of
from bathys.plan.bore import Bore, InsideDiameter, bore_of_size
from bathys.plan.way_out import Siphon

__all__ = ["CHOICE", "NAME", "in_words", "instead_of", "usual"]

NAME, CHOICE = "bell siphon", "bell over a standpipe"

_SLOT = 0.025  # usual height of a bell's slots [m]
_GUARD_GAP = 0.03  # a guard is so much wider than its bell [m]


def in_words(nominal: str, bell: str) -> str:
    """One of these sizes, in few words.

    Parameters
    ----------
    nominal : str
        Nominal size of the standpipe or tube
    bell : str
        Nominal size of the bell

    Returns
    -------
    str
        Such as ``1 in in 2 1/2 in``
    """
    return f"{nominal} standpipe, {bell} bell"


def usual(tall: float) -> Data:
    """In a bed so tall [m].

    Parameters
    ----------
    tall : float
        Height of the vessel, [m]

    Returns
    -------
    Data
        Its fields, as plan data
    """
    return {
        "standpipe_bore": dict(INCH),
        "bell_bore": inch_pipe("2 in"),
        "rim_height": 0.75 * tall,
        "slot_height": _SLOT,
        "slot_area": 0.0011,
        "guard_diameter": 0.11,
    }


def _bell_over(pipe: Bore) -> Bore:
    bell = bell_over(pipe.size.standard, pipe.size) if pipe.size is not None else None
    return bore_of_size(bell) if bell is not None else InsideDiameter(diameter=2.0 * pipe.inside)


def instead_of(old: Siphon) -> Data:
    """Over a standpipe of the same pipe, as tall as the other's crest.

    Parameters
    ----------
    old : Siphon
        The siphon that stood there

    Returns
    -------
    Data
        Its fields, as plan data
    """
    if isinstance(old, BellSiphon):
        return old.model_dump(mode="json")
    pipe, rim = old.pipe, old.spills_from
    assert pipe is not None  # noqa: S101 - every siphon has one
    bell = _bell_over(pipe)
    return {
        **common_fields(old),
        "kind": "bell",
        "standpipe_bore": pipe.model_dump(mode="json"),
        "bell_bore": bell.model_dump(mode="json"),
        "rim_height": rim,
        "end_elbow": old.end_elbow,
        "slot_height": min(_SLOT, 0.5 * rim),
        "guard_diameter": bell.inside + _GUARD_GAP,
        "slot_area": round(SLOTS_OVER_PIPE * area_of(pipe.inside), 6),
    }
