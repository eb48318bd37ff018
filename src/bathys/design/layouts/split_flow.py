"""One pump in a central sump: to the fish tank and its settler, and to beds and rafts beside each
other, all back to the sump."""

from bathys.design.air import add_air
from bathys.design.amounts import (
    bed_flow,
    fish_mass,
    least_flow,
    media_carry,
    raft_flow,
    tank_flow,
)
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft
from bathys.design.layouts.branches import (
    RAFT_RIM,
    add_branch_beds,
    add_branch_rafts,
    air_of_rafts,
)
from bathys.design.layouts.fish_side import add_fish_side, drain_fish_side
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.sump import add_sump, one_sump
from bathys.design.parts import Choice, add_fish, add_pump, start_draft
from bathys.plan.shell import Shell

__all__ = ["SPLIT_FLOW", "through_tank"]


def through_tank(brief: DesignBrief, sump: Shell) -> float:
    """Flow through one fish tank: by its turnover, and what the other branches leave of what all
    the water asks [m³/s].

    Parameters
    ----------
    brief : DesignBrief
        The brief
    sump : Shell
        What the sump is made of

    Returns
    -------
    float
        The flow, [m³/s]
    """
    others = 0.0
    if brief.beds.count:
        others += brief.beds.count * bed_flow(shell_of(brief.beds).capacity)
    if brief.rafts.count:
        raft = shell_of(brief.rafts)
        others += brief.rafts.count * raft_flow(raft.holds(raft.height - RAFT_RIM))
    rest = (least_flow(brief, sump) - others) / brief.tank.count
    return max(tank_flow(shell_of(brief.tank).capacity), rest)


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has a sump")
    draft, sump = start_draft(brief), choice.sump
    is_filtered = fish_mass(brief) > media_carry(brief)
    fish = add_fish_side(draft, brief, choice, sump, through_tank(brief, sump), is_filtered)
    sump_id, ends = add_sump(draft, brief, sump)
    drain_fish_side(draft, brief, fish, sump_id, sump)
    beds, bed_rim = add_branch_beds(draft, brief, choice, (sump_id, sump, ends))
    rafts = add_branch_rafts(draft, brief, (sump_id, sump, ends))
    inlets = [*fish.inlets, *beds, *rafts]
    pump = add_pump(draft, sump_id, sum(i.flow for i in inlets))
    main = max(fish.rim, bed_rim) + 0.1
    draft.pumped(pump, main, brief.pipe, inlets, brief.apart, choice.wider)
    add_fish(draft, brief, fish.tanks)
    add_air(draft, [*fish.air, *air_of_rafts(brief, rafts)])
    return draft


SPLIT_FLOW = Layout(
    "split_flow",
    "Split flow",
    "From a central sump to the fish tank and its settler, and to beds and rafts beside each "
    "other, all back to the sump.",
    "Easy to extend: each branch has a valve, and the fish tank keeps its level.",
    "Part of the water goes round past the fish; every branch has to be set.",
    wants_beds=True,
    wants_rafts=True,
    sump_needs=one_sump(),
    has_settler=True,
    draw=_draw,
)
