"""Whether what instruments read calls for somebody: what is wrong, since when, and what ends it.

An alarm is raised where four of five readings of its time lie outside the band, and ends where
four of five lie inside by a quarter of its doubt for twice that time: so it does not flicker.
"""

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bathys.instruments.bands import CYCLES, Band
from bathys.instruments.channels import Channel
from bathys.instruments.missing import missing_water
from bathys.instruments.series import Series

__all__ = ["ALARMS", "Alarm", "AlarmKind", "alarms_of"]

AlarmName = Literal[
    "stopped", "low", "high", "still", "cold", "warm", "airless", "acid", "alkaline", "contact",
    "silent", "leak", "gain",
]  # fmt: skip

_SHARE = 0.8  # of the readings of its time (assumed) [-]
_FEWEST = 3  # readings that tell anything
_STOPPED = 0.2  # of the least it should be (assumed) [-]
_STILL_SWING = 0.4  # cycles within so much of the swing are none (assumed) [-]
_A_CYCLE = 8.0  # readings that a cycle needs to be seen (assumed)
_LONGEST_CYCLES = 6.0 * 3600.0  # [s]
_HYSTERESIS = 0.25  # of the doubt of a band [-]


@dataclass(frozen=True, slots=True)
class AlarmKind:
    """Something that calls for somebody.

    Attributes
    ----------
    title : str
        What is wrong, with a slot for the part
    hold : float
        How long it must be so, [s]
    is_grave : bool
        Whether it is told at night too
    act : str
        What to do first
    """

    title: str
    hold: float
    is_grave: bool
    act: str


ALARMS: dict[AlarmName, AlarmKind] = {
    "stopped": AlarmKind(
        "{part:words} has stopped",
        300.0,
        True,
        "Look whether the pump has power, its intake is free and its valves are open. Pull the "
        "plug before you reach into the water.",
    ),
    "low": AlarmKind(
        "{part:words} is lower than it should be",
        600.0,
        True,
        "Look for a leak, a blocked drain, or a bed that does not drain. Then top up.",
    ),
    "high": AlarmKind(
        "{part:words} is higher than it should be",
        300.0,
        True,
        "Look whether its way out is blocked. If it is close to the rim, stop the pump.",
    ),
    "still": AlarmKind(
        "{part:words} no longer fills and drains",
        600.0,
        False,
        "Look at its siphon: water trickles over, or runs on without end.",
    ),
    "cold": AlarmKind(
        "{part:words} is colder than its fish stand",
        1800.0,
        True,
        "Look at the heater and its plug. Feed little until it is warm again.",
    ),
    "warm": AlarmKind(
        "{part:words} is warmer than its fish stand",
        1800.0,
        True,
        "Shade it, and give more air: warm water holds less oxygen.",
    ),
    "airless": AlarmKind(
        "{part:words} has less oxygen than its fish need",
        600.0,
        True,
        "Give air at once. Feed nothing. Look at the air pump and its stones.",
    ),
    "acid": AlarmKind(
        "{part:words} is more acid than it should be",
        7200.0,
        False,
        "Test by hand. Then raise it slowly, by no more than 0.2 a day.",
    ),
    "alkaline": AlarmKind(
        "{part:words} is less acid than it should be",
        7200.0,
        False,
        "Test by hand. Most often it falls by itself once bacteria work.",
    ),
    "contact": AlarmKind(
        "The float contact of {part:words} says other than it should",
        120.0,
        True,
        "Look at the water there.",
    ),
    "silent": AlarmKind(
        "Nothing is heard of {part:words}",
        900.0,
        False,
        "Look at the board, its power and its radio. Look at the water yourself meanwhile.",
    ),
    "leak": AlarmKind(
        "Water is missing",
        0.0,
        True,
        "Look along the pipes and under the vessels. Water near a plug: switch off at the fuse.",
    ),
    "gain": AlarmKind(
        "Water comes in that nobody put in",
        0.0,
        False,
        "Look at taps, float valves and the roof.",
    ),
}
"""By their names."""

_BY_KIND: dict[str, tuple[AlarmName, AlarmName]] = {
    "level": ("low", "high"),
    "below": ("high", "low"),
    "temperature": ("cold", "warm"),
    "oxygen": ("airless", "airless"),
    "ph": ("acid", "alkaline"),
    "contact": ("contact", "contact"),
    "flow": ("low", "high"),
    "watts": ("low", "high"),
}
"""What it is called to read under and over the band, by kind of channel."""
_ONE_SIDED = ("oxygen",)  # more of it harms nobody
_UNTOLD = ("flow", "watts")  # a little more or less is for the chart, not for an alarm


@dataclass(frozen=True, slots=True)
class Alarm:
    """Something that is wrong.

    Attributes
    ----------
    kind : AlarmName
        What, a key of :data:`ALARMS`
    channel : str
        Key of the channel that tells it; empty for the whole
    part : str
        Id of the part; empty for the whole
    since : float
        From when on it was so, [s] of the readings' clock
    value : float
        What was read while it was so; what is missing or came in, [m³]
    limit : float
        The bound that it is beyond, [as that]
    """

    kind: AlarmName
    channel: str
    part: str
    since: float
    value: float
    limit: float

    @property
    def name(self) -> str:
        """What it is known by while it lasts."""
        return f"{self.kind}:{self.channel}"


