"""A simulated board: what instruments on a plan would send, if it were built a little otherwise.

It is the plan's own simulation with things that nobody told: a pump that is worn, gauges that are
a little off, noise, readings that fit nothing, spells of silence, a clock that drifts between the
times it is set. The same seed sends the same.
"""

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bathys.edits.editing import Edit, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.instruments.bands import Band, bands_of
from bathys.instruments.channels import CHANNEL_KINDS, Channel
from bathys.instruments.missing import drying_of
from bathys.instruments.signatures import Signature, signature_of, usual_readings
from bathys.instruments.topping_up import topping_up_of
from bathys.plan.model import Plan
from bathys.scenarios.failures import Failure
from bathys.scenarios.periodic_state import PeriodicState, find_periodic_state
from bathys.simulation.doings import always
from bathys.simulation.valve_clocks import simulate

__all__ = ["RigFault", "RigReading", "RigTopUp", "SimulatedRig"]

_WORN = (0.94, 1.0)  # speed of its pumps, from and to [-]
_OFF = 0.3  # of a band's doubt that a gauge may be off, as a standard spread [-]
_ODD = 5e-4  # of readings fit nothing [-]
_SILENT = 0.02  # of hours hold a spell of silence [-]
_SILENCE = 480.0  # that lasts so long [s]
_DRIFT = 4e-5  # of its clock, which is set each midnight [-]
_DAY, _HOUR = 86400.0, 3600.0
_EVERY = 60.0  # between samples on the way there [s]
_LEAST_OXYGEN = 4.0  # where no fish tell it [g/m³]


@dataclass(frozen=True, slots=True)
class RigFault:
    """Something that fails on the rig for a while.

    Attributes
    ----------
    failure : Failure
        What fails
    begins, ends : float
        When, [s] of the rig's clock
    """

    failure: Failure
    begins: float
    ends: float


@dataclass(frozen=True, slots=True)
class RigReading:
    """One reading.

    Attributes
    ----------
    channel : str
        Key of the channel
    time : float
        When, by the board's clock, [s]
    value : float
        What is read, [the engine's unit of the quantity]
    """

    channel: str
    time: float
    value: float


@dataclass(frozen=True, slots=True)
class RigTopUp:
    """Water that somebody put in.

    Attributes
    ----------
    time : float
        When, [s] of the rig's clock
    volume : float
        How much, [m³]
    vessel : str
        Id of the vessel that it was put into
    """

    time: float
    volume: float
    vessel: str


