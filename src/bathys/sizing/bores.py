"""The bores a run could have, and what each would do."""

from dataclasses import dataclass, replace

import numpy as np

from bathys.edits.editing import Edit, EditRefused, apply_edits
from bathys.network import Balance, NotSolved
from bathys.network.layout import layout_of, pressure_network
from bathys.network.runs import fouled_bore
from bathys.network.solving import solve
from bathys.parts.bores import PipeSize, pipe_sizes
from bathys.physics import GRAVITY, area_of
from bathys.physics.part_full import manning_flow
from bathys.plan.pipes import Run

__all__ = [
    "VELOCITY_HIGH",
    "WORTH",
    "BoreOption",
    "bore_options",
    "smallest_drain",
    "smallest_pressed",
]

VELOCITY_HIGH = 1.5
"""Greatest suggested velocity in pressure pipe [m/s] (common practice)."""

WORTH = 0.95
"""Share of the flow of the widest bore that a size worth its price keeps [-] (assumed)."""

_HOURS = 8760.0
_DEFAULT = "ASTM D1785 Schedule 40"


@dataclass(frozen=True, slots=True)
class BoreOption:
    """One bore for a run.

    Attributes
    ----------
    size : PipeSize
        The size of pipe
    flow : float
        Flow the run would carry, [m³/s]
    velocity : float
        [m/s]
    loss : float
        Head the run would lose, [m]
    energy_year : float
        Energy behind that loss in the water, a year, [kWh]
    half_flow : float
        Flow that half fills it as a drain at its slope, [m³/s]
    is_now : bool
        Whether it is what the plan has
    is_advised : bool
        Whether it is the smallest that keeps the velocity down and nearly all the flow
    """

    size: PipeSize
    flow: float
    velocity: float
    loss: float
    energy_year: float
    half_flow: float
    is_now: bool
    is_advised: bool


def bore_options(now: Balance, run: Run, slope: float = 0.25 / 12.0) -> tuple[BoreOption, ...]:
    """Every size of a run's own standard.

    Parameters
    ----------
    now : Balance
        The plan as it stands
    run : Run
        One of its runs
    slope : float
        Fall of it as a drain, [-]

    Returns
    -------
    tuple of BoreOption
        Smallest first; sizes that do not go into the vessels at its ends are left out. A run under
        pressure is solved again with each bore, valves as they stand; a drain keeps its flow
    """
    is_pressure = run.id in now.layout.pressure
    rows = []
    for size in _sizes(run):
        flow = now.flows[run.id]
        try:
            plan = apply_edits(now.plan, [Edit(f"runs.{run.id}.bore", size.as_data)])
            layout = layout_of(plan, now.layout.water)
            if is_pressure:
                flow = solve(pressure_network(layout, now.levels)).flows[run.id]
        except (EditRefused, NotSolved):
            continue
        changed: Run = plan.part(run.id)
        bore = fouled_bore(changed)
        lost = float(layout.lines[run.id].loss(np.array([flow]))[0][0])
        velocity = abs(flow) / area_of(bore)
        rows.append(
            BoreOption(
                size,
                flow,
                velocity,
                lost,
                layout.water.density * GRAVITY * abs(flow * lost) * _HOURS / 1000.0,
                float(manning_flow(0.5, bore, max(slope, 1e-6))),
                run.bore.size == size,
                False,
            )
        )
    return tuple(_with_advice(rows, is_pressure))


def _sizes(run: Run) -> list[PipeSize]:
    own = run.bore.size
    return pipe_sizes(own.standard if own is not None else _DEFAULT)


def smallest_pressed(run: Run, flow: float) -> PipeSize | None:
    """The smallest size of a run's standard in which a flow keeps within the velocity.

    Parameters
    ----------
    run : Run
        A run under pressure
    flow : float
        Flow, [m³/s]

    Returns
    -------
    PipeSize or None
        None if even the largest is too small
    """
    return next((s for s in _sizes(run) if flow / area_of(s.bore) <= VELOCITY_HIGH), None)


def smallest_drain(run: Run, flow: float, slope: float) -> PipeSize | None:
    """The smallest size of a run's standard that a flow at most half fills.

    Parameters
    ----------
    run : Run
        A drain
    flow : float
        Flow, [m³/s]
    slope : float
        Its fall over its length, [-]

    Returns
    -------
    PipeSize or None
        None if even the largest is too small, or there is no fall
    """
    if slope <= 0.0:
        return None
    return next((s for s in _sizes(run) if float(manning_flow(0.5, s.bore, slope)) >= flow), None)


def _with_advice(rows: list[BoreOption], is_pressure: bool) -> list[BoreOption]:
    most = max(abs(row.flow) for row in rows)

    def fits(row: BoreOption) -> bool:
        if is_pressure:
            return 0.0 < row.velocity <= VELOCITY_HIGH and abs(row.flow) >= WORTH * most
        return abs(row.flow) <= row.half_flow

    best = next((i for i, row in enumerate(rows) if fits(row)), None)
    return [replace(row, is_advised=i == best) for i, row in enumerate(rows)]
