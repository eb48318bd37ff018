"""From the fish tank through a settler and a fines chamber along rafts to a sump, and back."""

from bathys.design.air import add_air, raft_air, tank_air
from bathys.design.amounts import least_flow, tank_flow
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd, drain_size
from bathys.design.falls import SUMP_UNDER_RIM, Fall, check_rim, floor_over, tank_floor
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.raft_row import add_raft_row, row_rim
from bathys.design.layouts.sump import add_sump, one_sump
from bathys.design.parts import (
    Choice,
    add_fish,
    add_lift,
    add_pump,
    add_settler,
    overflow_size,
    start_draft,
)
from bathys.design.refusing import DesignRefused
from bathys.design.settler_shells import settler_shell

__all__ = ["RAFT_LINE"]

_STAND = 0.3  # rafts stand so high at the least, to be tended [m]
_IN_A_LINE = 0.015  # water falls so far from one raft to the next at most [m]
_FINES_INLET, _FINES_OUTLET = 0.08, 0.15  # under the rim of the fines chamber [m]


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has a sump")
    if brief.tank.count > 1:
        sentence = "A raft line has one fish tank. Take a larger one, or the split flow."
        raise DesignRefused("tank", sentence, {}, {"tank": {"count": 1}})
    draft, sump, tank = start_draft(brief), choice.sump, shell_of(brief.tank)
    raft = shell_of(brief.rafts)
    flow = max(tank_flow(tank.capacity), least_flow(brief, sump))
    pipe = drain_size(brief.pipe, 2.0 * flow, waste=True, wider=1)
    sump_id, ends = add_sump(draft, brief, sump)
    rim = row_rim(raft)
    raft_floor = floor_over(Fall(ends, 0.8), 0.0, _STAND)
    check_rim(brief, "rafts", raft_floor + raft.height, sump)
    water = raft_floor + rim + brief.rafts.count * _IN_A_LINE
    settler = settler_shell(flow, choice.aim)
    fines_floor = floor_over(Fall(water, 0.6), settler.height - _FINES_OUTLET)
    settler_floor = floor_over(
        Fall(fines_floor + settler.height - _FINES_OUTLET + 0.03, 0.5), settler.height - 0.14
    )
    floor, crest = tank_floor(settler_floor, settler, tank)
    check_rim(brief, "fish tank", floor + tank.height, sump)

    tank_id = draft.vessel("T1", "Fish tank", "fish_tank", tank, floor)
    _, inlet, outlet = add_settler(draft, "Settler", settler, settler_floor)
    fines = draft.vessel(
        "N1",
        "Fines chamber",
        "settler",
        settler,
        fines_floor,
        carriers={"kind": "netting", "volume": round(0.6 * settler.capacity, 2)},
    )
    fines_in = draft.port(fines, "inlet", settler.height - _FINES_INLET)
    fines_out = draft.port(fines, "outlet", settler.height - _FINES_OUTLET)
    lift = add_lift(draft, tank_id, tank, crest, flow, brief.pipe)
    overflow = overflow_size(brief, 1.5 * flow)
    draft.run("Tank overflow", f"{lift}.out", inlet, overflow, 0.6, 1)
    draft.run("Settler outlet", outlet, fines_in, pipe, 0.5)
    end = draft.port(sump_id, "raft", sump.height - SUMP_UNDER_RIM)
    rafts = add_raft_row(draft, brief, (fines_out, "Fines outlet"), end, pipe, raft_floor)
    pump = add_pump(draft, sump_id, flow)
    outlets = [FreeEnd("Return main", draft.port(tank_id, "inlet", tank.height - 0.02), flow)]
    back = brief.apart * (2 + brief.rafts.count) + brief.rafts.count * raft.sides[0]
    draft.pumped(pump, floor + tank.height + 0.1, brief.pipe, outlets, back, choice.wider)
    add_fish(draft, brief, [tank_id])
    air = raft_air(raft)
    add_air(draft, [(tank_id, tank_air(tank)), *((id_, air) for id_ in rafts)])
    return draft


RAFT_LINE = Layout(
    "raft_line",
    "Raft line",
    "From the fish tank through a settler and a fines chamber along the rafts to a sump, and back.",
    "Many heads of leafy plants, and plant roots that are easy to see and clean.",
    "Solids must be taken out well, and rafts want air of their own.",
    wants_beds=False,
    wants_rafts=True,
    sump_needs=one_sump(),
    has_settler=True,
    draw=_draw,
    has_siphons=False,
)
