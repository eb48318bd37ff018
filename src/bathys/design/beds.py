"""Media beds and their siphons."""

from typing import Any

from bathys.design.amounts import UNDER_TOP, bed_flow, media_depth
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd
from bathys.design.parts import Choice
from bathys.design.refusing import DesignRefused
from bathys.parts.bores import pipe_sizes
from bathys.parts.media import MEDIA
from bathys.sizing.siphons import SiphonAsk, SiphonChoice, design_siphon

__all__ = ["add_bed", "add_flooded_bed", "add_siphon", "media_of"]

_UNSURE = 0.05  # by which a bed's flow may be off [-]
_OVER_START = 1.1  # over the least with which the smallest siphon starts [-]
_MOST_TIMES = 4.0  # so many times its own flow a bed may get, for its siphon to start [-]
_SLOT = 0.025  # height of a bell's slots [m]
_CROWN = 0.025  # from the standpipe's rim to the bell's crown [m]
_GUARD_ROOM = 0.03  # a guard is so much wider than its bell [m]


def add_flooded_bed(
    draft: Draft,
    brief: DesignBrief,
    choice: Choice,
    number: int,
    floor: float,
    receiver: str,
    drop: float,
    length: float,
    times: float = 1.0,
) -> FreeEnd:
    """A media bed that a siphon drains, with its tail.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    choice : Choice
        What is chosen
    number : int
        Of the bed, from 1
    floor : float
        Height of its floor, [m]
    receiver : str
        Where its tail ends
    drop : float
        Of the tail, from the bed's floor, [m]
    length : float
        Of the tail along the level, [m]
    times : float
        So many times its own flow goes through it, [-]

    Returns
    -------
    FreeEnd
        Where its water is to come in

    Raises
    ------
    DesignRefused
        If no siphon works with its flow
    """
    shell = shell_of(brief.beds)
    id_ = add_bed(draft, brief, number, floor)
    flow = add_siphon(
        draft,
        brief,
        choice,
        (id_, number),
        receiver,
        (times * bed_flow(shell.capacity), drop, length),
    )
    return FreeEnd(f"To bed {number}", draft.port(id_, "inlet", shell.height + 0.05), flow)


def media_of(brief: DesignBrief) -> dict[str, Any]:
    """What a bed is filled with.

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    dict of str to object
        As plan data
    """
    medium = MEDIA[brief.medium]
    return {
        "kind": brief.medium,
        "top": media_depth(shell_of(brief.beds)),
        "void_fraction": round(0.5 * (medium.void_low + medium.void_high), 3),
    }


def add_bed(draft: Draft, brief: DesignBrief, number: int, floor: float) -> str:
    """A media bed, without what feeds and drains it.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    number : int
        Of the bed, from 1
    floor : float
        Height of its floor, [m]

    Returns
    -------
    str
        Its id
    """
    shell, media = shell_of(brief.beds), media_of(brief)
    name = f"Bed {number}" if brief.beds.count > 1 else "Grow bed"
    crop = {"kind": "leafy"}
    id_ = draft.named("B")
    return draft.vessel(id_, name, "grow_bed", shell, floor, media=media, crop=crop)


def add_siphon(
    draft: Draft,
    brief: DesignBrief,
    choice: Choice,
    bed: tuple[str, int],
    receiver: str,
    lies: tuple[float, float, float],
) -> float:
    """A bed's siphon with its tail.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    choice : Choice
        What is chosen
    bed : (str, int)
        Id of the bed, and its number
    receiver : str
        Where the tail ends
    lies : (float, float, float)
        Wanted flow, [m³/s]; drop of the tail from the bed's floor, and its length along the level,
        [m]

    Returns
    -------
    float
        The flow that it starts and stops with, [m³/s]

    Raises
    ------
    DesignRefused
        If none works
    """
    (id_, number), (flow, drop, length) = bed, lies
    rim = media_depth(shell_of(brief.beds)) - UNDER_TOP
    flow, built = _siphon(brief, choice, flow, rim, drop, length)
    guard = dict[str, Any]()
    if built.bell:
        bell = next(s for s in pipe_sizes(brief.pipe) if s.nominal == built.bell)
        wide = round(bell.outside_diameter + _GUARD_ROOM, 3)
        guard = {"crown_gap": _CROWN, "guard_diameter": wide}
    siphon = draft.part(
        "siphons",
        id=draft.named("X"),
        name=f"Siphon {number}" if brief.beds.count > 1 else "Siphon",
        stands_in=id_,
        **{**built.part, **guard},
    )
    tail = next(s for s in pipe_sizes(brief.pipe) if s.nominal == built.tail_bore["nominal"])
    draft.run(f"Tail {number}", f"{siphon}.tail", receiver, tail, length, 2)
    return flow


def _siphon(
    brief: DesignBrief, choice: Choice, flow: float, rim: float, drop: float, length: float
) -> tuple[float, SiphonChoice]:
    """The siphon of a bed and its flow: more than the bed asks where no siphon starts with that."""
    found = design_siphon(_ask(brief, flow, rim, drop, length))
    start = (found.figures or {}).get("start", 0.0)
    if found.refusal and flow < start <= _MOST_TIMES * flow:
        flow = _OVER_START * start
        found = design_siphon(_ask(brief, flow, rim, drop, length))
    if found.refusal:
        raise DesignRefused("beds", found.refusal, found.figures)
    does = [c for c in found.choices if c.fits]
    fitting = [c for c in does if c.bell] or does  # bells stand within the bed, and are usual
    if choice.aim == "margin":
        return flow, max(fitting, key=lambda c: min(c.room_to_start, c.room_to_stop))
    return flow, fitting[0]


def _ask(brief: DesignBrief, flow: float, rim: float, drop: float, length: float) -> SiphonAsk:
    low, high = (1.0 - _UNSURE) * flow, (1.0 + _UNSURE) * flow
    return SiphonAsk(low, high, round(rim, 3), _SLOT, drop, length, 2, brief.pipe)
