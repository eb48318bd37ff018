"""What every layout is drawn up from: beds with their siphons, tanks, settlers, air and fish."""

import math
from dataclasses import dataclass
from typing import Any

from bathys.design.brief import Aim, DesignBrief, shell_of
from bathys.design.draft import Draft, drain_size
from bathys.design.refusing import DesignRefused
from bathys.kinds import model_named
from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.parts.media import MEDIA
from bathys.parts.practice import (
    A_FISH,
    CARRIERS_TUMBLE,
    LEAST_TURNOVER,
    MEDIA_A_FISH,
    TURNOVER_AIMS,
)
from bathys.parts.species import SPECIES
from bathys.physics import area_of
from bathys.plan.shell import Shell
from bathys.sizing.siphons import SiphonAsk, SiphonChoice, design_siphon

__all__ = [
    "FEED_AREA",
    "FILTER_INLET",
    "FILTER_OUTLET",
    "Choice",
    "FreeEnd",
    "add_air",
    "add_bed",
    "add_filter",
    "add_fish",
    "add_flooded_bed",
    "add_lift",
    "add_pump",
    "add_settler",
    "add_siphon",
    "bed_flow",
    "filter_air",
    "fish_mass",
    "flow_scale",
    "least_flow",
    "media_carry",
    "media_depth",
    "media_of",
    "overflow_size",
    "raft_air",
    "raft_flow",
    "screen_before",
    "start_draft",
    "tank_air",
    "tank_flow",
]

FILTER_INLET, FILTER_OUTLET = 0.08, 0.17
"""Ports of a biofilter under its rim [m]."""

_HOUR = 3600.0
_CARRIER_MESH = 0.005  # that keeps carriers in (common practice) [m]
_PAST_SCREEN = 0.04  # water goes past a screen that clogs so far over what is behind it [m]
_FILLED = 0.35  # of a moving-bed filter with carriers (common practice: at most 0.6) [-]
_LEAST_OVER = 1.15  # over what a school asks at the least, for pipes that age [-]
_UNSURE = 0.05  # by which a bed's flow may be off [-]
_OVER_START = 1.1  # over the least with which the smallest siphon starts [-]
_MOST_TIMES = 4.0  # so many times its own flow a bed may get, for its siphon to start [-]
_BED_MARGIN = 1.04  # the same of beds [-]
_RAFT_HOURS = 2.5  # that water stays in a raft bed (common practice: 1 to 4)
_UNDER_TOP = 0.03  # a standpipe's rim under the media's top, so that it stays dry [m]
_SLOT = 0.025  # height of a bell's slots [m]
_CROWN = 0.025  # from the standpipe's rim to the bell's crown [m]
_GUARD_ROOM = 0.03  # a guard is so much wider than its bell [m]
FEED_AREA = 0.05
"""Feed a day that plants of a square metre live on (common practice) [kg/m²]."""
_DENSEST = 20.0  # fish in a cubic metre that is not crowded (common practice) [kg/m³]
_WASTE_RISES = 0.1  # velocity at which fresh waste goes up a solids lift [m/s]
_FISH = 0.5  # at harvest [kg]
_AIR_WATTS = 21_000.0  # of an air pump, for a cubic metre a second (common practice) [W s/m³]
_AIR_SPARE = 2.4  # label flow of an air pump over what its stones get at their depth [-]
_AIR_LINES = ((1e-4, 0.006), (3e-4, 0.008), (8e-4, 0.012), (math.inf, 0.019))  # [m³/s], [m]
_ROOT_AIR = 3.2e-5  # for each square metre of raft (common practice) [m/s]


@dataclass(frozen=True, slots=True)
class Choice:
    """What is chosen of the sizes that may be chosen.

    Attributes
    ----------
    aim : Aim
        What it is chosen for
    wider : int
        Pumped pipe is so many sizes wider than its velocity asks
    sump : Shell or None
        What the sump is made of; none where there is none
    """

    aim: Aim
    wider: int
    sump: Shell | None


