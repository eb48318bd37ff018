"""Several small beds over the fish tank, joined low by pipes with valves and drained by one
siphon."""

from itertools import pairwise
from typing import Any

from bathys.design.air import add_air, tank_air
from bathys.design.amounts import bed_flow, flow_scale, media_depth
from bathys.design.beds import add_bed, add_siphon
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd, drain_size
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.over_tank import bed_floor, tank_below
from bathys.design.parts import Choice, add_fish, add_pump, start_draft
from bathys.design.refusing import DesignRefused
from bathys.parts.media import MEDIA

__all__ = ["LINKED_BEDS"]

_TAIL = 0.44  # from the bed's floor to the tail's end (common practice: 0.3 to 0.6) [m]
_LINK = 0.04  # of the joining pipes' middle over the floor [m]
_APART = 0.25  # joining pipe from one bed to the next [m]
_RIGHT, _LEFT = {"side": "right"}, {"side": "left"}
_MOST = 5  # beds that one siphon still drains evenly


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    count = brief.beds.count
    if not 1 < count <= _MOST:
        sentence = (
            "One siphon drains two to {most:count} beds that are joined; you want {beds:count}."
        )
        wanted = {"beds": {"count": 2 if count < 2 else _MOST}}
        figures = {"most": float(_MOST), "beds": float(count)}
        raise DesignRefused("beds", sentence, figures, wanted)
    draft = start_draft(brief)
    bed, medium = shell_of(brief.beds), MEDIA[brief.medium]
    swing = count * medium.void_high * bed.holds(media_depth(bed))
    try:
        tank, returns = tank_below(draft, brief, swing)
    except DesignRefused as refused:
        if refused.frees.get("beds") == {"count": 1}:  # one bed is joined to none
            refused.frees["layout"] = "stacked_pair"
        raise
    height, drop = bed_floor(brief, returns, _TAIL)
    beds = [add_bed(draft, brief, number, height) for number in range(1, count + 1)]
    port = draft.port(tank, "return", returns)
    wanted_flow = count * flow_scale(brief) * bed_flow(bed.capacity)
    last = (beds[-1], count)
    flow = add_siphon(draft, brief, choice, last, port, (wanted_flow, drop, 0.6))
    link = drain_size(brief.pipe, 3.0 * flow, wider=1)
    joins: dict[str, Any] = {"valve": {"kind": "ball"}, "start_hole": _RIGHT, "end_hole": _LEFT}
    for one, two in pairwise(beds):
        start, end = draft.port(one, "right", _LINK), draft.port(two, "left", _LINK)
        draft.run(f"Link {one[1:]} to {two[1:]}", start, end, link, _APART, **joins)
    pump = add_pump(draft, tank, flow)
    outlets = [
        FreeEnd(f"To bed {number}", draft.port(id_, "inlet", bed.height + 0.05), flow / count)
        for number, id_ in enumerate(beds, start=1)
    ]
    draft.pumped(pump, height + bed.height + 0.1, brief.pipe, outlets, brief.apart, choice.wider)
    add_fish(draft, brief, [tank])
    add_air(draft, [(tank, tank_air(shell_of(brief.tank)))])
    return draft


LINKED_BEDS = Layout(
    "linked_beds",
    "Linked beds on one siphon",
    "From the tank up into small beds that are joined low; one siphon drains them all back.",
    "Several small containers flood and drain as one bed, with a single siphon to trim.",
    "The far bed lags behind; if the siphon fails, none of them drains.",
    wants_beds=True,
    wants_rafts=False,
    sump_needs=None,
    has_settler=False,
    draw=_draw,
)
