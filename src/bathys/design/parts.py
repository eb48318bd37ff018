"""What layouts are drawn up from: pumps, lifts, settlers, filters and fish."""

from dataclasses import dataclass
from typing import Any

from bathys.design.amounts import fish_mass, side_fish
from bathys.design.brief import Aim, DesignBrief
from bathys.design.draft import Draft, drain_size
from bathys.design.places import PLACES
from bathys.kinds import model_named
from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.physics import area_of
from bathys.plan.shell import Shell

__all__ = [
    "FILTER_INLET",
    "FILTER_OUTLET",
    "Choice",
    "add_filter",
    "add_fish",
    "add_lift",
    "add_pump",
    "add_settler",
    "overflow_size",
    "screen_before",
    "start_draft",
]

FILTER_INLET, FILTER_OUTLET = 0.08, 0.17
"""Ports of a biofilter under its rim [m]."""
_CARRIER_MESH = 0.005  # that keeps carriers in (common practice) [m]
_PAST_SCREEN = 0.04  # water goes past a screen that clogs so far over what is behind it [m]
_FILLED = 0.35  # of a moving-bed filter with carriers (common practice: at most 0.6) [-]
_WASTE_RISES = 0.1  # velocity at which fresh waste goes up a solids lift [m/s]
_FISH = 0.5  # at harvest [kg]


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
    told: dict[str, Any] = {"schools": list(brief.schools), "fish_mass": fish_mass(brief)}
    if brief.budget is not None:
        told["budget"] = brief.budget
    if brief.power_cut is not None:
        told["power_cut"] = brief.power_cut
    climate = {"hot_air": brief.hot_air, "evaporation_from": "climate"}
    if brief.hot_air is None:
        climate = {}
    site = {
        "water_temperature": brief.temperature,
        "days_away": brief.days_away,
        "units": brief.units,
        "tariff": brief.tariff,
        **PLACES[brief.place].site,
        **climate,
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
    mass = (fish_mass(brief) - side_fish(brief)) / len(tanks)
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
