"""The power cut trial: pull the plug at the worst moment, wait, and switch on again."""

from dataclasses import dataclass, replace

import numpy as np

from bathys.network.layout import layout_of
from bathys.physics.water import water_at
from bathys.plan.model import Plan
from bathys.scenarios.periodic_state import PeriodicState
from bathys.simulation.compiled import RUNS, SPILLS
from bathys.simulation.doings import Doings
from bathys.simulation.result import Moment, PowerCut, SimulationResult
from bathys.simulation.valve_clocks import simulate
from bathys.vessels import storage_of

__all__ = ["CutVessel", "PowerCutTrial", "Restart", "Siphoned", "try_power_cut", "try_power_cut_at"]

_DARK_HOURS = 2.0  # flows die algebraically; what is left after so long is told as still to come
_LIGHT_HOURS = 3.0
_QUIET = 2e-3  # a level this close to where it ends has arrived [m]
_BACK = 5e-3  # a level this close to its usual swing is back to normal [m]
_TRICKLE = 2e-4  # less water than this is not worth a word [m³]


@dataclass(frozen=True, slots=True)
class CutVessel:
    """One vessel in a power cut.

    Attributes
    ----------
    vessel : str
        Its id
    before, lowest, highest, final : float
        Levels over the datum, [m]
    volume_before, volume_final : float
        Water it holds, [m³]
    spilled : float
        Water over its rim, [m³]
    """

    vessel: str
    before: float
    lowest: float
    highest: float
    final: float
    volume_before: float
    volume_final: float
    spilled: float

    @property
    def share_left(self) -> float:
        """Share of its water that is left [-]."""
        return self.volume_final / self.volume_before if self.volume_before > 0.0 else 1.0


@dataclass(frozen=True, slots=True)
class Siphoned:
    """A line that went on carrying water without a pump.

    Attributes
    ----------
    run : str
        Its id
    volume : float
        What it carried, [m³]
    backwards : bool
        Whether it ran back through the stopped pump
    """

    run: str
    volume: float
    backwards: bool


@dataclass(frozen=True, slots=True)
class Restart:
    """What happens when the power is back.

    Attributes
    ----------
    air : tuple of str
        Pumps that drew air
    lowest : dict of float
        By pump, the least water over its inlet; below 0 if there was none, [m]
    normal_after : float or None
        Time until every level swings as before; none if it did not within hours, [s]
    spilled : float
        Water over any rim, [m³]
    """

    air: tuple[str, ...]
    lowest: dict[str, float]
    normal_after: float | None
    spilled: float


@dataclass(frozen=True)
class PowerCutTrial:
    """One power cut and the switching on again.

    Attributes
    ----------
    moment : str
        ``after_start`` or ``before_start`` of a siphon, or ``any``
    siphon : str
        That siphon; empty for any moment
    time : float
        When the power failed, [s]
    vessels : tuple of CutVessel
        What each vessel did
    siphoned : tuple of Siphoned
        Lines that ran on for more than a little
    quiet_after : float
        Time until the levels stood still, [s]
    still_to_come : float
        Water that had yet to run down then, [m³]
    dark, light : SimulationResult
        Levels without power, and after
    restart : Restart
        Events the power was back
    """

    moment: str
    siphon: str
    time: float
    vessels: tuple[CutVessel, ...]
    siphoned: tuple[Siphoned, ...]
    quiet_after: float
    still_to_come: float
    dark: SimulationResult
    light: SimulationResult
    restart: Restart

    @property
    def spilled(self) -> float:
        """Water over any rim [m³]."""
        return sum(v.spilled for v in self.vessels)


def _most_retained(plan: Plan, closers: set[str]) -> dict[str, tuple[str, float, float]]:
    """Of every siphon out of a vessel that does not take up the rest: the vessel, and what that
    keeps at most while it runs and while it does not, [m³]."""
    found = {}
    for siphon in plan.siphons:
        if siphon.stands_in not in closers:
            storage = storage_of(plan, plan.vessel(siphon.stands_in))
            found[siphon.id] = (
                siphon.stands_in,
                storage.volume_at(siphon.intake_height),
                storage.volume_at(siphon.spills_from),
            )
    return found


def _retained(moment: Moment, most: dict[str, tuple[str, float, float]]) -> float:
    """About what the vessels keep that do not take up the rest: a siphon that runs empties its
    bed to the intake, and no bed keeps more than up to its rim."""
    kept = 0.0
    for siphon, (vessel, full, spilling) in most.items():
        runs = moment.modes.get(siphon) == RUNS
        kept += min(moment.volumes[vessel], full if runs else spilling)
    return kept


