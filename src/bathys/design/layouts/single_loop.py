"""A pump in the sump lifts all water to the fish tank, whose overflow feeds a settler, then the
beds, then the sump, all by gravity."""

from bathys.design.air import add_air, tank_air
from bathys.design.amounts import bed_flow, least_flow, tank_flow
from bathys.design.beds import add_flooded_bed
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd, drain_size
from bathys.design.falls import (
    SUMP_UNDER_RIM,
    Fall,
    check_rim,
    floor_over,
    sump_floor,
    tank_floor,
)
from bathys.design.layouts.layout import Layout
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

__all__ = ["SINGLE_LOOP"]

_TAIL = 0.45  # of beds, from the floor to the tail's end (common practice: 0.3 to 0.6) [m]
_STAND = 0.3  # beds stand so high at the least, to be tended [m]
_OVER_BED = 0.05  # pipes end so far over a bed's rim [m]
_TEE_OVER_BED = 0.12  # the tees that share the water out, over where it comes in [m]
_MOST_BEDS = 8  # whose valves still share one drain evenly


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has a sump")
    if brief.tank.count > 1:
        sentence = "A single loop has one fish tank. Take a larger one, or the split flow."
        raise DesignRefused("tank", sentence, {}, {"tank": {"count": 1}})
    if brief.beds.count > _MOST_BEDS:
        sentence = (
            "One drain is shared out evenly over {most:count} beds at most, you want "
            "{beds:count}. Take fewer, or the split flow."
        )
        figures = {"most": float(_MOST_BEDS), "beds": float(brief.beds.count)}
        raise DesignRefused("beds", sentence, figures, {"layout": "split_flow"})
    draft, sump, tank = start_draft(brief), choice.sump, shell_of(brief.tank)
    bed, count = shell_of(brief.beds), brief.beds.count
    asked = (tank_flow(tank.capacity), count * bed_flow(bed.capacity), least_flow(brief, sump))
    flow = max(asked)
    settler = settler_shell(flow, choice.aim)
    ends = sump_floor(brief, sump) + sump.height - SUMP_UNDER_RIM
    bed_floor = max(ends + _TAIL, _STAND)
    check_rim(brief, "beds", bed_floor + bed.height, sump)
    tee = bed_floor + bed.height + _OVER_BED + _TEE_OVER_BED
    settler_floor = floor_over(Fall(tee, brief.apart), settler.height - 0.14)
    floor, crest = tank_floor(settler_floor, settler, tank)
    check_rim(brief, "fish tank", floor + tank.height, sump)

    tank_id = draft.vessel("T1", "Fish tank", "fish_tank", tank, floor)
    _, inlet, outlet = add_settler(draft, "Settler", settler, settler_floor)
    lift = add_lift(draft, tank_id, tank, crest, flow, brief.pipe)
    overflow = overflow_size(brief, flow)
    draft.run("Tank overflow", f"{lift}.out", inlet, overflow, 0.6, 1)
    sump_id, _ = add_sump(draft, brief, sump)
    beds = []
    for number in range(1, count + 1):
        end = draft.port(sump_id, f"bed{number}", sump.height - SUMP_UNDER_RIM)
        length = min(brief.apart * (0.5 + 0.7 * (number - 1)), 6.0)
        times = flow / count / bed_flow(bed.capacity)
        beds.append(
            add_flooded_bed(
                draft, brief, choice, number, bed_floor, end, bed_floor - ends, length, times
            )
        )
    _share_out(draft, brief, outlet, beds, tee, flow)
    pump = add_pump(draft, sump_id, flow)
    main = [FreeEnd("Riser", draft.port(tank_id, "inlet", tank.height - 0.02), flow)]
    draft.pumped(pump, floor + tank.height + 0.1, brief.pipe, main, 2.0 * brief.apart, choice.wider)
    add_fish(draft, brief, [tank_id])
    add_air(draft, [(tank_id, tank_air(tank))])
    return draft


def _share_out(
    draft: Draft, brief: DesignBrief, outlet: str, beds: list[FreeEnd], height: float, flow: float
) -> None:
    """The settler's water by tees to the beds, each with a valve."""
    size, place = overflow_size(brief, 2.0 * flow), outlet
    branch = drain_size(brief.pipe, 2.0 * flow / len(beds), wider=1)
    if len(beds) == 1:
        draft.run("To the bed", outlet, beds[0].place, size, brief.apart, 1)
        return
    for number, bed in enumerate(beds):
        valve = {"valve": {"kind": "ball"}, "wanted_flow": flow / len(beds)}
        if number == len(beds) - 1:
            draft.run(bed.name, place, bed.place, branch, brief.apart, 1, **valve)
            return
        tee = draft.named("J")
        draft.part("junctions", kind="tee", id=tee, name=f"Tee {tee[1:]}", height=round(height, 3))
        words = "Settler outlet" if number == 0 else f"On to bed {number + 1}"
        draft.run(words, place, tee, size, brief.apart, 0)
        draft.run(bed.name, tee, bed.place, branch, 0.5, 1, **valve)
        place = tee


SINGLE_LOOP = Layout(
    "single_loop",
    "Single loop",
    "From the sump up to the fish tank; its overflow feeds a settler, the beds and the sump by "
    "gravity.",
    "The fish tank keeps its level, and all water passes fish, settler and beds, on one pump.",
    "The fish tank stands highest; beds share one drain, so valves have to be set with care.",
    wants_beds=True,
    wants_rafts=False,
    sump_needs=one_sump(),
    has_settler=True,
    draw=_draw,
)
