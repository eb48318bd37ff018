"""What a sump must hold, and what it could be made of."""

import math

from bathys.design.amounts import media_depth
from bathys.design.brief import DesignBrief, shell_of
from bathys.design.places import PLACES
from bathys.parts.containers import containers
from bathys.parts.media import MEDIA
from bathys.plan.shell import Shell, shell_from
from bathys.plan.site import Site

__all__ = ["dries_of", "spare_of", "sump_need", "sumps_that_hold"]


_COVER = 0.12  # water that stays over a sump's floor: the pump's inlet and its cover [m]
_TOP = 0.09  # dry wall of a sump with the pump off [m]
_CREST_HEAD = 0.045  # water over a crest while it runs [m]
_PIPES = 0.03  # what pipes hold and give back [m³]
_TALLEST = 0.75  # a sump is reached into [m]
_BOX_WIDTH, _BOX_HEIGHT = 1.2, 0.6  # of a box of timber and liner [m]
_BOX_STEP = 0.2  # by which such a box is longer [m]
_LONGEST = 6.0  # of such a box [m]


def dries_of(brief: DesignBrief) -> float:
    """Water that dries up in a day, by the climate that is told [m/d].

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    float
        Off open water, [m/d]
    """
    fields = dict(PLACES[brief.place].site)
    if brief.hot_air is not None:
        fields |= {"hot_air": brief.hot_air, "evaporation_from": "climate"}
    return float(Site(water_temperature=brief.temperature, **fields).dries)


def sump_need(brief: DesignBrief) -> float:
    """Water that goes up and down in a sump: what beds take by turns, what stands over crests, what
    pipes give back, and what dries up while nobody is there [m³].

    Parameters
    ----------
    brief : DesignBrief
        The brief

    Returns
    -------
    float
        The water, [m³]
    """
    tank = shell_of(brief.tank)
    area = brief.tank.count * tank.footprint
    held = _CREST_HEAD * area + _PIPES
    if brief.beds.count:
        bed = shell_of(brief.beds)
        held += brief.beds.count * MEDIA[brief.medium].void_high * bed.holds(media_depth(bed))
    if brief.rafts.count:
        raft = shell_of(brief.rafts)
        held += 0.5 * _CREST_HEAD * brief.rafts.count * raft.footprint
        area += brief.rafts.count * raft.footprint
    if brief.side_tanks.count:
        side = shell_of(brief.side_tanks)
        held += _CREST_HEAD * brief.side_tanks.count * side.footprint
        area += brief.side_tanks.count * side.footprint
    return held + brief.days_away * dries_of(brief) * area


def sumps_that_hold(need: float) -> tuple[Shell, ...]:
    """What a sump could be made of: containers that hold enough between its marks, the smallest
    first, then boxes of timber and liner.

    Parameters
    ----------
    need : float
        Water that goes up and down in it, [m³]

    Returns
    -------
    tuple of Shell
        In the order in which they are tried
    """
    made = []
    for container in containers():
        shell = shell_from(container.shape)
        if 0.3 <= shell.height <= _TALLEST and container.group != "Aquaria":
            made.append(shell)
    large = [shell for shell in made if _moves(shell) >= need]
    first = need / (_BOX_HEIGHT - _TOP - _COVER) / _BOX_WIDTH
    boxes = [
        _box(length)
        for n in range(16)
        if (length := math.ceil(10.0 * max(first, 0.8)) / 10.0 + n * _BOX_STEP) <= _LONGEST
    ]
    return (*sorted(large, key=lambda shell: shell.capacity), *boxes)


def _moves(shell: Shell) -> float:
    return shell.holds(shell.height - _TOP) - shell.holds(_COVER)


def spare_of(need: float, sump: Shell) -> float:
    """What a sump holds between its marks over what goes up and down in it [-].

    Parameters
    ----------
    need : float
        Water that goes up and down in it, [m³]
    sump : Shell
        What it is made of

    Returns
    -------
    float
        Share to spare, [-]
    """
    return _moves(sump) / need - 1.0


def _box(length: float) -> Shell:
    sizes = {"length": round(length, 1), "width": _BOX_WIDTH, "height": _BOX_HEIGHT}
    return shell_from({"kind": "lined", **sizes})
