"""A loop for the fish and one for the plants, each with its own pump and pH; fish water is let down
to the plants once a day, and new water takes its place."""

from bathys.design.air import add_air
from bathys.design.amounts import least_flow, tank_flow
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, pressed_size
from bathys.design.falls import SUMP_UNDER_RIM
from bathys.design.layouts.branches import add_branch_beds, add_branch_rafts, air_of_rafts
from bathys.design.layouts.fish_side import add_fish_side, drain_fish_side
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.sump import add_sump
from bathys.design.parts import Choice, add_fish, add_pump, start_draft
from bathys.design.sumps import dries_of, sumps_for

__all__ = ["DECOUPLED_PAIR"]

_LET_DOWN_AT = 8 * 3600.0  # of the day [s]
_LET_DOWN = 1e-3 / 6.0  # flow of the let-down: ten litres a minute [m³/s]
_LEAST_LET_DOWN = 0.02  # of the fish tank a day, for what plants eat (common practice) [-]
_TOP_UP = 1e-4  # flow of new water, of a float valve on a small pipe [m³/s]
_TOP_UP_TO = 0.16  # level while the pump runs at which it shuts: a stop then spills nothing [m]


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has sumps")
    draft, sump, tank = start_draft(brief), choice.sump, shell_of(brief.tank)
    bare = {"beds": brief.beds.model_copy(update={"count": 0})}
    bare["rafts"] = brief.rafts.model_copy(update={"count": 0})
    alone = brief.model_copy(update=bare)
    fish_sump = sumps_for(alone)[1 if choice.aim == "margin" else 0]
    flow = max(tank_flow(tank.capacity), least_flow(alone, fish_sump) / brief.tank.count)
    fish = add_fish_side(draft, brief, choice, fish_sump, flow, is_filtered=True)
    fish_sump_id, _ = add_sump(draft, brief, fish_sump, "Fish sump")
    drain_fish_side(draft, brief, fish, fish_sump_id, fish_sump)
    pump = add_pump(draft, fish_sump_id, sum(i.flow for i in fish.inlets), name="Fish pump")
    draft.pumped(pump, fish.rim + 0.1, brief.pipe, fish.inlets, brief.apart, choice.wider)

    plant_sump, ends = add_sump(draft, brief, sump, "Plant sump")
    beds, bed_rim = add_branch_beds(draft, brief, choice, (plant_sump, sump, ends))
    rafts = add_branch_rafts(draft, brief, (plant_sump, sump, ends))
    inlets = [*beds, *rafts]
    raft_rim = max((draft.rim_of(i.place) for i in rafts), default=0.0)
    pump = add_pump(draft, plant_sump, sum(i.flow for i in inlets), name="Plant pump")
    main = max(bed_rim, raft_rim) + 0.1
    draft.pumped(pump, main, brief.pipe, inlets, brief.apart, choice.wider)

    _add_let_down(draft, brief, fish.tanks[0], plant_sump, sump.height)
    draft.part(
        "top_ups",
        kind="float_valve",
        id=draft.named("W"),
        name="New water",
        stands_in=fish_sump_id,
        level=_TOP_UP_TO,
        flow=_TOP_UP,
    )
    add_fish(draft, brief, fish.tanks)
    add_air(draft, [*fish.air, *air_of_rafts(brief, rafts)])
    return draft


def _add_let_down(
    draft: Draft, brief: DesignBrief, tank: str, plant_sump: str, sump_height: float
) -> None:
    """Fish water by its own weight to the plants, once a day: what they evaporate, and enough for
    what they eat."""
    grown = (brief.beds, brief.rafts)
    area = sum(w.count * shell_of(w).footprint for w in grown if w.count)
    held = brief.tank.count * shell_of(brief.tank).capacity
    dries = dries_of(brief) * area
    volume = round(max(dries, min(_LEAST_LET_DOWN * held, 2.0 * dries)), 3)
    start = draft.port(tank, "let_down", 0.5 * shell_of(brief.tank).height)
    end = draft.port(plant_sump, "let_down", sump_height - SUMP_UNDER_RIM)
    size = pressed_size(brief.pipe, 2.0 * _LET_DOWN)
    shut = {"valve": {"kind": "ball", "angle": 90.0}}
    draft.run("Let-down", start, end, size, 2.0 * brief.apart, 2, **shut)
    draft.part(
        "transfers",
        kind="transfer",
        id=draft.named("D"),
        name="Let-down opened",
        source=tank,
        target=plant_sump,
        volume=volume,
        flow=_LET_DOWN,
        at=_LET_DOWN_AT,
        every=86400.0,
    )


DECOUPLED_PAIR = Layout(
    "decoupled_pair",
    "Decoupled pair",
    "Fish and plants each go round by their own pump. Once a day fish water is let down to the "
    "plants, and new water takes its place.",
    "Fish at their pH and plants at theirs; sickness and treatment of the one spare the other.",
    "Two pumps, two sumps and a biofilter; the let-down has to be kept up.",
    wants_beds=True,
    wants_rafts=True,
    sumps=1,
    has_settler=True,
    draw=_draw,
)
