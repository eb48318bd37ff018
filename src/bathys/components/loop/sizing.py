"""Which loop siphons are tried, and how one is rebuilt of another pipe."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from bathys.components.loop.model import LoopSiphon
from bathys.parts.bores import PipeSize

if TYPE_CHECKING:
    from bathys.sizing.siphons import SiphonAsk

__all__ = ["can_be_of", "resized", "tries"]

_START_OVER_CREST = 0.69  # it starts with the water so many bores over its crest (derived, Fr 0.31)


def tries(ask: SiphonAsk, pipe: PipeSize) -> Iterator[tuple[str, dict[str, Any]]]:
    """What could be built of one pipe, as plan data; it has no bell.

    Parameters
    ----------
    ask : SiphonAsk
        What is asked for
    pipe : PipeSize
        The size of its pipe

    Yields
    ------
    (str, dict of str to object)
        Nothing for a bell, and the siphon as plan data
    """
    if 2.0 * pipe.bore < ask.rim_height:
        yield (
            "",
            {
                "kind": "loop",
                "bore": pipe.as_data,
                "bulkhead_height": round(0.5 * pipe.bore + 0.01, 3),
                "crest_height": round(ask.rim_height - _START_OVER_CREST * pipe.bore, 3),
            },
        )


def can_be_of(standard: str, size: PipeSize) -> bool:
    """Whether one is built of this size: of any.

    Parameters
    ----------
    standard : str
        Name of the pipe standard
    size : PipeSize
        Size of the pipe

    Returns
    -------
    bool
        Always true
    """
    return True


def resized(siphon: LoopSiphon, standard: str, size: PipeSize) -> dict[str, Any]:
    """What changes for it to be of another size of pipe: its crest stands where water starts over
    it at the same level as before.

    Parameters
    ----------
    siphon : LoopSiphon
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
    crest = siphon.crest_height + _START_OVER_CREST * (siphon.pipe_bore - size.bore)
    return {"bore": size.as_data, "crest_height": round(crest, 3)}
