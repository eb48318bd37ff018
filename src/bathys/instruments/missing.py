"""Water that is missing: what the measured vessels hold, against what they held."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from bathys.instruments.bands import CYCLES, Band
from bathys.instruments.channels import CHANNEL_KINDS, Channel
from bathys.instruments.series import Series
from bathys.plan.model import Plan
from bathys.simulation.boundary_conditions import open_area

__all__ = ["Missing", "drying_of", "missing_water"]

_SPANS = (1800.0, 7200.0, 43200.0)  # over which it is looked for [s]
_LEAST_MEAN, _MOST_MEAN = 600.0, 10800.0  # over which levels are averaged [s]
_DRIES = 3.0  # so many times what is told may dry off (assumed) [-]
_WANDERS = 0.003  # of a level gauge over a day (assumed) [m]
_SWING_LEFT = 0.15  # of a swing that a mean does not even out (assumed) [-]
_SPREADS = 3.0
_WRITTEN, _TRIED = 1800.0, 61  # water is put in so long before or after it says (assumed) [s]
_LEAST = 2e-3  # less is not told [m³]
_FEWEST, _COVERED = 5, 0.8  # readings of a mean, and the share of its time that they must cover


@dataclass(frozen=True, slots=True)
class Missing:
    """Water that is missing, or came in.

    Attributes
    ----------
    volume : float
        What the measured vessels hold more than they did, below 0 what is missing, [m³]
    limit : float
        What drying and doubt would explain, [m³]
    within : float
        In what time, [s]
    """

    volume: float
    limit: float
    within: float


def drying_of(plan: Plan) -> float:
    """Water that dries off all of a plan.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    float
        By what its site says, [m³/s]
    """
    return sum(open_area(vessel) for vessel in plan.vessels) * plan.site.dries / 86400.0


def missing_water(
    channels: Sequence[Channel],
    bands: Mapping[str, Band],
    series: Mapping[str, Series],
    now: float,
    dries: float = 0.0,
    added: Sequence[tuple[float, float]] = (),
) -> Missing | None:
    """Water that is missing from the measured vessels together, or came in by itself.

    Levels are averaged over three of their slowest swings, so that what siphon beds hold evens out.

    Parameters
    ----------
    channels : sequence of Channel
        What is measured; only levels count
    bands : mapping of str to Band
        Their bands
    series : mapping of str to Series
        Readings by channel
    now : float
        The present moment, [s] of the readings' clock
    dries : float
        Water that dries off all of it, [m³/s]
    added : sequence of (float, float)
        When water was put in, [s], and how much, [m³]

    Returns
    -------
    Missing or None
        Over the shortest time in which it is beyond doubt; None where it is not, or where too
        little is measured
    """
    of_part = {
        c.part: (c, bands[c.key], series[c.key])
        for c in reversed(channels)  # of several at one vessel the first counts, and once
        if c.kind in ("level", "below") and c.key in bands and c.key in series
    }
    levels = list(of_part.values())
    if not levels:
        return None
    slowest = max(band.period for _, band, _ in levels)
    mean = max(CYCLES * slowest, _LEAST_MEAN)
    if mean > _MOST_MEAN:
        return None
    present = _held(levels, now, mean)
    if present is None:
        return None
    for span in _SPANS:
        before = _held(levels, now - max(span, mean), mean)
        if before is None:
            continue
        within = max(span, mean)
        change = present[0] - before[0]
        least, most = _put_in(added, now, within, mean)
        dry = dries * within
        limit = math.hypot(present[1], before[1]) + present[2] + _LEAST
        if change - least < -(_DRIES * dry + limit):
            return Missing(change - least, _DRIES * dry + limit, within)
        if change - most > limit + dry:
            return Missing(change - most, limit + dry, within)
    return None


def _put_in(
    added: Sequence[tuple[float, float]], now: float, within: float, mean: float
) -> tuple[float, float]:
    """Least and most that water put in changes what is held, between two means [m³]."""
    least = most = 0.0
    for at, volume in added:
        # Somebody writes it down before the tap is open, or when they are back at the house.
        told = np.linspace(at - _WRITTEN, at + _WRITTEN, _TRIED)
        share = np.clip((now - told) / mean, 0.0, 1.0)
        share -= np.clip((now - within - told) / mean, 0.0, 1.0)
        least += float(np.min(volume * share))
        most += float(np.max(volume * share))
    return least, most


def _held(
    levels: Sequence[tuple[Channel, Band, Series]], until: float, mean: float
) -> tuple[float, float, float] | None:
    """Water over any level, its spread, and what stays in doubt however often it is read [m³]."""
    total, spread, stays = 0.0, 0.0, 0.0
    for channel, band, told in levels:
        last = told.within(until - mean, until)
        if len(last) < _FEWEST or last.times[0] > until - _COVERED * mean:
            return None
        sign = -1.0 if channel.kind == "below" else 1.0
        total += sign * band.area * float(np.mean(last.values))
        noise = CHANNEL_KINDS[channel.kind].spread / math.sqrt(len(last))
        spread += (band.area * noise) ** 2
        # A swing that is read seldom is caught at other heights each time.
        stays += band.area * (_WANDERS + (_SWING_LEFT + 1.0 / len(last)) * band.swing)
    return total, _SPREADS * math.sqrt(spread), stays
