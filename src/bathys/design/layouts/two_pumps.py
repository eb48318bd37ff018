"""One pump runs all day round fish tank, settler and rafts; a second one floods the beds by the
clock, and standpipes with small holes drain them slowly."""

from bathys.design.air import add_air, raft_air, tank_air
from bathys.design.amounts import least_flow, media_depth, tank_flow
from bathys.design.beds import add_bed, media_of
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
from bathys.plan.shell import Shell
from bathys.sizing.timers import TimerAsk, TimerChoice, design_timer
from bathys.vessels import storage_of

__all__ = ["TWO_PUMPS"]

_STAND = 0.3  # beds and rafts stand so high at the least, to be tended [m]
_IN_A_ROW = 0.015  # water falls so far from one raft to the next at most [m]
_UNDER_TOP = 0.05  # a standpipe's rim under the media's top [m]
_FILLS = (450.0, 380.0, 310.0, 250.0, 200.0)  # a bed with its holes shut, the slowest first [s]


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has a sump")
    if brief.tank.count > 1:
        sentence = "Two pumps serve one fish tank. Take a larger one, or the split flow."
        raise DesignRefused("tank", sentence, {}, {"tank": {"count": 1}})
    draft, sump, tank = start_draft(brief), choice.sump, shell_of(brief.tank)
    flow = max(tank_flow(tank.capacity), least_flow(brief, sump))
    settler = settler_shell(flow, choice.aim)
    ends = sump_floor(brief, sump) + sump.height - SUMP_UNDER_RIM
    into, raft_floor = Fall(ends, brief.apart), 0.0
    if brief.rafts.count:
        raft = shell_of(brief.rafts)
        raft_floor = floor_over(Fall(ends, 0.8), 0.0, _STAND)
        check_rim(brief, "rafts", raft_floor + raft.height, sump)
        into = Fall(raft_floor + row_rim(raft) + brief.rafts.count * _IN_A_ROW, 0.6)
    settler_floor = floor_over(into, settler.height - 0.14)
    floor, crest = tank_floor(settler_floor, settler, tank)
    check_rim(brief, "fish tank", floor + tank.height, sump)

    tank_id = draft.vessel("T1", "Fish tank", "fish_tank", tank, floor)
    _, inlet, outlet = add_settler(draft, "Settler", settler, settler_floor)
    lift = add_lift(draft, tank_id, tank, crest, flow, brief.pipe)
    overflow = overflow_size(brief, flow)
    draft.run("Tank overflow", f"{lift}.out", inlet, overflow, 0.6, 1)
    sump_id, _ = add_sump(draft, brief, sump)
    end = draft.port(sump_id, "loop", sump.height - SUMP_UNDER_RIM)
    rafts = list[str]()
    if brief.rafts.count:
        pipe = drain_size(brief.pipe, 2.0 * flow, waste=True, wider=1)
        rafts = add_raft_row(draft, brief, (outlet, "Settler outlet"), end, pipe, raft_floor)
    else:
        draft.run("Settler outlet", outlet, end, overflow, brief.apart, 1)
    pump = add_pump(draft, sump_id, flow)
    main = [FreeEnd("To the tank", draft.port(tank_id, "inlet", tank.height - 0.02), flow)]
    draft.pumped(pump, floor + tank.height + 0.1, brief.pipe, main, 2.0 * brief.apart, choice.wider)
    if brief.beds.count:
        _add_timed_beds(draft, brief, choice, sump, (sump_id, ends))
    add_fish(draft, brief, [tank_id])
    air = [(id_, raft_air(shell_of(brief.rafts))) for id_ in rafts]
    add_air(draft, [(tank_id, tank_air(tank)), *air])
    return draft


def _add_timed_beds(
    draft: Draft, brief: DesignBrief, choice: Choice, sump: Shell, drains_to: tuple[str, float]
) -> None:
    """The beds, their drains and the pump with its clock."""
    sump_id, ends = drains_to
    bed = shell_of(brief.beds)
    rim = round(media_depth(bed) - _UNDER_TOP, 3)
    flow, clock = _clock(brief, rim)
    floor = floor_over(Fall(ends, brief.apart * brief.beds.count), 0.0, _STAND)
    check_rim(brief, "beds", floor + bed.height, sump)
    size, beds = drain_size(brief.pipe, 1.5 * flow, wider=1), list[FreeEnd]()
    for number in range(1, brief.beds.count + 1):
        id_ = add_bed(draft, brief, number, floor)
        pipe = draft.part(
            "outlets",
            kind="standpipe",
            id=draft.named("O"),
            name=f"Standpipe {number}",
            stands_in=id_,
            bore=size.as_data,
            rim_height=rim,
            holes=clock.holes,
            hole_height=0.02,
            hole_diameter=clock.diameter,
        )
        end = draft.port(sump_id, f"bed{number}", sump.height - SUMP_UNDER_RIM)
        length = min(brief.apart * (0.5 + 0.7 * (number - 1)), 6.0)
        draft.run(f"Bed drain {number}", f"{pipe}.out", end, size, length, 2)
        beds.append(FreeEnd(f"To bed {number}", draft.port(id_, "inlet", bed.height + 0.05), flow))
    switch = {"kind": "timer", "on": clock.on, "off": clock.off}
    pump = add_pump(draft, sump_id, flow * len(beds), name="Bed pump", switch=switch)
    draft.pumped(pump, floor + bed.height + 0.15, brief.pipe, beds, brief.apart, choice.wider)


def _clock(brief: DesignBrief, rim: float) -> tuple[float, TimerChoice]:
    """Flow to a bed [m³/s], and its holes and minutes."""
    alone = Draft("bed", {}, {})
    bed, media = shell_of(brief.beds), media_of(brief)
    alone.vessel("B1", "Bed", "grow_bed", bed, 0.5, media=media)
    plan = alone.plan()
    storage = storage_of(plan, plan.vessels[0])
    held = float(storage.volume(rim) - storage.volume(0.02))
    refused = DesignRefused("beds", "No clock floods and drains these beds.")
    for fills in _FILLS:
        flow = held / fills
        found = design_timer(storage, TimerAsk(flow, rim))
        if found.choices:
            return flow, found.choices[0]
        refused = DesignRefused("beds", found.refusal, found.figures)
    raise refused


TWO_PUMPS = Layout(
    "two_pumps",
    "Two pumps, one by the clock",
    "One pump never rests, round fish tank, settler and rafts; another floods the beds by the "
    "clock, and small holes drain them.",
    "No siphons; the fish go on if the beds’ pump fails.",
    "Two pumps and a clock; small holes have to be kept open.",
    wants_beds=True,
    wants_rafts=True,
    sump_needs=one_sump(),
    has_settler=True,
    draw=_draw,
    has_siphons=False,
)
