"""A fish tank with media beds over it: the pump stands in the tank, siphons drain straight back."""

from bathys.design.air import add_air, tank_air
from bathys.design.amounts import flow_scale, media_depth
from bathys.design.beds import add_flooded_bed
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd
from bathys.design.layouts.layout import Layout
from bathys.design.layouts.over_tank import bed_floor, tank_below
from bathys.design.parts import Choice, add_fish, add_pump, start_draft
from bathys.parts.media import MEDIA

__all__ = ["STACKED_PAIR"]

_TAIL = 0.44  # from the bed's floor to the tail's end (common practice: 0.3 to 0.6) [m]


def _draw(brief: DesignBrief, choice: Choice) -> Draft:
    draft = start_draft(brief)
    bed, medium = shell_of(brief.beds), MEDIA[brief.medium]
    swing = brief.beds.count * medium.void_high * bed.holds(media_depth(bed))
    tank, returns = tank_below(draft, brief, swing)
    height, drop = bed_floor(brief, returns, _TAIL)
    ends, times = list[FreeEnd](), flow_scale(brief)
    for number in range(1, brief.beds.count + 1):
        port = draft.port(tank, f"bed{number}", returns)
        length = 0.2 + (number - 1) * 0.5 * brief.apart
        ends.append(
            add_flooded_bed(draft, brief, choice, number, height, port, drop, length, times)
        )
    pump = add_pump(draft, tank, sum(end.flow for end in ends))
    draft.pumped(pump, height + bed.height + 0.1, brief.pipe, ends, brief.apart, choice.wider)
    add_fish(draft, brief, [tank])
    add_air(draft, [(tank, tank_air(shell_of(brief.tank)))])
    return draft


STACKED_PAIR = Layout(
    "stacked_pair",
    "Stacked pair",
    "From the tank up into the beds, and by siphons straight back.",
    "The cheapest and smallest: one pump, no sump, no settler.",
    "The tank’s level goes up and down; solids go through the pump into the beds.",
    wants_beds=True,
    wants_rafts=False,
    sump_needs=None,
    has_settler=False,
    draw=_draw,
)