def alarms_of(
    channels: Sequence[Channel],
    bands: Mapping[str, Band],
    series: Mapping[str, Series],
    now: float,
    *,
    is_open: Collection[str] = (),
    dries: float = 0.0,
    added: Sequence[tuple[float, float]] = (),
) -> tuple[Alarm, ...]:
    """What calls for somebody.

    Parameters
    ----------
    channels : sequence of Channel
        What is measured
    bands : mapping of str to Band
        From :func:`~bathys.instruments.bands_of`
    series : mapping of str to Series
        Readings by channel, of the last day or so
    now : float
        The present moment, [s] of the readings' clock
    is_open : collection of str
        Names of alarms that are on
    dries : float
        Water that dries off all of it, [m³/s]
    added : sequence of (float, float)
        When water was put in, [s], and how much, [m³]; below 0 for what was let out

    Returns
    -------
    tuple of Alarm
        Those that are on now
    """
    found = list[Alarm]()
    series = {key: told.without_spikes() for key, told in series.items()}
    for channel in channels:
        told = series.get(channel.key)
        if told is None or not len(told):
            continue
        quiet = _silent(channel, told, now)
        if quiet is not None:
            found.append(quiet)
            continue
        band = bands.get(channel.key)
        if band is not None:
            found += _of_channel(channel, band, told, now, is_open)
    missing = missing_water(channels, bands, series, now, dries, added)
    if missing is not None:
        kind: AlarmName = "leak" if missing.volume < 0.0 else "gain"
        # When it went, between two means of levels, nobody knows: it is gone by now.
        found.append(Alarm(kind, "", "", now, abs(missing.volume), missing.limit))
    return tuple(found)


def _silent(channel: Channel, told: Series, now: float) -> Alarm | None:
    last = float(told.times[-1])
    usual = float(np.median(np.diff(told.times[-30:]))) if len(told) > 1 else 0.0
    wait = max(ALARMS["silent"].hold, 5.0 * usual)
    if now - last <= wait:
        return None
    return Alarm("silent", channel.key, channel.part, last, float(told.values[-1]), wait)


def _of_channel(
    channel: Channel, band: Band, told: Series, now: float, is_open: Collection[str]
) -> Iterator[Alarm]:
    if channel.kind in _UNTOLD:
        limit = _STOPPED * (band.low or band.high)
        yield from _beyond("stopped", channel, told, now, (limit, -1.0), is_open, band)
        return
    under, over = _BY_KIND[channel.kind]
    yield from _beyond(under, channel, told, now, (band.low, -1.0), is_open, band)
    if channel.kind not in _ONE_SIDED:
        yield from _beyond(over, channel, told, now, (band.high, 1.0), is_open, band)
    if band.cycle > 0.0 and channel.kind in ("level", "below"):
        yield from _still(channel, band, told, now, is_open)


def _beyond(
    kind: AlarmName,
    channel: Channel,
    told: Series,
    now: float,
    bound: tuple[float, float],
    is_open: Collection[str],
    band: Band,
) -> Iterator[Alarm]:
    """Readings on the wrong side of a bound, ``bound`` being its value and its sign."""
    limit, sign = bound
    hold = ALARMS[kind].hold + (1.2 * band.period if channel.kind in _UNTOLD else 0.0)
    was = f"{kind}:{channel.key}" in is_open
    near = _HYSTERESIS * band.doubt if was else 0.0
    span = hold * (2.0 if was else 1.0)
    last = told.within(now - span, now)
    if len(last) < _FEWEST and not was:
        # A board that sends seldom: its last readings count, though they lie further back.
        last = Series(told.times[-_FEWEST:], told.values[-_FEWEST:])
        if len(last) < _FEWEST:
            return
    beyond = sign * (last.values - limit) > -near
    share = float(np.mean(beyond)) if len(last) else 1.0
    if share >= _SHARE or (was and share > 1.0 - _SHARE):
        yield Alarm(
            kind,
            channel.key,
            channel.part,
            _since(told, limit, sign),
            # What it lay at while it was beyond: the last reading may be inside again for a moment.
            float(np.median(last.values[beyond])) if beyond.any() else float(told.values[-1]),
            limit,
        )


def _since(told: Series, limit: float, sign: float) -> float:
    """From when on most readings were beyond a bound [s]."""
    inside = np.flatnonzero(sign * (told.values - limit) <= 0.0)
    # One reading that fell back inside does not begin it anew.
    runs = inside[np.flatnonzero(np.diff(inside) == 1)] if len(inside) > 1 else inside
    first = int(runs[-1]) + 2 if len(runs) else 0
    return float(told.times[min(first, len(told) - 1)])


def _still(
    channel: Channel, band: Band, told: Series, now: float, is_open: Collection[str]
) -> Iterator[Alarm]:
    span = min(max(CYCLES * band.period, ALARMS["still"].hold), _LONGEST_CYCLES)
    last = told.within(now - span, now)
    if len(last) < _A_CYCLE * span / band.period or last.times[0] > now - 0.8 * span:
        return
    low, high = np.quantile(last.values, (0.02, 0.98))
    most = _STILL_SWING * band.cycle
    was = f"still:{channel.key}" in is_open
    if float(high - low) < most * (1.5 if was else 1.0):
        yield Alarm(
            "still", channel.key, channel.part, now - span, float(told.values[-1]), band.cycle
        )