@dataclass(frozen=True, slots=True)
class FreeEnd:
    """Where a pump's water is to go.

    Attributes
    ----------
    name, place : str
        Of the run that leads there, and its end
    flow : float
        Wanted, [m³/s]
    """

    name: str
    place: str
    flow: float


def tank_flow(capacity: float) -> float:
    """Flow through a fish tank [m³/s].

    Parameters
    ----------
    capacity : float
        What the tank holds, [m³]

    Returns
    -------
    float
        By the turnover the school of tanks aims at, [m³/s]
    """
    return TURNOVER_AIMS["tank"] * capacity


def bed_flow(capacity: float) -> float:
    """Flow to a bed that floods [m³/s]: its shell's volume twice an hour, and a little over.

    Parameters
    ----------
    capacity : float
        What its shell holds, [m³]

    Returns
    -------
    float
        The flow, [m³/s]
    """
    return _BED_MARGIN * TURNOVER_AIMS["frugal"] * capacity


def raft_flow(volume: float) -> float:
    """Flow through a raft bed [m³/s]: water stays for two and a half hours.

    Parameters
    ----------
    volume : float
        Water in it, [m³]

    Returns
    -------
    float
        The flow, [m³/s]
    """
    return volume / (_RAFT_HOURS * _HOUR)


def media_depth(shell: Shell) -> float:
    """How deep the media of a bed lie: 50 mm under its rim, less in a shallow one [m].

    Parameters
    ----------
    shell : Shell
        The bed

    Returns
    -------
    float
        Over its floor, [m]
    """
    return round(shell.height - max(0.03, min(0.05, 0.15 * shell.height)), 3)


def media_carry(brief: DesignBrief) -> float:
    """Fish that the media of all beds are said to carry [kg].

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    float
        The fish, [kg]
    """
    if not brief.beds.count:
        return 0.0
    bed = shell_of(brief.beds)
    wetted = brief.beds.count * bed.holds(media_depth(bed) - 2.0 * _UNDER_TOP)
    return 0.95 * A_FISH * wetted / MEDIA_A_FISH


def fish_mass(brief: DesignBrief) -> float:
    """Fish at harvest: as told, or as many as feed what grows, so far as they are not crowded [kg].

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    float
        All together, [kg]
    """
    if brief.fish is not None:
        return brief.fish
    area = sum(
        wish.count * shell_of(wish).footprint for wish in (brief.beds, brief.rafts) if wish.count
    )
    most = [
        FEED_AREA * area / SPECIES[brief.species].eats,
        _DENSEST * brief.tank.count * shell_of(brief.tank).capacity,
    ]
    if not brief.rafts.count:
        most.append(media_carry(brief))
    return math.floor(100.0 * min(most)) / 100.0


def least_flow(brief: DesignBrief, sump: Shell | None) -> float:
    """Flow of all pumps together that the schools ask for [m³/s]: all the water once an hour, and
    a tank without a sump as often.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    sump : Shell or None
        The sump, if there is one

    Returns
    -------
    float
        The flow with a little over, [m³/s]; 0 where no school asks
    """
    tank, asked = brief.tank.count * shell_of(brief.tank).capacity, [0.0]
    if "whole_system" in brief.schools:
        water = tank + (sump.capacity if sump is not None else 0.0)
        if brief.rafts.count:
            water += brief.rafts.count * shell_of(brief.rafts).capacity
        if brief.beds.count:
            bed = shell_of(brief.beds)
            water += brief.beds.count * MEDIA[brief.medium].void_high * bed.capacity
        asked.append(_LEAST_OVER * LEAST_TURNOVER * water)
    if "tank" in brief.schools and sump is None:
        asked.append(_LEAST_OVER * LEAST_TURNOVER * tank)
    return max(asked)


def flow_scale(brief: DesignBrief) -> float:
    """How many times its own flow a bed over a fish tank gets, for what the schools ask [-].

    Parameters
    ----------
    brief : DesignBrief
        The brief of a layout without a sump

    Returns
    -------
    float
        1 or more, [-]
    """
    own = brief.beds.count * bed_flow(shell_of(brief.beds).capacity)
    return max(1.0, least_flow(brief, None) / own)


