"""Between what each instrument should read while all is well, by the plan's own simulation."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.evaluation import Evaluation
from bathys.instruments.channels import CHANNEL_KINDS, Channel
from bathys.instruments.topping_up import topping_up_of
from bathys.plan.model import Plan
from bathys.quality.water import water_of
from bathys.scenarios.periodic_state import PeriodicState
from bathys.vessels import storage_of

__all__ = ["CYCLES", "Band", "bands_of", "level_reading"]

Floats = NDArray[np.float64]

CYCLES = 3.0
"""Within so many of its swings a level that has a cycle goes through it."""

_LEVEL_DOUBT = 0.012  # of a level, by typed heights and the strainer's state (assumed) [m]
_DOUBT = 0.15  # of a flow and of watts told from labels (assumed) [-]
_ACID, _ALKALINE = 6.0, 8.0  # pH that fish, plants and bacteria all stand (common practice)
_STANDS_STILL = 0.01  # a level that swings less has no cycle [m]
_LEAST_PERIOD = 60.0  # [s]


@dataclass(frozen=True, slots=True)
class Band:
    """Between what an instrument should read.

    Attributes
    ----------
    low, high : float
        The bounds, doubt counted in, in the engine's unit of the quantity
    doubt : float
        What of it is doubt, on either side, [as these]
    period : float
        Time in which it swings once, [s]; 0 where it stands still
    swing : float
        How far it swings, [as these]
    cycle : float
        Least that it swings within three of those times, [as these]; 0 where it has no cycle
    area : float
        Water area of a vessel whose level it is, at the middle of its levels, [m²]; otherwise 0
    """

    low: float
    high: float
    doubt: float
    period: float = 0.0
    swing: float = 0.0
    cycle: float = 0.0
    area: float = 0.0


def bands_of(
    found: Evaluation, periodic: PeriodicState | None, channels: Iterable[Channel]
) -> dict[str, Band]:
    """Bands of instruments while all is well.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    periodic : PeriodicState or None
        The same followed until it repeats itself; none where it is not followed
    channels : iterable of Channel
        What is measured

    Returns
    -------
    dict of str to Band
        By the channel's key; without those that nothing is expected of, such as levels of a plan
        that is not followed
    """
    bands = dict[str, Band]()
    for channel in channels:
        if channel.part in found.plan.names:
            band = _band(found, periodic, channel)
            if band is not None:
                bands[channel.key] = band
    return bands


def _band(found: Evaluation, periodic: PeriodicState | None, channel: Channel) -> Band | None:
    plan, part = found.plan, channel.part
    if channel.kind in ("level", "below", "contact"):
        is_followed = periodic is not None and part in periodic.through.nodes
        return _level_band(found, periodic, channel) if periodic and is_followed else None
    if channel.kind == "watts" and part in found.duties:
        return _running(found.duties[part].power, _rests(plan, part))
    if channel.kind == "flow":
        for duty in found.duties.values():
            for delivery in duty.deliveries:
                if delivery.run == part:
                    return _running(delivery.flow, _rests(plan, duty.pump.id))
    if channel.kind == "ph":
        return Band(_ACID, _ALKALINE, 0.0)
    stands = [c.stands for c in plan.fish if c.stands_in == part]
    if channel.kind == "temperature" and stands:
        return Band(max(s.coldest for s in stands), min(s.warmest for s in stands), 0.0)
    if channel.kind == "oxygen" and stands:
        water = water_of(found)
        most = 1.3 * water.holds if water is not None else CHANNEL_KINDS["oxygen"].most
        return Band(max(s.least_oxygen for s in stands), most, 0.0)
    return None


def _rests(plan: Plan, pump: str) -> float:
    """How long a pump's switch may leave it off, [s]; 0 for one that always runs."""
    switch = plan.part(pump).switch
    if switch is None:
        return 0.0
    return float(switch.clock.turn) if switch.clock is not None else 86400.0


def _running(value: float, rests: float) -> Band:
    doubt = _DOUBT * value
    low = 0.0 if rests else value - doubt
    return Band(low, value + doubt, doubt, rests, value if rests else 0.0)


def level_reading(plan: Plan, channel: Channel, height: float) -> float:
    """What an instrument reads at a level.

    Parameters
    ----------
    plan : Plan
        The plan
    channel : Channel
        A level, a level under the rim or a contact
    height : float
        Water over the vessel's floor, [m]

    Returns
    -------
    float
        The reading, [m]; of a contact 1 where it is closed
    """
    if channel.kind == "below":
        return float(plan.vessel(channel.part).shape.height) - height
    if channel.kind == "contact":
        return 1.0 if height >= channel.mark else 0.0
    return height


def _level_band(found: Evaluation, periodic: PeriodicState, channel: Channel) -> Band | None:
    plan = found.plan
    vessel = plan.vessel(channel.part)
    heights = periodic.levels(vessel.id) - vessel.floor_height
    low, high = float(heights.min()), float(heights.max())
    topping_up = topping_up_of(found, vessel.id)
    area = float(storage_of(plan, vessel).area(0.5 * (low + high)))
    lowest = low - (topping_up.most / area if topping_up is not None else 0.0)
    times = periodic.through.times[periodic.through.times >= periodic.since]
    if channel.kind == "contact":
        if lowest - _LEVEL_DOUBT <= channel.mark <= high + _LEVEL_DOUBT:
            return None  # it opens and closes, or nobody knows
        state = level_reading(plan, channel, low)
        return Band(state, state, 0.0)
    swing = high - low
    middle = 0.5 * (low + high)
    crossed = np.flatnonzero((heights[:-1] < middle) & (heights[1:] >= middle))
    period = 0.0
    if swing >= _STANDS_STILL and len(crossed) > 1:
        period = max(float(np.max(np.diff(times[crossed]))), _LEAST_PERIOD)
    elif swing >= _STANDS_STILL:
        period = float(times[-1] - times[0])
    ends = sorted(level_reading(plan, channel, z) for z in (lowest, high))
    cycle = _least_swing(times, heights, CYCLES * period) if period > 0.0 else 0.0
    low, high = ends[0] - _LEVEL_DOUBT, ends[1] + _LEVEL_DOUBT
    return Band(low, high, _LEVEL_DOUBT, period, swing, cycle, area)


def _least_swing(times: Floats, heights: Floats, span: float) -> float:
    """Least that a level swings within any stretch of time of a length [m]."""
    swings = []
    for begin in np.arange(times[0], max(times[-1] - span, times[0]) + 1.0, 0.5 * span):
        stretch = heights[(times >= begin) & (times <= begin + span)]
        swings.append(float(stretch.max() - stretch.min()))
    return min(swings)
