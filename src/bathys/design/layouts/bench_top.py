"""An aquarium, a strainer of two buckets and one small bed with a siphon, for a classroom."""

from bathys.design.air import add_air, tank_air
from bathys.design.amounts import flow_scale, media_depth
from bathys.design.beds import add_flooded_bed
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd
from bathys.design.falls import Fall, check_rim, floor_over
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.over_tank import bed_floor, tank_below
from bathys.design.parts import Choice, add_fish, add_pump, overflow_size, start_draft
from bathys.design.refusing import DesignRefused
from bathys.parts.containers import containers
from bathys.parts.media import MEDIA
from bathys.parts.practice import SETTLER_RETENTION
from bathys.plan.shell import Shell, shell_from

__all__ = ["BENCH_TOP"]

_TAIL = 0.36  # from the bed's floor to the tail's end (common practice: 0.3 to 0.6) [m]
_INTO, _OUTLET = 0.02, 0.1  # of the strainer, over and under its rim [m]
_INTO_BED = 0.03  # water comes in so far over the bed's rim [m]
_FILLED = 0.5  # of the strainer with netting [-]
_NEXT = 0.25  # pipe from the strainer to the bed [m]


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    if brief.beds.count != 1:
        sentence = "A bench-top unit has one bed. Take one, or the stacked pair."
        raise DesignRefused("beds", sentence, {}, {"beds": {"count": 1}})
    draft, bed = start_draft(brief), shell_of(brief.beds)
    swing = MEDIA[brief.medium].void_high * bed.holds(media_depth(bed))
    tank, returns = tank_below(draft, brief, swing)
    floor, drop = bed_floor(brief, returns, _TAIL)
    port, times = draft.port(tank, "bed", returns), flow_scale(brief)
    end = add_flooded_bed(draft, brief, choice, 1, floor, port, drop, 0.2, times)
    shell = _strainer(end.flow)
    into = floor + bed.height + _INTO_BED
    strainer_floor = floor_over(Fall(into, _NEXT), shell.height - _OUTLET)
    check_rim(brief, "strainer", strainer_floor + shell.height, None)
    carriers = {"kind": "netting", "volume": round(_FILLED * shell.capacity, 4)}
    strainer = draft.vessel(
        "C1", "Bucket strainer", "settler", shell, strainer_floor, carriers=carriers, freeboard=0.03
    )
    place = draft.port(strainer, "inlet", shell.height + _INTO)
    outlet = draft.port(strainer, "outlet", shell.height - _OUTLET)
    pump = add_pump(draft, tank, end.flow, inlet_height=0.03)
    main = strainer_floor + shell.height + 0.1
    inlets = [FreeEnd("Hose up", place, end.flow)]
    draft.pumped(pump, main, brief.pipe, inlets, brief.apart, choice.wider)
    draft.run("Strainer outlet", outlet, end.place, overflow_size(brief, end.flow), _NEXT, 1)
    add_fish(draft, brief, [tank])
    add_air(draft, [(tank, tank_air(shell_of(brief.tank)))])
    return draft


def _strainer(flow: float) -> Shell:
    """The smallest bucket in which water stays long enough."""
    made = [
        shell_from(c.shape)
        for c in containers()
        if c.group == "Drums and buckets" and c.shape["kind"] == "cylinder"
    ]
    made.sort(key=lambda shell: shell.capacity)
    does = [s for s in made if s.capacity * (1.0 - _FILLED) >= flow * SETTLER_RETENTION]
    return does[0] if does else made[-1]


BENCH_TOP = Layout(
    "bench_top",
    "Bench-top unit",
    "From an aquarium up through a strainer of two buckets into one small bed, whose siphon drains "
    "straight back.",
    "For a classroom or a kitchen: all of it stands on a bench and can be watched.",
    "Little water, so it changes fast: it is looked after every day.",
    wants_beds=True,
    wants_rafts=False,
    sump_needs=None,
    has_settler=True,
    draw=_draw,
)