def try_power_cut(
    plan: Plan, periodic: PeriodicState, closers: set[str]
) -> tuple[PowerCutTrial, ...]:
    """Cut the power at the moments that leave the sump fullest and emptiest.

    Parameters
    ----------
    plan : Plan
        The plan
    periodic : PeriodicState
        Its periodic state
    closers : set of str
        Vessels that take up what the others do not hold

    Returns
    -------
    tuple of PowerCutTrial
        Just after and just before a start; or one, where there is no siphon that starts
    """
    starts = periodic.starts()
    if not starts:
        return (try_power_cut_at(plan, periodic, closers, periodic.through.end),)
    begun: dict[float, list[str]] = {}
    for event in periodic.through.events:
        if event.kind == "starts":
            begun.setdefault(event.time, []).append(event.place)
    most = _most_retained(plan, closers)
    fullest = min(starts, key=lambda m: _retained(m, most))
    latest = next(iter(begun.get(fullest.time, ())), "")
    held = [replace(m, modes={**m.modes, **_undone(begun, m)}) for m in starts]
    emptiest = max(held, key=lambda m: _retained(m, most))
    other = next(iter(begun.get(emptiest.time, ())), "")
    return (
        try_power_cut_at(plan, periodic, closers, fullest, "after_start", latest),
        try_power_cut_at(plan, periodic, closers, emptiest, "before_start", other),
    )


def _undone(begun: dict[float, list[str]], moment: Moment) -> dict[str, int]:
    """The siphon that has just started, not yet started."""
    return dict.fromkeys(begun.get(moment.time, ()), SPILLS)


def try_power_cut_at(
    plan: Plan,
    periodic: PeriodicState,
    closers: set[str],
    moment: Moment,
    name: str = "any",
    siphon: str = "",
) -> PowerCutTrial:
    """Cut the power at one moment, and switch on again after two hours.

    Parameters
    ----------
    plan : Plan
        The plan
    periodic : PeriodicState
        Its periodic state
    closers : set of str
        Vessels that take up what the others do not hold
    moment : Moment
        When
    name, siphon : str
        What that moment is

    Returns
    -------
    PowerCutTrial
        What happens
    """
    dark_time = _DARK_HOURS * 3600.0
    cut = PowerCut(moment.time, dark_time + 60.0)
    dark = simulate(plan, _DARK_HOURS, Doings(cut), 5.0, moment)
    light = simulate(plan, _LIGHT_HOURS, since=dark.end)
    final = dark.levels[-1]
    far = np.any(np.abs(dark.levels - final) > _QUIET, axis=1)
    quiet = float(dark.times[far][-1] - moment.time) if np.any(far) else 0.0
    return PowerCutTrial(
        name,
        siphon,
        moment.time,
        tuple(_vessel(dark, moment, v.id) for v in plan.vessels),
        _siphoned(dark),
        quiet,
        _still_to_come(dark),
        dark,
        light,
        _restart(periodic, light, closers),
    )


def _vessel(dark: SimulationResult, moment: Moment, vessel: str) -> CutVessel:
    level = dark.level(vessel)
    return CutVessel(
        vessel,
        float(level[0]),
        float(level.min()),
        float(level.max()),
        float(level[-1]),
        moment.volumes[vessel],
        dark.end.volumes[vessel],
        dark.spills.get(vessel, 0.0),
    )


def _siphoned(dark: SimulationResult) -> tuple[Siphoned, ...]:
    found = []
    pressure = layout_of(dark.plan, water_at(dark.plan.site.water_temperature)).pressure
    tails = {r.id for s in dark.plan.siphons if (r := dark.plan.run_of(s))}
    lifts = {r.id for o in dark.plan.outlets if o.is_closed and (r := dark.plan.run_of(o))}
    for run, volume in dark.carried.items():
        if volume < -_TRICKLE and run in pressure:
            found.append(Siphoned(run, -volume, True))
        elif volume > _TRICKLE and run in tails | lifts:
            found.append(Siphoned(run, volume, False))
    return tuple(sorted(found, key=lambda s: -s.volume))


def _still_to_come(dark: SimulationResult) -> float:
    """Water over the crests that is yet to run down, told by the fall of the last minutes."""
    last, before = dark.levels[-1], dark.levels[-61] if len(dark.levels) > 60 else dark.levels[0]
    plan, total = dark.plan, 0.0
    for vessel in plan.vessels:
        place = dark.nodes.index(vessel.id)
        storage = storage_of(plan, vessel)
        fall = storage.volume_at(float(before[place]) - vessel.floor_height) - storage.volume_at(
            float(last[place]) - vessel.floor_height
        )
        total += max(fall, 0.0)
    # A weir's level dies as 1/t²: what falls in the last five of 120 minutes is a share of
    # (120/115)² − 1 of what is left.
    return total / ((120.0 / 115.0) ** 2 - 1.0)


def _restart(periodic: PeriodicState, light: SimulationResult, closers: set[str]) -> Restart:
    plan = light.plan
    air = tuple(p.id for p in plan.pumps if light.times_of("air", p.id) or light.dry[p.id] > 1.0)
    lowest = {
        p.id: float(light.level(p.stands_in).min())
        - plan.vessel(p.stands_in).floor_height
        - p.inlet_height
        for p in plan.pumps
    }
    outside = np.zeros(len(light.times), dtype=bool)
    # How full a sump is hangs on how the beds' cycles fall together, which a cut changes.
    for vessel in (v for v in plan.vessels if v.id not in closers):
        usual, level = periodic.levels(vessel.id), light.level(vessel.id)
        outside |= (level < usual.min() - _BACK) | (level > usual.max() + _BACK)
    begun = light.times[0]
    back = 0.0 if not outside.any() else float(light.times[outside][-1] - begun)
    normal = None if outside[-1] else back
    return Restart(air, lowest, normal, light.spilled)
