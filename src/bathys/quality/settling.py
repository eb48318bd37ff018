"""What a settler does with the flow it gets: velocities on the way through, and what it catches."""

import math
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.parts.practice import OUTLET_CALM, SETTLER_RATE
from bathys.physics import area_of
from bathys.physics.settling import basin_capture, fall_speed
from bathys.plan.pipes import Run
from bathys.plan.vessel import Vessel
from bathys.plan.way_out import WayOut
from bathys.quality.grains import EXCESS_DENSITY, FRESH, Spread, classes_of

__all__ = [
    "OUTLET_DRILL",
    "OUTLET_UNDER",
    "SettlerResult",
    "Step",
    "calm_holes",
    "calm_slit",
    "capture_of",
    "fresh_caught",
    "mass_caught",
    "mass_caught_by_two",
    "settler_of",
]

OUTLET_DRILL = 0.016
"""Of the outlet holes that are put forward [m]."""

OUTLET_UNDER = 0.03
"""How far under the water outlet holes lie at least (common practice) [m]."""

_DOUBT = (0.5, 2.0)  # of n and of the median grain, for the ends of what is caught (assumed)
_NEARLY = 0.95
_HAIR = 1.05
_PLAIN = (
    1.0,
    0.5,
)  # n, and share of its area, of a settler that is not told how it is built (assumed)


@dataclass(frozen=True, slots=True)
class Step:
    """A rung of the velocity ladder.

    Attributes
    ----------
    name : str
        Where
    area : float
        That the water passes, [m²]
    speed : float
        Of the water there, [m/s]
    """

    name: str
    area: float
    speed: float


@dataclass(frozen=True, slots=True)
class SettlerResult:
    """What a settler does.

    Attributes
    ----------
    vessel : Vessel
        The vessel
    flow : float
        What passes it, [m³/s]
    retention : float
        How long water stays, [s]
    rate : float
        Flow over its open area, [m/s]
    ladder : tuple of Step
        From the inlet pipe to the outlet pipe
    outlet_speed : float or None
        Through its outlet holes or slit; none for one that has neither, [m/s]
    caught, low, high : float
        Share of fresh waste that it catches; and with grains half or twice as coarse and half or
        twice its n, [-]
    grain : float or None
        Smallest grain of which it catches 95 %, [m]; none if it does of none
    """

    vessel: Vessel
    flow: float
    retention: float
    rate: float
    ladder: tuple[Step, ...]
    outlet_speed: float | None
    caught: float
    low: float
    high: float
    grain: float | None

    @property
    def is_fast(self) -> bool:
        """Whether water rises faster in it than practice takes, by more than a hair."""
        return self.rate > SETTLER_RATE * _HAIR


def capture_of(
    vessel: Vessel, rate: float, grain: float, viscosity: float, n: float = 1.0
) -> float:
    """Share of one grain that a settler catches.

    Parameters
    ----------
    vessel : Vessel
        A settler; one that is not told how it is built counts as a plain can
    rate : float
        Flow over its open area, [m/s]
    grain : float
        Diameter, [m]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]
    n : float
        By what its n is multiplied, for the doubt, [-]

    Returns
    -------
    float
        The share, [-]
    """
    inside = vessel.settler
    steps, used = (inside.STEPS, inside.USED) if inside is not None else _PLAIN
    falls = fall_speed(grain, EXCESS_DENSITY, viscosity)
    return basin_capture(falls, rate / used, max(n * steps, 1.0))


def mass_caught(
    vessel: Vessel, rate: float, waste: Spread, viscosity: float, n: float = 1.0
) -> float:
    """Share of the mass of waste that a settler catches.

    Parameters
    ----------
    vessel : Vessel
        A settler; one that is not told how it is built counts as a plain can
    rate : float
        Flow over its open area, [m/s]
    waste : Spread
        Its grains
    viscosity : float
        Kinematic viscosity of the water, [m²/s]
    n : float
        By what its n is multiplied, for the doubt, [-]

    Returns
    -------
    float
        The share, [-]
    """
    return sum(
        c.share * capture_of(vessel, rate, c.grain, viscosity, n)
        for c in classes_of([(1.0, waste)])
    )


def fresh_caught(vessel: Vessel, rate: float, viscosity: float) -> tuple[float, float, float]:
    """Share of fresh waste that a settler catches; and with grains half or twice as coarse and
    half or twice its n.

    Parameters
    ----------
    vessel : Vessel
        A settler
    rate : float
        Flow over its open area, [m/s]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    (float, float, float)
        The share, its low and its high end, [-]
    """
    low, high = (
        mass_caught(vessel, rate, Spread(d * FRESH.median, FRESH.spread), viscosity, d)
        for d in _DOUBT
    )
    return mass_caught(vessel, rate, FRESH, viscosity), low, high


