"""Which bell siphons are tried, and how one is rebuilt a little otherwise."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from bathys.components.bell.model import BellSiphon
from bathys.parts.bells import SLOTS_OVER_PIPE, bell_over
from bathys.parts.bores import PipeSize
from bathys.parts.rounding import mark_above
from bathys.physics import area_of
from bathys.physics.siphon import AIR_SHARE

if TYPE_CHECKING:
    from bathys.plan.way_out import Siphon
    from bathys.sizing.siphons import SiphonAsk

__all__ = ["can_be_of", "in_place_of", "resized", "tries", "with_air_tube"]

_TUBE = 0.008  # bore of an air tube [m]
_TUBE_SHARE = 1.05 * math.sqrt(AIR_SHARE)  # of a standpipe's bore, for enough air
_TUBE_OVER_SLOTS = 0.01  # an air tube ends so far over the slots [m]
_GUARD_ROOM = 0.02  # a guard is at least so much wider than its bell [m]


def _fields(standard: str, pipe: PipeSize, bell: PipeSize) -> dict[str, Any]:
    bore = pipe.as_data
    return {
        "standpipe_bore": bore,
        "bell_bore": {**bore, "nominal": bell.nominal},
        "slot_area": round(SLOTS_OVER_PIPE * area_of(pipe.bore), 6),
    }


def _tube(bore: float, foot: float) -> dict[str, float]:
    """An air tube wide enough for a standpipe, its mouth just over the openings at the foot."""
    wide = max(_TUBE, mark_above(_TUBE_SHARE * bore))
    return {"bore": wide, "mouth_height": foot + _TUBE_OVER_SLOTS}


def tries(ask: SiphonAsk, pipe: PipeSize) -> Iterator[tuple[str, dict[str, Any]]]:
    """What could be built of one pipe: the bell's size, and the siphon as plan data; plain, with an
    air tube, and with a trap besides.

    Parameters
    ----------
    ask : SiphonAsk
        What is asked for
    pipe : PipeSize
        The size of its pipe

    Yields
    ------
    (str, dict of str to object)
        The bell's size in words, and the siphon as plan data
    """
    bell = bell_over(ask.standard, pipe)
    if bell is None:
        return
    part = {
        "kind": "bell",
        "rim_height": ask.rim_height,
        "slot_height": ask.slot_height,
        **_fields(ask.standard, pipe, bell),
    }
    tube = {"air_tubes": [_tube(pipe.bore, ask.slot_height)]}
    yield bell.nominal, part
    yield bell.nominal, part | tube
    yield bell.nominal, part | tube | {"end_elbow": 90.0}


def can_be_of(standard: str, size: PipeSize) -> bool:
    """Whether a bell goes over a standpipe of this size.

    Parameters
    ----------
    standard : str
        Name of the pipe standard
    size : PipeSize
        Size of the pipe

    Returns
    -------
    bool
        Whether it does
    """
    return bell_over(standard, size) is not None


def resized(siphon: BellSiphon, standard: str, size: PipeSize) -> dict[str, Any]:
    """What changes for it to be of another size of pipe.

    Parameters
    ----------
    siphon : BellSiphon
        The siphon
    standard : str
        Name of the pipe standard
    size : PipeSize
        Size of the pipe

    Returns
    -------
    dict of str to object
        Fields that change, as plan data
    """
    bell = bell_over(standard, size)
    assert bell is not None  # noqa: S101 - can_be_of has seen to it
    return _fields(standard, size, bell) | in_place_of(siphon, bell)


def with_air_tube(siphon: BellSiphon, wanted: bool) -> dict[str, Any]:
    """What changes for it to have one, or none.

    Parameters
    ----------
    siphon : BellSiphon
        The siphon
    wanted : bool
        Whether it is to have one

    Returns
    -------
    dict of str to object
        Fields that change, as plan data
    """
    return {
        "air_tubes": [_tube(siphon.pipe_bore, siphon.foot_top)] if wanted else [],
        "cup_depth": 0.0,
    }


def in_place_of(old: Siphon, bell: PipeSize) -> dict[str, Any]:
    """What it takes over of the siphon that stood there: its guard, wide enough for the bell.

    Parameters
    ----------
    old : Siphon
        The siphon that stood there
    bell : PipeSize
        Size of the bell's pipe

    Returns
    -------
    dict of str to object
        Fields it takes over, as plan data
    """
    guard = old.guard_diameter if isinstance(old, BellSiphon) else None
    if guard is None:
        return {}
    return {"guard_diameter": max(guard, bell.outside_diameter + _GUARD_ROOM)}