def start_draft(brief: DesignBrief) -> Draft:
    """An empty draft with what the brief says of the site.

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    Draft
        The draft
    """
    told = {"schools": list(brief.schools), "fish_mass": fish_mass(brief)}
    site = {
        "water_temperature": brief.temperature,
        "days_away": brief.days_away,
        "units": brief.units,
    }
    return Draft(brief.name, told, site)


def add_pump(draft: Draft, stands_in: str, flow: float, **more: Any) -> str:
    """A pump that is more than enough, until one is chosen.

    Parameters
    ----------
    draft : Draft
        The draft
    stands_in : str
        The vessel it stands in
    flow : float
        All that is wanted of it, [m³/s]
    **more
        Other fields of it

    Returns
    -------
    str
        Its id
    """
    curve = {"kind": "label", "max_flow": 3.0 * flow, "max_head": 6.0, "exponent": 2.0}
    return draft.part(
        "pumps",
        **{
            "id": draft.named("P"),
            "name": "Pump",
            "stands_in": stands_in,
            "inlet_height": 0.05,
            "curve": curve,
            "power": 100.0,
            **more,
        },
    )


def add_lift(draft: Draft, tank: str, shell: Shell, crest: float, flow: float, pipe: str) -> str:
    """A solids lift: up from the floor, over a crest, with an open tee.

    Parameters
    ----------
    draft : Draft
        The draft
    tank : str
        Id of the fish tank
    shell : Shell
        The tank
    crest : float
        Over its floor, [m]
    flow : float
        Through it, [m³/s]
    pipe : str
        Standard of the pipe

    Returns
    -------
    str
        Its id
    """
    sizes = [s for s in pipe_sizes(pipe) if 0.035 <= s.bore <= 0.11]
    carried = [s for s in sizes if flow / area_of(s.bore) >= _WASTE_RISES]
    size = carried[-1] if carried else sizes[0]
    return draft.part(
        "outlets",
        kind="lift",
        id=draft.named("O"),
        name="Solids lift",
        stands_in=tank,
        bore=size.as_data,
        intake_height=0.03,
        crest_height=round(crest, 3),
    )


def add_settler(draft: Draft, name: str, shell: Shell, floor: float) -> tuple[str, str, str]:
    """A settler with its ports; its insides are chosen once its flow is known.

    Parameters
    ----------
    draft : Draft
        The draft
    name : str
        Its name
    shell : Shell
        What it is made of
    floor : float
        Height of its floor, [m]

    Returns
    -------
    (str, str, str)
        Its id, its inlet and its outlet
    """
    id_ = draft.vessel(draft.named("C"), name, "settler", shell, floor)
    inlet = draft.port(id_, "inlet", shell.height - 0.09)
    outlet = draft.port(id_, "outlet", shell.height - 0.14)
    return id_, inlet, outlet


def add_filter(draft: Draft, name: str, shell: Shell, floor: float) -> tuple[str, str, str]:
    """A biofilter of carriers that air tumbles, with its ports.

    Parameters
    ----------
    draft : Draft
        The draft
    name : str
        Its name
    shell : Shell
        What it is made of
    floor : float
        Height of its floor, [m]

    Returns
    -------
    (str, str, str)
        Its id, its inlet and its outlet
    """
    carriers = {"kind": "moving", "volume": round(_FILLED * shell.capacity, 3)}
    id_ = draft.vessel(draft.named("F"), name, "biofilter", shell, floor, carriers=carriers)
    inlet = draft.port(id_, "inlet", shell.height - FILTER_INLET)
    return id_, inlet, draft.port(id_, "outlet", shell.height - FILTER_OUTLET)


def screen_before(pipe: PipeSize) -> dict[str, Any]:
    """A screen before a drain, which keeps carriers in; water goes past it before it runs over.

    Parameters
    ----------
    pipe : PipeSize
        The drain

    Returns
    -------
    dict of str to object
        As plan data
    """
    usual = model_named("filters", "screen").usual(pipe.bore)
    return {"kind": "screen", **usual, "cut": _CARRIER_MESH, "past_head": _PAST_SCREEN}


