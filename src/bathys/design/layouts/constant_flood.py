"""A fish tank with media beds over it that stay flooded: an overflow holds the water a little under
the surface."""

from bathys.design.air import add_air, tank_air
from bathys.design.amounts import bed_flow, flow_scale, media_depth
from bathys.design.beds import add_bed
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd, drain_size
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.over_tank import bed_floor, tank_below
from bathys.design.parts import Choice, add_fish, add_pump, start_draft

__all__ = ["CONSTANT_FLOOD"]

_UNDER_SURFACE = 0.06  # the overflow's rim under the media's top (common practice) [m]
_DROP = 0.3  # from the bed's floor to the drain's end [m]


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    draft = start_draft(brief)
    bed = shell_of(brief.beds)
    top, flow = media_depth(bed), flow_scale(brief) * bed_flow(bed.capacity)
    rim = round(max(top - _UNDER_SURFACE, 0.5 * top), 3)
    tank, returns = tank_below(draft, brief, 0.0)
    floor, _ = bed_floor(brief, returns, _DROP)
    outlets = []
    for number in range(1, brief.beds.count + 1):
        id_ = add_bed(draft, brief, number, floor)
        size = drain_size(brief.pipe, 2.0 * flow, wider=1)
        pipe = draft.part(
            "outlets",
            kind="standpipe",
            id=draft.named("O"),
            name=f"Overflow {number}",
            stands_in=id_,
            bore=size.as_data,
            rim_height=rim,
        )
        end = draft.port(tank, f"bed{number}", returns)
        length = 0.3 + (number - 1) * 0.5 * brief.apart
        draft.run(f"Drain {number}", f"{pipe}.out", end, size, length, 1)
        outlets.append(
            FreeEnd(f"To bed {number}", draft.port(id_, "inlet", bed.height + 0.05), flow)
        )
    pump = add_pump(draft, tank, sum(outlet.flow for outlet in outlets))
    draft.pumped(pump, floor + bed.height + 0.1, brief.pipe, outlets, brief.apart, choice.wider)
    add_fish(draft, brief, [tank])
    add_air(draft, [(tank, tank_air(shell_of(brief.tank)))])
    return draft


CONSTANT_FLOOD = Layout(
    "constant_flood",
    "Constant flood",
    "From the tank up into the beds, and over standpipes back.",
    "Without siphons or timers: nothing has to start or stop.",
    "Roots and bacteria get less air; solids go through the pump into the beds.",
    wants_beds=True,
    wants_rafts=False,
    sump_needs=None,
    has_settler=False,
    draw=_draw,
    has_siphons=False,
)
