"""Small tanks beside the fish tank, fed by a branch, their screened overflows into one drain; beds
and rafts beside them where wanted."""

from bathys.design.air import add_air, tank_air
from bathys.design.amounts import fish_mass, media_carry, side_fish, tank_flow
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd, drain_size
from bathys.design.falls import SUMP_UNDER_RIM, Fall, check_rim, floor_over
from bathys.design.layouts.branches import add_branch_beds, add_branch_rafts, air_of_rafts
from bathys.design.layouts.fish_side import add_fish_side, drain_fish_side
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.split_flow import through_tank
from bathys.design.layouts.sump import add_sump, one_sump
from bathys.design.parts import Choice, add_fish, add_pump, screen_before, start_draft
from bathys.plan.shell import Shell

__all__ = ["SIDE_TANKS"]

_STAND = 0.6  # side tanks stand so high at the least, to be looked into [m]
_OVERFLOW = 0.11  # of a side tank's standpipe under its rim [m]
_NEXT = 0.6  # common drain from one side tank to the next [m]
_FINGERLING, _GROWN = 0.02, 0.05  # when they come in, and when they go [kg]


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
    sides, side_rim = _add_side_tanks(draft, brief, (sump_id, sump, ends))
    inlets = [*fish.inlets, *beds, *rafts, *sides]
    pump = add_pump(draft, sump_id, sum(i.flow for i in inlets))
    main = max(fish.rim, bed_rim, side_rim) + 0.1
    draft.pumped(pump, main, brief.pipe, inlets, brief.apart, choice.wider)
    add_fish(draft, brief, fish.tanks)
    side = shell_of(brief.side_tanks)
    nursery = [(s.place.partition(".")[0], tank_air(side)) for s in sides]
    _add_fingerlings(draft, brief, [id_ for id_, _ in nursery])
    add_air(draft, [*fish.air, *air_of_rafts(brief, rafts), *nursery])
    return draft


def _add_side_tanks(
    draft: Draft, brief: DesignBrief, sump: tuple[str, Shell, float]
) -> tuple[list[FreeEnd], float]:
    """The side tanks and their common drain; where their water comes in, and how high their rims
    are [m]."""
    (sump_id, shell, ends), side, count = sump, shell_of(brief.side_tanks), brief.side_tanks.count
    flow, rim = tank_flow(side.capacity), round(side.height - _OVERFLOW, 3)
    floor = floor_over(Fall(ends, brief.apart + _NEXT * count), 0.0, _STAND)
    check_rim(brief, "side tanks", floor + side.height, shell)
    own, inlets, drains = drain_size(brief.pipe, 2.0 * flow, wider=1), list[FreeEnd](), []
    for number in range(1, count + 1):
        id_ = draft.vessel(draft.named("N"), f"Side tank {number}", "fish_tank", side, floor)
        pipe = draft.part(
            "outlets",
            kind="standpipe",
            id=draft.named("O"),
            name=f"Screened overflow {number}",
            stands_in=id_,
            bore=own.as_data,
            rim_height=rim,
        )
        drains.append(f"{pipe}.out")
        place = draft.port(id_, "inlet", side.height - 0.02)
        inlets.append(FreeEnd(f"To side tank {number}", place, flow))
    end = draft.port(sump_id, "side", shell.height - SUMP_UNDER_RIM)
    joint, length = end, brief.apart
    screen = {"filter": screen_before(own)}
    for number, place in enumerate(drains, start=1):
        if number == count:
            draft.run(f"Side drain {number}", place, joint, own, length, 1, **screen)
            break
        wye = draft.named("Y")
        height = ends + (floor - ends) * 0.5
        draft.part("junctions", kind="wye", id=wye, name=f"Drain wye {number}", height=height)
        main = drain_size(brief.pipe, 2.0 * flow * (count - number + 1), wider=1)
        words = "Common drain" if number == 1 else f"Common drain {number}"
        draft.run(words, wye, joint, main, length)
        draft.run(f"Side drain {number}", place, wye, own, 0.4, 1, **screen)
        joint, length = wye, _NEXT
    return inlets, floor + side.height


def _add_fingerlings(draft: Draft, brief: DesignBrief, tanks: list[str]) -> None:
    count = int(side_fish(brief) / len(tanks) / _GROWN)
    for number, tank in enumerate(tanks if count else (), start=1):
        draft.part(
            "fish",
            kind="cohort",
            id=draft.named("K"),
            name=f"Fingerlings {number}",
            stands_in=tank,
            count=count,
            species=brief.species,
            mean_mass=_FINGERLING,
            harvest_mass=_GROWN,
            protein=0.36,
        )


SIDE_TANKS = Layout(
    "side_tanks",
    "Side tanks",
    "From a central sump to the fish tank, and through a small branch to tanks beside it, whose "
    "screened overflows share one drain.",
    "Fingerlings grow up, or sick fish are kept apart, on the water of the main system.",
    "Each small tank is a branch to set and a screen to keep clean; sickness goes round with the "
    "water.",
    wants_beds=True,
    wants_rafts=True,
    sump_needs=one_sump(),
    has_settler=True,
    draw=_draw,
    wants_side_tanks=True,
    needs_plants=False,
)