def add_flooded_bed(
    draft: Draft,
    brief: DesignBrief,
    choice: Choice,
    number: int,
    floor: float,
    receiver: str,
    drop: float,
    length: float,
    times: float = 1.0,
) -> FreeEnd:
    """A media bed that a siphon drains, with its tail.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    choice : Choice
        What is chosen
    number : int
        Of the bed, from 1
    floor : float
        Height of its floor, [m]
    receiver : str
        Where its tail ends
    drop : float
        Of the tail, from the bed's floor, [m]
    length : float
        Of the tail along the level, [m]
    times : float
        So many times its own flow goes through it, [-]

    Returns
    -------
    FreeEnd
        Where its water is to come in

    Raises
    ------
    DesignRefused
        If no siphon works with its flow
    """
    shell = shell_of(brief.beds)
    id_ = add_bed(draft, brief, number, floor)
    flow = add_siphon(
        draft,
        brief,
        choice,
        (id_, number),
        receiver,
        (times * bed_flow(shell.capacity), drop, length),
    )
    return FreeEnd(f"To bed {number}", draft.port(id_, "inlet", shell.height + 0.05), flow)


def media_of(brief: DesignBrief) -> dict[str, Any]:
    """What a bed is filled with.

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    dict of str to object
        As plan data
    """
    medium = MEDIA[brief.medium]
    return {
        "kind": brief.medium,
        "top": media_depth(shell_of(brief.beds)),
        "void_fraction": round(0.5 * (medium.void_low + medium.void_high), 3),
    }


def add_bed(draft: Draft, brief: DesignBrief, number: int, floor: float) -> str:
    """A media bed, without what feeds and drains it.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    number : int
        Of the bed, from 1
    floor : float
        Height of its floor, [m]

    Returns
    -------
    str
        Its id
    """
    shell, media = shell_of(brief.beds), media_of(brief)
    name = f"Bed {number}" if brief.beds.count > 1 else "Grow bed"
    crop = {"kind": "leafy"}
    id_ = draft.named("B")
    return draft.vessel(id_, name, "grow_bed", shell, floor, media=media, crop=crop)


def add_siphon(
    draft: Draft,
    brief: DesignBrief,
    choice: Choice,
    bed: tuple[str, int],
    receiver: str,
    lies: tuple[float, float, float],
) -> float:
    """A bed's siphon with its tail.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    choice : Choice
        What is chosen
    bed : (str, int)
        Id of the bed, and its number
    receiver : str
        Where the tail ends
    lies : (float, float, float)
        Wanted flow, [m³/s]; drop of the tail from the bed's floor, and its length along the level,
        [m]

    Returns
    -------
    float
        The flow that it starts and stops with, [m³/s]

    Raises
    ------
    DesignRefused
        If none works
    """
    (id_, number), (flow, drop, length) = bed, lies
    rim = media_depth(shell_of(brief.beds)) - _UNDER_TOP
    flow, built = _siphon(brief, choice, flow, rim, drop, length)
    guard = dict[str, Any]()
    if built.bell:
        bell = next(s for s in pipe_sizes(brief.pipe) if s.nominal == built.bell)
        wide = round(bell.outside_diameter + _GUARD_ROOM, 3)
        guard = {"crown_gap": _CROWN, "guard_diameter": wide}
    siphon = draft.part(
        "siphons",
        id=draft.named("X"),
        name=f"Siphon {number}" if brief.beds.count > 1 else "Siphon",
        stands_in=id_,
        **{**built.part, **guard},
    )
    tail = next(s for s in pipe_sizes(brief.pipe) if s.nominal == built.tail_bore["nominal"])
    draft.run(f"Tail {number}", f"{siphon}.tail", receiver, tail, length, 2)
    return flow


