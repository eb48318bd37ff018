"""One pump in a central sump: to the fish tank and its settler, and to beds and rafts beside each
other, all back to the sump."""

from bathys.design.air import add_air, filter_air, raft_air, tank_air
from bathys.design.amounts import bed_flow, fish_mass, least_flow, media_carry, raft_flow, tank_flow
from bathys.design.beds import add_flooded_bed
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, drain_size
from bathys.design.falls import (
    SUMP_UNDER_RIM,
    Fall,
    check_rim,
    floor_over,
    sump_floor,
    tank_floor,
)
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.sump import add_sump
from bathys.design.parts import (
    FILTER_INLET,
    FILTER_OUTLET,
    Choice,
    add_filter,
    add_fish,
    add_lift,
    add_pump,
    add_settler,
    overflow_size,
    screen_before,
    start_draft,
)
from bathys.design.settler_shells import settler_shell
from bathys.plan.shell import Shell

__all__ = ["SPLIT_FLOW"]

_TAIL = 0.45  # of beds, from the floor to the tail's end (common practice: 0.3 to 0.6) [m]
_RAFT_RIM = 0.07  # a raft's standpipe under its rim [m]
_NEXT = 0.5  # pipe from a settler to its filter [m]
_STAND = 0.3  # beds and rafts stand so high at the least, to be tended [m]


def _through_tank(brief: DesignBrief, sump: Shell) -> float:
    """Flow through one fish tank: by its turnover, and what the other branches leave of what all
    the water asks [m³/s]."""
    others = 0.0
    if brief.beds.count:
        others += brief.beds.count * bed_flow(shell_of(brief.beds).capacity)
    if brief.rafts.count:
        raft = shell_of(brief.rafts)
        others += brief.rafts.count * raft_flow(raft.holds(raft.height - _RAFT_RIM))
    rest = (least_flow(brief, sump) - others) / brief.tank.count
    return max(tank_flow(shell_of(brief.tank).capacity), rest)


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has a sump")
    draft, sump, tank = start_draft(brief), choice.sump, shell_of(brief.tank)
    flow, apart = _through_tank(brief, sump), brief.apart
    shell = settler_shell(flow, choice.aim)
    far = apart
    low = sump_floor(brief, sump) + sump.height - SUMP_UNDER_RIM
    is_filtered = fish_mass(brief) > media_carry(brief)
    filter_floor = floor_over(Fall(low, far), shell.height - FILTER_OUTLET)
    into = (
        Fall(filter_floor + shell.height - FILTER_INLET, _NEXT) if is_filtered else Fall(low, far)
    )
    settler_floor = floor_over(into, shell.height - 0.14)
    floor, crest = tank_floor(settler_floor, shell, tank)
    check_rim(brief, "fish tank", floor + tank.height, sump)
    outlets, tanks, aerated = [], [], []
    overflow = overflow_size(brief, flow)
    for number in range(1, brief.tank.count + 1):
        more = f" {number}" if brief.tank.count > 1 else ""
        id_ = draft.vessel(draft.named("T"), f"Fish tank{more}", "fish_tank", tank, floor)
        _, inlet, outlet = add_settler(draft, f"Settler{more}", shell, settler_floor)
        lift = add_lift(draft, id_, tank, crest, flow, brief.pipe)
        draft.run(f"Tank overflow{more}", f"{lift}.out", inlet, overflow, 0.6, 1)
        outlets.append((f"To the tank{more}", draft.port(id_, "inlet", tank.height - 0.02), flow))
        aerated.append((id_, tank_air(tank)))
        if is_filtered:
            filter_id, filter_in, filter_out = add_filter(
                draft, f"Biofilter{more}", shell, filter_floor
            )
            draft.run(f"Settler outlet{more}", outlet, filter_in, overflow, _NEXT)
            outlet = filter_out
            aerated.append((filter_id, filter_air(shell)))
        tanks.append((id_, outlet))
    sump_id, ends = add_sump(draft, brief, sump)
    for number, (_, outlet) in enumerate(tanks, start=1):
        end = draft.port(sump_id, f"settler{number}", sump.height - SUMP_UNDER_RIM)
        name = f"{'Filter' if is_filtered else 'Settler'} drain {number}"
        screen = {"filter": screen_before(overflow)} if is_filtered else {}
        draft.run(name, outlet, end, overflow, far, 1, **screen)
    if brief.beds.count:
        bed = shell_of(brief.beds)
        bed_floor = max(ends + _TAIL, _STAND)
        check_rim(brief, "beds", bed_floor + bed.height, sump)
        for number in range(1, brief.beds.count + 1):
            end = draft.port(sump_id, f"bed{number}", sump.height - SUMP_UNDER_RIM)
            drop, length = bed_floor - ends, apart * (0.5 + 0.7 * (number - 1))
            bed_in = add_flooded_bed(
                draft, brief, choice, number, bed_floor, end, drop, min(length, 6.0)
            )
            outlets.append((bed_in.name, bed_in.place, bed_in.flow))
    rafts = _add_rafts(draft, brief, sump, sump_id, ends)
    outlets += rafts
    pump = add_pump(draft, sump_id, sum(q for _, _, q in outlets))
    tops = [floor + tank.height, *([bed_floor + bed.height] if brief.beds.count else [])]
    draft.pumped(pump, max(tops) + 0.1, brief.pipe, outlets, apart, choice.wider)
    add_fish(draft, brief, [id_ for id_, _ in tanks])
    aerated += [(place.partition(".")[0], raft_air(shell_of(brief.rafts))) for _, place, _ in rafts]
    add_air(draft, aerated)
    return draft


def _add_rafts(
    draft: Draft, brief: DesignBrief, sump: Shell, sump_id: str, ends: float
) -> list[tuple[str, str, float]]:
    """Rafts beside each other, each with a standpipe; where their water is to come in."""
    outlets = []
    for number in range(1, brief.rafts.count + 1):
        raft, length = shell_of(brief.rafts), min(brief.apart * (0.5 + number), 6.0)
        rim = round(raft.height - _RAFT_RIM, 3)
        flow = raft_flow(raft.holds(rim))
        floor = floor_over(Fall(ends, length), 0.0, _STAND)
        check_rim(brief, "rafts", floor + raft.height, sump)
        id_ = draft.vessel(
            draft.named("G"), f"Raft {number}", "raft", raft, floor, crop={"kind": "leafy"}
        )
        size = drain_size(brief.pipe, 2.0 * flow, wider=1)
        pipe = draft.part(
            "outlets",
            kind="standpipe",
            id=draft.named("O"),
            name=f"Raft standpipe {number}",
            stands_in=id_,
            bore=size.as_data,
            rim_height=rim,
        )
        end = draft.port(sump_id, f"raft{number}", sump.height - SUMP_UNDER_RIM)
        draft.run(f"Raft drain {number}", f"{pipe}.out", end, size, length, 2)
        outlets.append((f"To raft {number}", draft.port(id_, "inlet", raft.height + 0.03), flow))
    return outlets


SPLIT_FLOW = Layout(
    "split_flow",
    "Split flow",
    "From a central sump to the fish tank and its settler, and to beds and rafts beside each "
    "other, all back to the sump.",
    "Easy to extend: each branch has a valve, and the fish tank keeps its level.",
    "Part of the water goes round past the fish; every branch has to be set.",
    wants_beds=True,
    wants_rafts=True,
    has_sump=True,
    has_settler=True,
    draw=_draw,
)
