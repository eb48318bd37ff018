"""Fish tanks, each with its settler and, where media do not carry the fish, its biofilter, down to
a sump."""

from dataclasses import dataclass, field

from bathys.design.air import filter_air, tank_air
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.draft import Draft, FreeEnd
from bathys.design.falls import SUMP_UNDER_RIM, Fall, check_rim, floor_over, sump_floor, tank_floor
from bathys.design.parts import (
    FILTER_INLET,
    FILTER_OUTLET,
    Choice,
    add_filter,
    add_lift,
    add_settler,
    overflow_size,
    screen_before,
)
from bathys.design.settler_shells import settler_shell
from bathys.plan.shell import Shell

__all__ = ["FishSide", "add_fish_side", "drain_fish_side"]

_NEXT = 0.5  # pipe from a settler to its filter [m]


@dataclass(slots=True)
class FishSide:
    """The fish tanks and what cleans their water.

    Attributes
    ----------
    flow : float
        Through each tank, [m³/s]
    is_filtered : bool
        Whether each has a biofilter
    rim : float
        Height of the tanks' rims, [m]
    tanks : list of str
        Their ids
    leaves : list of str
        Where the water of each leaves for the sump
    inlets : list of FreeEnd
        Where pumped water is to come in
    air : list of (str, float)
        Ids of what is aerated, and how much, [m³/s]
    """

    flow: float
    is_filtered: bool
    rim: float
    tanks: list[str] = field(default_factory=list)
    leaves: list[str] = field(default_factory=list)
    inlets: list[FreeEnd] = field(default_factory=list)
    air: list[tuple[str, float]] = field(default_factory=list)


def add_fish_side(
    draft: Draft, brief: DesignBrief, choice: Choice, sump: Shell, flow: float, is_filtered: bool
) -> FishSide:
    """Put down the fish tanks with settlers and filters, heights from the sump backwards.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    choice : Choice
        What is chosen
    sump : Shell
        The sump that they drain into
    flow : float
        Through each tank, [m³/s]
    is_filtered : bool
        Whether each gets a biofilter

    Returns
    -------
    FishSide
        The tanks and where their water comes and goes

    Raises
    ------
    DesignRefused
        If no settler is large enough, or the tanks would stand too high
    """
    tank, low = shell_of(brief.tank), sump_floor(brief, sump) + sump.height - SUMP_UNDER_RIM
    shell = settler_shell(flow, choice.aim)
    filter_floor = floor_over(Fall(low, brief.apart), shell.height - FILTER_OUTLET)
    into = Fall(low, brief.apart)
    if is_filtered:
        into = Fall(filter_floor + shell.height - FILTER_INLET, _NEXT)
    settler_floor = floor_over(into, shell.height - 0.14)
    floor, crest = tank_floor(settler_floor, shell, tank)
    check_rim(brief, "fish tank", floor + tank.height, sump)
    side, overflow = FishSide(flow, is_filtered, floor + tank.height), overflow_size(brief, flow)
    for number in range(1, brief.tank.count + 1):
        more = f" {number}" if brief.tank.count > 1 else ""
        id_ = draft.vessel(draft.named("T"), f"Fish tank{more}", "fish_tank", tank, floor)
        _, inlet, outlet = add_settler(draft, f"Settler{more}", shell, settler_floor)
        lift = add_lift(draft, id_, tank, crest, flow, brief.pipe)
        draft.run(f"Tank overflow{more}", f"{lift}.out", inlet, overflow, 0.6, 1)
        place = draft.port(id_, "inlet", tank.height - 0.02)
        side.inlets.append(FreeEnd(f"To the tank{more}", place, flow))
        side.air.append((id_, tank_air(tank)))
        if is_filtered:
            filter_id, filter_in, filter_out = add_filter(
                draft, f"Biofilter{more}", shell, filter_floor
            )
            draft.run(f"Settler outlet{more}", outlet, filter_in, overflow, _NEXT)
            outlet = filter_out
            side.air.append((filter_id, filter_air(shell)))
        side.tanks.append(id_)
        side.leaves.append(outlet)
    return side


def drain_fish_side(
    draft: Draft, brief: DesignBrief, side: FishSide, sump_id: str, sump: Shell
) -> None:
    """Lead the water of the fish tanks to the sump.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    side : FishSide
        The tanks
    sump_id : str
        Id of the sump
    sump : Shell
        What it is made of
    """
    pipe = overflow_size(brief, side.flow)
    for number, outlet in enumerate(side.leaves, start=1):
        end = draft.port(sump_id, f"settler{number}", sump.height - SUMP_UNDER_RIM)
        name = f"{'Filter' if side.is_filtered else 'Settler'} drain {number}"
        screen = {"filter": screen_before(pipe)} if side.is_filtered else {}
        draft.run(name, outlet, end, pipe, brief.apart, 1, **screen)