def _siphon(
    brief: DesignBrief, choice: Choice, flow: float, rim: float, drop: float, length: float
) -> tuple[float, SiphonChoice]:
    """The siphon of a bed and its flow: more than the bed asks where no siphon starts with that."""
    found = design_siphon(_ask(brief, flow, rim, drop, length))
    start = (found.figures or {}).get("start", 0.0)
    if found.refusal and flow < start <= _MOST_TIMES * flow:
        flow = _OVER_START * start
        found = design_siphon(_ask(brief, flow, rim, drop, length))
    if found.refusal:
        raise DesignRefused("beds", found.refusal, found.figures)
    does = [c for c in found.choices if c.fits]
    fitting = [c for c in does if c.bell] or does  # bells stand within the bed, and are usual
    if choice.aim == "margin":
        return flow, max(fitting, key=lambda c: min(c.room_to_start, c.room_to_stop))
    return flow, fitting[0]


def _ask(brief: DesignBrief, flow: float, rim: float, drop: float, length: float) -> SiphonAsk:
    low, high = (1.0 - _UNSURE) * flow, (1.0 + _UNSURE) * flow
    return SiphonAsk(low, high, round(rim, 3), _SLOT, drop, length, 2, brief.pipe)


def add_fish(draft: Draft, brief: DesignBrief, tanks: list[str]) -> None:
    """Fish, shared out over the tanks.

    Parameters
    ----------
    draft : Draft
        The draft
    brief : DesignBrief
        The brief
    tanks : list of str
        Ids of the fish tanks
    """
    mass = fish_mass(brief) / len(tanks)
    count = max(round(mass / _FISH), 1)
    for tank in tanks if mass > 0.0 else ():
        draft.part(
            "fish",
            kind="cohort",
            id=draft.named("K"),
            name="Fish",
            stands_in=tank,
            count=count,
            species=brief.species,
            mean_mass=round(0.6 * mass / count, 3),
            harvest_mass=round(mass / count, 3),
            protein=0.36,
        )


def add_air(draft: Draft, wanted: list[tuple[str, float]]) -> None:
    """Stones and an air pump for them.

    Parameters
    ----------
    draft : Draft
        The draft
    wanted : list of (str, float)
        Ids of vessels, and the air that each is to get, [m³/s]
    """
    pump, total = draft.named("AP"), sum(flow for _, flow in wanted)
    most = math.ceil(_AIR_SPARE * total * 1e5) / 1e5
    draft.part(
        "air_pumps",
        kind="air_pump",
        id=pump,
        name="Air pump",
        max_flow=most,
        max_pressure=30_000.0,
        power=math.ceil(_AIR_WATTS * most),
    )
    for id_, flow in wanted:
        draft.part(
            "air",
            kind="stone",
            id=draft.named("A"),
            name="Stone",
            stands_in=id_,
            fed_by=pump,
            flow=round(flow, 6),
            line_diameter=next(wide for most, wide in _AIR_LINES if flow <= most),
        )


def tank_air(shell: Shell) -> float:
    """Air for a fish tank: a little over its volume an hour (common practice) [m³/s].

    Parameters
    ----------
    shell : Shell
        The tank

    Returns
    -------
    float
        The air, [m³/s]
    """
    return 1.2 * shell.capacity / _HOUR


def filter_air(shell: Shell) -> float:
    """Air that tumbles a filter's carriers [m³/s].

    Parameters
    ----------
    shell : Shell
        The filter

    Returns
    -------
    float
        The air, [m³/s]
    """
    return 1.1 * CARRIERS_TUMBLE * shell.footprint


def raft_air(shell: Shell) -> float:
    """Air for the roots under a raft [m³/s].

    Parameters
    ----------
    shell : Shell
        The raft

    Returns
    -------
    float
        The air, [m³/s]
    """
    return _ROOT_AIR * shell.footprint


def overflow_size(brief: DesignBrief, flow: float) -> PipeSize:
    """Pipe of an overflow that carries solids.

    Parameters
    ----------
    brief : DesignBrief
        The brief
    flow : float
        Flow, [m³/s]

    Returns
    -------
    PipeSize
        The pipe
    """
    return drain_size(brief.pipe, flow, waste=True)
