"""From the fish tank down over one bed after the other into a pit, whose pump runs only when its
float rises."""

from bathys.design.air import add_air, tank_air
from bathys.design.amounts import bed_flow, least_flow, media_depth, tank_flow
from bathys.design.beds import add_bed
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd, drain_size
from bathys.design.falls import SUMP_UNDER_RIM, Fall, check_rim, floor_over
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.sump import add_sump, one_sump
from bathys.design.parts import Choice, add_fish, add_pump, start_draft
from bathys.design.refusing import DesignRefused
from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.physics import area_of
from bathys.plan.shell import Shell

__all__ = ["CASCADE"]

_STAND = 0.3  # beds stand so high at the least, to be tended [m]
_STEP = 0.6  # drain from one bed to the next [m]
_INTO = 0.05  # water comes in so far over a bed's rim [m]
_UNDER_SURFACE = 0.06  # an overflow's rim under the media's top (common practice) [m]
_RUNS = 0.6  # share of the time that the pump runs [-]
_HEAD = 0.1  # over the tank's drain while the pump runs, about [m]
_DRAIN_UNDER = 0.28  # the tank's drain under its rim [m]
_SWING = 0.5  # of the water over the drain that one run of the pump moves [-]
_LOSES = 2.5  # velocity heads that a drain of a tank takes, about [-]
_OFF = 0.17  # level at which the float stops the pump [m]
_LEAST_BAND = 0.06  # from there to where it starts it [m]
_TALLEST = 2.4  # rim that a builder may be asked to allow [m]


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if choice.sump is None:
        raise ValueError("this layout has a pit")
    if brief.tank.count > 1:
        sentence = "A cascade has one fish tank. Take a larger one, or the split flow."
        raise DesignRefused("tank", sentence, {}, {"tank": {"count": 1}})
    draft, pit, tank, bed = (
        start_draft(brief),
        choice.sump,
        shell_of(brief.tank),
        shell_of(brief.beds),
    )
    flow = max(tank_flow(tank.capacity), bed_flow(bed.capacity), least_flow(brief, pit)) / _RUNS
    pit_id, ends = add_sump(draft, brief, pit, "Pit")
    floors, low = list[float](), Fall(ends, brief.apart)
    for _ in range(brief.beds.count):
        floors.append(floor_over(low, 0.0, _STAND))
        low = Fall(floors[-1] + bed.height + _INTO, _STEP)
    _check_steps(brief, floors, bed, pit)
    drain = round(tank.height - min(_DRAIN_UNDER, 0.35 * tank.height), 3)
    floor = floor_over(low, drain)
    check_rim(brief, "fish tank", floor + tank.height, pit)
    tank_id = draft.vessel("T1", "Fish tank", "fish_tank", tank, floor, water_depth=drain)
    place, name = draft.port(tank_id, "drain", drain), "Tank drain"
    size, pipe = _tank_drain(brief, flow), drain_size(brief.pipe, 2.0 * flow, wider=1)
    rim = max(media_depth(bed) - _UNDER_SURFACE, 0.5 * media_depth(bed))
    for number, bed_floor in enumerate(reversed(floors), start=1):
        id_ = add_bed(draft, brief, number, bed_floor)
        inlet = draft.port(id_, "inlet", bed.height + _INTO)
        draft.run(name, place, inlet, size, _STEP, 1)
        standpipe = draft.part(
            "outlets",
            kind="standpipe",
            id=draft.named("O"),
            name=f"Overflow {number}",
            stands_in=id_,
            bore=pipe.as_data,
            rim_height=round(rim, 3),
        )
        place, name, size = f"{standpipe}.out", f"Drain {number}", pipe
    end = draft.port(pit_id, "inlet", pit.height - SUMP_UNDER_RIM)
    draft.run(name, place, end, pipe, brief.apart, 1)
    _add_lift(draft, brief, choice, (pit_id, pit), (tank_id, tank, floor), flow)
    add_fish(draft, brief, [tank_id])
    add_air(draft, [(tank_id, tank_air(tank))])
    return draft


def _check_steps(brief: DesignBrief, floors: list[float], bed: Shell, pit: Shell) -> None:
    """See to it that the uppermost bed is reached; with steps too many, fewer free it."""
    try:
        check_rim(brief, "uppermost bed", floors[-1] + bed.height, pit)
    except DesignRefused as refused:
        fit = sum(floor + bed.height <= brief.highest for floor in floors)
        if 0 < fit < len(floors) - 1 or refused.frees.get("highest", 0.0) > _TALLEST:
            refused.frees = {"beds": {"count": max(fit, 1)}} if len(floors) > 1 else {}
        raise


def _add_lift(
    draft: Draft,
    brief: DesignBrief,
    choice: Choice,
    pit: tuple[str, Shell],
    tank: tuple[str, Shell, float],
    flow: float,
) -> None:
    """The pump with its float, and its pipe up to the tank."""
    (pit_id, pit_shell), (tank_id, tank_shell, floor) = pit, tank
    band = max(_SWING * _HEAD * tank_shell.footprint / pit_shell.footprint, _LEAST_BAND)
    switch = {"kind": "float", "on_height": round(_OFF + band, 3), "off_height": _OFF}
    pump = add_pump(draft, pit_id, flow, name="Float pump", switch=switch)
    inlets = [FreeEnd("Lift", draft.port(tank_id, "inlet", tank_shell.height - 0.02), flow)]
    main = floor + tank_shell.height + 0.1
    length = brief.apart * (1.0 + brief.beds.count)
    draft.pumped(pump, main, brief.pipe, inlets, length, choice.wider)


def _tank_drain(brief: DesignBrief, flow: float) -> PipeSize:
    """Pipe that lets the pump's flow out of the tank before its water stands too high."""
    sizes = [s for s in pipe_sizes(brief.pipe) if s.bore > 0.012]
    for size in sizes:
        head = _LOSES * (flow / area_of(size.bore)) ** 2 / 19.62
        if head <= _HEAD:
            return size
    return sizes[-1]


CASCADE = Layout(
    "cascade",
    "Cascade with a float pump",
    "From the fish tank down over one bed after the other into a pit; its pump runs only when the "
    "float rises.",
    "A bank or steps do the work: the pump rests part of the time, and water runs on for a while "
    "without it.",
    "The tank stands highest and its level goes up and down; a float that sticks stops the water.",
    wants_beds=True,
    wants_rafts=False,
    sump_needs=one_sump("Pit"),
    has_settler=False,
    draw=_draw,
    has_siphons=False,
)
