"""How much: flows by what the schools ask, media, and fish."""

import math

from bathys.design.brief import DesignBrief, shell_of
from bathys.parts.media import MEDIA
from bathys.parts.practice import (
    A_FISH,
    LEAST_TURNOVER,
    MEDIA_A_FISH,
    TURNOVER_AIMS,
)
from bathys.parts.species import SPECIES
from bathys.plan.shell import Shell

__all__ = [
    "FEED_AREA",
    "UNDER_TOP",
    "bed_flow",
    "fish_mass",
    "flow_scale",
    "least_flow",
    "media_carry",
    "media_depth",
    "most_fish",
    "raft_flow",
    "side_fish",
    "tank_flow",
]

_HOUR = 3600.0
_LEAST_OVER = 1.15  # over what a school asks at the least, for pipes that age [-]
_BED_MARGIN = 1.04  # the same of beds [-]
_RAFT_HOURS = 2.5  # that water stays in a raft bed (common practice: 1 to 4)
UNDER_TOP = 0.03
"""A standpipe's rim under the media's top, so that it stays dry [m]."""
FEED_AREA = 0.05
"""Feed a day that plants of a square metre live on (common practice) [kg/m²]."""
_DENSEST = 20.0  # fish in a cubic metre that is not crowded (common practice) [kg/m³]
_NURSERY = 5.0  # fingerlings in a cubic metre of a side tank (common practice) [kg/m³]
_NURSERY_SHARE = 0.1  # of all fish, in side tanks at most [-]


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
    wetted = brief.beds.count * bed.holds(media_depth(bed) - 2.0 * UNDER_TOP)
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
    if not brief.beds.count and not brief.rafts.count:
        return math.floor(100.0 * most_fish(brief)) / 100.0
    area = sum(
        wish.count * shell_of(wish).footprint for wish in (brief.beds, brief.rafts) if wish.count
    )
    most = [
        FEED_AREA * area / SPECIES[brief.species].eats,
        most_fish(brief),
    ]
    if not brief.rafts.count:
        most.append(media_carry(brief))
    return math.floor(100.0 * min(most)) / 100.0


def most_fish(brief: DesignBrief) -> float:
    """Fish that are not crowded in the fish tanks [kg].

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    float
        At harvest, all together, [kg]
    """
    return _DENSEST * brief.tank.count * shell_of(brief.tank).capacity


def side_fish(brief: DesignBrief) -> float:
    """Fish in all side tanks: few, as they are small and looked after, and no more than a tenth of
    all [kg].

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    float
        When they are taken out, all together, [kg]
    """
    if not brief.side_tanks.count:
        return 0.0
    room = brief.side_tanks.count * shell_of(brief.side_tanks).capacity
    return min(_NURSERY * room, _NURSERY_SHARE * fish_mass(brief))


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