class SimulatedRig:
    """A board on a plan that is built a little otherwise than it says.

    Parameters
    ----------
    plan : Plan
        The plan
    channels : sequence of Channel
        What it measures
    seed : int
        By which what is otherwise is drawn
    faults : sequence of RigFault
        What fails, and when
    is_wanted : callable
        Asked now and then whether to go on simulating
    """

    def __init__(
        self,
        plan: Plan,
        channels: Sequence[Channel],
        seed: int = 1,
        faults: Sequence[RigFault] = (),
        is_wanted: Callable[[float], bool] = always,
    ) -> None:
        self._seed, self._channels = seed, tuple(channels)
        draw = np.random.default_rng([seed, 7])
        worn = [Edit(f"pumps.{p.id}.wear", float(draw.uniform(*_WORN))) for p in plan.pumps]
        self.plan = apply_edits(plan, worn)
        """As it is built."""
        self._found: Evaluation = evaluate(self.plan)
        self._periodic: PeriodicState = find_periodic_state(self.plan, None, is_wanted)
        self._bands = bands_of(self._found, self._periodic, self._channels)
        self._off = {
            c.key: float(draw.normal(0.0, _OFF)) * self._bands[c.key].doubt
            for c in self._channels
            if c.key in self._bands
        }
        self._faults = tuple(faults)
        self._is_wanted = is_wanted
        self._failing = dict[RigFault, Signature | None]()
        self._well = usual_readings(self._found, self._periodic, self._channels)
        self.dries = drying_of(plan)
        """Water that dries off all of it [m³/s]."""
        closers = dict.fromkeys(self._found.balance.closing.values())
        told = {closer: topping_up_of(self._found, closer) for closer in closers}
        self._topping_up = {closer: up for closer, up in told.items() if up is not None}

    def top_ups(self, begin: float, end: float) -> Iterator[RigTopUp]:
        """When its loops are topped up, and with how much.

        Parameters
        ----------
        begin, end : float
            Between which times, [s]

        Yields
        ------
        RigTopUp
            Those of one loop in their order, then those of the next
        """
        for vessel, up in self._topping_up.items():
            number = math.floor(begin / up.every) + 1
            while number * up.every <= end:
                yield RigTopUp(number * up.every, up.rate * up.every, vessel)
                number += 1

    def readings(self, begin: float, end: float, every: float = 60.0) -> Iterator[RigReading]:
        """What it sends.

        Parameters
        ----------
        begin, end : float
            From when, left out, to when, [s]
        every : float
            Time between readings, [s]

        Yields
        ------
        RigReading
            In their order
        """
        number = math.floor(begin / every) + 1
        while number * every <= end:
            at = number * every
            if not self._is_silent(at):
                for place, channel in enumerate(self._channels):
                    value = self._value(channel, at)
                    if value is not None:
                        yield RigReading(
                            channel.key, self._clock(at), self._read(place, channel, at, value)
                        )
            number += 1

    def _is_silent(self, at: float) -> bool:
        begins = _silence(self._seed, int(at // _HOUR))
        return begins is not None and begins <= at % _HOUR <= begins + _SILENCE

    @staticmethod
    def _clock(at: float) -> float:
        return round(at + _DRIFT * (at % _DAY), 1)

    def _read(self, place: int, channel: Channel, at: float, value: float) -> float:
        kind = CHANNEL_KINDS[channel.kind]
        if channel.kind == "contact":
            return value
        hour, second = divmod(int(at), int(_HOUR))
        odd, anywhere, noise = _noise_of_hour(self._seed, place, hour)[:, second]
        if odd < _ODD:
            most = min(kind.most, 10.0 * abs(value) + 1.0)
            return float(kind.least + anywhere * (most - kind.least))
        read = value + self._off.get(channel.key, 0.0) + float(noise) * kind.spread
        return min(max(read, kind.least), kind.most)

    def _value(self, channel: Channel, at: float) -> float | None:
        """What is true at a moment."""
        band = self._bands.get(channel.key)
        if channel.kind in ("temperature", "oxygen", "ph"):
            return _of_the_day(channel.kind, band, self.plan, at)
        told = self._followed(channel, at)
        if told is None or channel.kind in ("flow", "watts"):
            return told
        up = self._topping_up.get(channel.part)
        if up is not None and band is not None and band.area > 0.0:
            fallen = up.rate * (at % up.every) / band.area
            told += fallen if channel.kind == "below" else -fallen
        return told

    def _followed(self, channel: Channel, at: float) -> float | None:
        """What the simulation says at a moment."""
        fault = next((f for f in self._faults if f.begins <= at < f.ends), None)
        failed = self._failed(fault) if fault is not None else None
        if fault is not None and failed is not None and channel.key in failed.values:
            return float(np.interp(at - fault.begins, failed.times, failed.values[channel.key]))
        well = self._well.get(channel.key)
        if well is None:
            return None
        return float(np.interp(at % float(well.times[-1]), well.times, well.values))

    def _failed(self, fault: RigFault) -> Signature | None:
        """What it would read after a failure, from where it stands just then."""
        if fault not in self._failing:
            periodic = self._periodic
            at = fault.begins % (float(periodic.through.times[-1]) - periodic.since)
            moment = periodic.through.end
            if at > _EVERY:
                moment = simulate(self.plan, at / _HOUR, None, _EVERY, moment).end
            self._failing[fault] = signature_of(
                self._found, periodic, self._channels, fault.failure, self._is_wanted, moment
            )
        return self._failing[fault]


@lru_cache(maxsize=256)
def _silence(seed: int, hour: int) -> float | None:
    """When in an hour a rig falls silent [s]; none for an hour in which it does not."""
    draw = np.random.default_rng([seed, 11, hour])
    begins = float(draw.uniform(0.0, _HOUR - _SILENCE))
    return begins if draw.random() < _SILENT else None


@lru_cache(maxsize=256)
def _noise_of_hour(seed: int, place: int, hour: int) -> NDArray[np.float64]:
    """Of each second of an hour at a channel, so that a reading is the same however often it is
    read: two numbers between 0 and 1, and one with a spread of 1; shape (3, 3600)."""
    draw = np.random.default_rng([seed, 13, place, hour])
    seconds = int(_HOUR)
    return np.stack([draw.random(seconds), draw.random(seconds), draw.standard_normal(seconds)])


def _of_the_day(kind: str, band: Band | None, plan: Plan, at: float) -> float:
    """Temperature, oxygen and pH through a day: warmest and with least oxygen late in it."""
    turn = math.sin(2.0 * math.pi * (at % _DAY / _DAY - 0.4))
    if kind == "temperature":
        usual = plan.site.water_temperature
        if band is not None:
            usual = min(max(usual, band.low + 1.5), band.high - 1.5)
        return usual + 0.8 * turn
    if kind == "oxygen":
        return (band.low if band is not None else _LEAST_OXYGEN) + 2.4 - 0.6 * turn
    slow = at % (20.0 * _DAY) / (20.0 * _DAY)
    return 7.2 - 0.6 * slow + 0.05 * turn
