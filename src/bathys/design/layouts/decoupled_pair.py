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
from bathys.design.settler_shells import settler_shell
from bathys.design.sumps import dries_of, sump_need, sumps_that_hold
from bathys.plan.shell import Shell

__all__ = ["DECOUPLED_PAIR"]

_LET_DOWN_AT = 8 * 3600.0  # of the day [s]
_LET_DOWN = 1e-3 / 6.0  # flow of the let-down: ten litres a minute [m³/s]
_LEAST_LET_DOWN = 1e-3  # a day [m³]
_UNDER = 0.95  # of what dries up on the plants' side: more would overflow their sump in the end [-]
_DAYS_DAMP = 4.0  # on which nothing dries up, and the plants' sump holds what is let down [d]
_OVER_OUTLETS = 0.045  # water over the outlets of settlers and biofilters while it runs [m]
_FISH, _PLANTS = "Fish sump", "Plant sump"
_TOP_UP = 1e-4  # flow of new water, of a float valve on a small pipe [m³/s]
_TOP_UP_TO = 0.16  # level while the pump runs at which it shuts: a stop then spills nothing [m]


def _without(brief: DesignBrief, *jobs: str) -> DesignBrief:
    """A brief without the vessels of some jobs."""
    bare = {job: getattr(brief, job).model_copy(update={"count": 0}) for job in jobs}
    return brief.model_copy(update=bare)


def _let_down(brief: DesignBrief, sump_area: float) -> float:
    """Fish water that goes to the plants in a day: nearly what dries up there [m³]."""
    rafts = brief.rafts.count * shell_of(brief.rafts).footprint if brief.rafts.count else 0.0
    return _UNDER * dries_of(brief) * (sump_area + rafts)


def _needs(brief: DesignBrief) -> dict[str, float]:
    """What goes up and down in each sump; the fish sump gives the let-down, the other holds it."""
    once, tanks = _let_down(brief, 0.0), brief.tank.count
    shell = settler_shell(tank_flow(shell_of(brief.tank).capacity), "cost")
    settlers = _OVER_OUTLETS * 2.0 * tanks * shell.footprint
    plants = sump_need(_without(brief, "tank")) + _DAYS_DAMP * once
    return {_PLANTS: plants, _FISH: sump_need(_without(brief, "beds", "rafts")) + settlers + once}


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has sumps")
    draft, sump, tank = start_draft(brief), choice.sump, shell_of(brief.tank)
    fish_sump = sumps_that_hold(_needs(brief)[_FISH])[1 if choice.aim == "margin" else 0]
    asked = least_flow(_without(brief, "beds", "rafts"), fish_sump) / brief.tank.count
    flow = max(tank_flow(tank.capacity), asked)
    fish = add_fish_side(draft, brief, choice, fish_sump, flow, is_filtered=True)
    fish_sump_id, _ = add_sump(draft, brief, fish_sump, _FISH)
    drain_fish_side(draft, brief, fish, fish_sump_id, fish_sump)
    pump = add_pump(draft, fish_sump_id, sum(i.flow for i in fish.inlets), name="Fish pump")
    draft.pumped(pump, fish.rim + 0.1, brief.pipe, fish.inlets, brief.apart, choice.wider)

    plant_sump, ends = add_sump(draft, brief, sump, _PLANTS)
    beds, bed_rim = add_branch_beds(draft, brief, choice, (plant_sump, sump, ends))
    rafts = add_branch_rafts(draft, brief, (plant_sump, sump, ends))
    inlets = [*beds, *rafts]
    raft_rim = max((draft.rim_of(i.place) for i in rafts), default=0.0)
    pump = add_pump(draft, plant_sump, sum(i.flow for i in inlets), name="Plant pump")
    main = max(bed_rim, raft_rim) + 0.1
    draft.pumped(pump, main, brief.pipe, inlets, brief.apart, choice.wider)

    _add_let_down(draft, brief, fish.tanks[0], plant_sump, sump)
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
    draft: Draft, brief: DesignBrief, tank: str, plant_sump: str, sump: Shell
) -> None:
    """Fish water by its own weight to the plants, once a day."""
    start = draft.port(tank, "let_down", 0.5 * shell_of(brief.tank).height)
    end = draft.port(plant_sump, "let_down", sump.height - SUMP_UNDER_RIM)
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
        volume=round(max(_let_down(brief, sump.footprint), _LEAST_LET_DOWN), 4),
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
    sump_needs=_needs,
    has_settler=True,
    draw=_draw,
    is_apart=True,
)
