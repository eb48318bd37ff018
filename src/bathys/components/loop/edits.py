"""A loop siphon as it is usually built, and one in the place of another siphon."""

from bathys.components.loop.model import LoopSiphon
from bathys.edits.usual import INCH, Data, common_fields
from bathys.plan.way_out import Siphon

__all__ = ["CHOICE", "NAME", "in_words", "instead_of", "usual"]

NAME, CHOICE = "loop siphon", "loop outside the bed"

_LOW = 0.03  # where a pipe is led through a wall just over the floor [m]


def in_words(nominal: str, bell: str) -> str:
    """One of this size, in few words; it has no bell.

    Parameters
    ----------
    nominal : str
        Nominal size of the standpipe or tube
    bell : str
        Nominal size of the bell

    Returns
    -------
    str
        Such as ``1 in``
    """
    return f"loop of {nominal} tube"


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
    return {"bore": dict(INCH), "bulkhead_height": _LOW, "crest_height": 0.7 * tall}


def instead_of(old: Siphon) -> Data:
    """Of the same pipe, its top as high as the other's crest.

    Parameters
    ----------
    old : Siphon
        The siphon that stood there

    Returns
    -------
    Data
        Its fields, as plan data
    """
    if isinstance(old, LoopSiphon):
        return old.model_dump(mode="json")
    pipe = old.pipe
    assert pipe is not None  # noqa: S101 - every siphon has one
    low = min(_LOW, 0.5 * max(old.spills_from - pipe.inside, 0.0))
    return {
        **common_fields(old),
        "kind": "loop",
        "bore": pipe.model_dump(mode="json"),
        "bulkhead_height": low,
        "crest_height": old.spills_from,
        "end_elbow": old.end_elbow,
    }
