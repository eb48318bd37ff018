"""Two sumps joined by a balance pipe; beds and rafts from one manifold, with a bypass straight back
for what is too much."""

import math

from bathys.design.air import add_air
from bathys.design.amounts import fish_mass, media_carry
from bathys.design.brief import DesignBrief
from bathys.design.draft import Draft, FreeEnd
from bathys.design.falls import SUMP_UNDER_RIM
from bathys.design.layouts.branches import add_branch_beds, add_branch_rafts, air_of_rafts
from bathys.design.layouts.fish_side import add_fish_side, drain_fish_side
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.split_flow import through_tank
from bathys.design.layouts.sump import add_sump
from bathys.design.parts import Choice, add_fish, add_pump, start_draft
from bathys.design.sumps import sump_need
from bathys.parts.bores import PipeSize, pipe_sizes

__all__ = ["TWIN_SUMPS"]

_BALANCE = 0.1  # middle of the balance pipe over the sumps' floors [m]
_CALM = 0.2  # velocity in it, so that the two sumps stand level within a centimetre [m/s]
_RUSH = 2.5  # flow that siphons let down at once, over what comes to their beds [-]
_SURPLUS = 0.1  # goes round through the bypass, of all that is pumped [-]


def _needs(brief: DesignBrief) -> dict[str, float]:
    half = 0.5 * sump_need(brief)
    return {"Pump sump": half, "Second sump": half}


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has sumps")
    draft, sump = start_draft(brief), choice.sump
    is_filtered = fish_mass(brief) > media_carry(brief)
    fish = add_fish_side(draft, brief, choice, sump, through_tank(brief, sump), is_filtered)
    pump_sump, ends = add_sump(draft, brief, sump, "Pump sump")
    other, _ = add_sump(draft, brief, sump, "Second sump")
    drain_fish_side(draft, brief, fish, pump_sump, sump)
    beds, bed_rim = add_branch_beds(draft, brief, choice, (other, sump, ends))
    rafts = add_branch_rafts(draft, brief, (other, sump, ends))
    size = _balance_size(brief, _RUSH * sum(i.flow for i in (*beds, *rafts)))
    start, end = (draft.port(id_, "balance", _BALANCE) for id_ in (other, pump_sump))
    draft.run("Balance pipe", start, end, size, max(0.3, 0.3 * brief.apart))
    inlets = [*fish.inlets, *beds, *rafts]
    place = draft.port(pump_sump, "bypass", sump.height - SUMP_UNDER_RIM)
    surplus = FreeEnd("Bypass", place, _SURPLUS * sum(i.flow for i in inlets))
    pump = add_pump(draft, pump_sump, sum(i.flow for i in (surplus, *inlets)))
    main = max(fish.rim, bed_rim) + 0.1
    draft.pumped(pump, main, brief.pipe, [surplus, *inlets], brief.apart, choice.wider)
    add_fish(draft, brief, fish.tanks)
    add_air(draft, [*fish.air, *air_of_rafts(brief, rafts)])
    return draft


def _balance_size(brief: DesignBrief, flow: float) -> PipeSize:
    least = math.sqrt(4.0 * flow / (math.pi * _CALM))
    sizes = pipe_sizes(brief.pipe)
    return next((s for s in sizes if s.bore >= least), sizes[-1])


TWIN_SUMPS = Layout(
    "twin_sumps",
    "Twin sumps",
    "Two sumps are joined by a balance pipe. One pump feeds the fish tank and, from a manifold, "
    "beds and rafts. A bypass takes what is too much straight back.",
    "Two smaller sumps fit where one large one does not, and the bypass makes the beds easy to "
    "set.",
    "What the bypass takes is pumped for nothing; the balance pipe has to be kept open.",
    wants_beds=True,
    wants_rafts=True,
    sump_needs=_needs,
    has_settler=True,
    draw=_draw,
)