def mass_caught_by_two(vessel: Vessel, rate: float, waste: Spread, viscosity: float) -> float:
    """Share of the mass of waste that two like settlers in series catch: each gets the whole flow,
    and the second what the first let pass.

    Parameters
    ----------
    vessel : Vessel
        One of them
    rate : float
        Flow over its open area, [m/s]
    waste : Spread
        Its grains
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    float
        The share, [-]
    """
    return sum(
        c.share * (1.0 - (1.0 - capture_of(vessel, rate, c.grain, viscosity)) ** 2)
        for c in classes_of([(1.0, waste)])
    )


def calm_holes(flow: float) -> int:
    """How many holes of :data:`OUTLET_DRILL` let a flow out calmly.

    Parameters
    ----------
    flow : float
        What passes the settler, [m³/s]

    Returns
    -------
    int
        Their count
    """
    return math.ceil(flow / OUTLET_CALM / area_of(OUTLET_DRILL))


def calm_slit(flow: float, gap: float) -> float:
    """How long a slit lets a flow out calmly.

    Parameters
    ----------
    flow : float
        What passes the settler, [m³/s]
    gap : float
        Height of the slit, [m]

    Returns
    -------
    float
        Its length, [m]
    """
    return flow / (OUTLET_CALM * gap)


def settler_of(found: Evaluation, id_: str) -> SettlerResult | None:
    """What one settler does.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    id_ : str
        Id of the vessel

    Returns
    -------
    SettlerResult or None
        None for a vessel that is no settler, or that no water passes
    """
    result = found.vessels[id_]
    vessel, inside, flow = result.vessel, result.vessel.settler, result.inflow
    if flow <= 0.0 or (inside is None and vessel.job != "settler"):
        return None
    rate = flow / _open_area(vessel)
    viscosity = found.water.kinematic_viscosity
    caught, low, high = fresh_caught(vessel, rate, viscosity)
    outlet = inside.outlet_area if inside is not None else 0.0
    return SettlerResult(
        vessel,
        flow,
        result.volume / flow,
        rate,
        tuple(_ladder(found, vessel, flow)),
        flow / outlet if outlet > 0.0 else None,
        caught,
        low,
        high,
        _grain_of(vessel, rate, viscosity),
    )


def _open_area(vessel: Vessel) -> float:
    """Area over which water rises [m²]."""
    inside = vessel.settler
    return inside.open_area(vessel.shape) if inside is not None else vessel.shape.footprint


def _pipes(found: Evaluation, vessel: str) -> tuple[list[Run], list[Run]]:
    """Runs that bring water to a vessel, and those that lead it on."""
    plan = found.plan
    into = [r for r in plan.runs if r.target == vessel and found.runs[r.id].mean_flow > 0.0]
    out = [
        r
        for r in plan.runs
        if plan.owner_of(r.start) == vessel and found.runs[r.id].mean_flow > 0.0
    ]
    return into, out


def _ladder(found: Evaluation, vessel: Vessel, flow: float) -> list[Step]:
    inside = vessel.settler
    into, out = _pipes(found, vessel.id)
    steps = [step for run in into for step in _lift(found, run)]
    if into:
        area = sum(area_of(r.bore.inside) for r in into)
        steps.append(Step("inlet pipe, full", area, flow / area))
    for rung in inside.inner_rungs(vessel.shape) if inside is not None else ():
        steps.append(Step(rung.name, rung.area, flow / rung.area))
    area = _open_area(vessel)
    steps.append(Step("open water", area, flow / area))
    if inside is not None and inside.outlet_area > 0.0:
        name = "outlet holes" if inside.hole_rows else "outlet slit"
        steps.append(Step(name, inside.outlet_area, flow / inside.outlet_area))
    if out:
        area = sum(area_of(r.bore.inside) for r in out)
        steps.append(Step("outlet pipe, full", area, flow / area))
    return steps


def _lift(found: Evaluation, run: Run) -> list[Step]:
    """Under and in the pipe that lifts waste from a tank's floor into a run, if one does."""
    part = found.plan.part(run.source)
    if not isinstance(part, WayOut) or part.pipe is None:
        return []
    if part.takes_from >= 0.5 * part.spills_from:
        return []
    flow, bore = found.runs[run.id].mean_flow, part.pipe.inside
    steps = []
    if 0.0 < part.takes_from < 0.25 * bore:  # else the gap is wider than the pipe
        gap = math.pi * bore * part.takes_from
        steps.append(Step("under the lift", gap, flow / gap))
    return [*steps, Step("in the lift", area_of(bore), flow / area_of(bore))]


def _grain_of(vessel: Vessel, rate: float, viscosity: float) -> float | None:
    """Smallest grain of which 95 % are caught [m], by halving; none under a centimetre."""
    low, high = 1e-6, 1e-2
    if capture_of(vessel, rate, high, viscosity) < _NEARLY:
        return None
    for _ in range(40):
        middle = (low * high) ** 0.5
        if capture_of(vessel, rate, middle, viscosity) >= _NEARLY:
            high = middle
        else:
            low = middle
    return high
