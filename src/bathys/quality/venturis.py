"""What venturis at the ends of runs bring, and what they cost."""

from dataclasses import dataclass

from bathys.evaluation import Duty, Evaluation
from bathys.physics import GRAVITY
from bathys.physics.air import water_pressure
from bathys.physics.oxygen import IN_FISH_WATER, bubble_transfer
from bathys.plan.pipes import Run

__all__ = ["DrawnAir", "drawn_airs"]

_EFFICIENCY, _A_FOOT = 0.02, 0.3  # of fine bubbles for each 0.3 m of depth (memory)
_STONE = 2000.0  # that a stone takes besides the depth (assumed) [Pa]
_AIR_PUMP = 0.15  # of its watts, that a small air pump puts into air (assumed) [-]


@dataclass(frozen=True, slots=True)
class DrawnAir:
    """A venturi at work.

    Attributes
    ----------
    run : Run
        The run it ends
    air : float
        Free air it draws in, [m³/s]
    transfer : float
        What this brings for each g/m³ short, [m³/s]
    head : float
        That it costs, [m]
    watts : float
        That this takes at the plug of the pump, [W]; 0 where no pump drives it
    air_pump_watts : float
        That an air pump would take for as much air at its depth, [W]
    """

    run: Run
    air: float
    transfer: float
    head: float
    watts: float
    air_pump_watts: float


def drawn_airs(found: Evaluation) -> tuple[DrawnAir, ...]:
    """Every run of a plan that ends in something that draws in air.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of DrawnAir
        In the plan's order; one over the water draws none
    """
    plan, rows = found.plan, []
    for run in plan.runs:
        end = plan.elevation(run.end)
        if run.ends_in is None or not run.ends_in.may_draw_air:
            continue
        if end is None or plan.group_of(run.target) != "vessels":
            continue
        depth = found.vessels[run.target].levels.high - end
        flow = found.runs[run.id].mean_flow
        air = run.ends_in.draws_air(flow, run.bore.inside, depth) if depth > 0.0 else 0.0
        efficiency = min(_EFFICIENCY * max(depth, 0.0) / _A_FOOT, 0.5)
        head = sum(h for piece, h in found.runs[run.id].losses if piece.kind == "opening")
        works = [d.efficiency for d in found.duties.values() if run.id in _driven(d)]
        hydraulic = found.water.density * GRAVITY * flow * head
        rows.append(
            DrawnAir(
                run,
                air,
                bubble_transfer(air, efficiency, found.water.temperature, IN_FISH_WATER),
                head,
                hydraulic / max(works[0], 1e-3) if works else 0.0,
                air * (water_pressure(max(depth, 0.0), found.water.density) + _STONE) / _AIR_PUMP,
            )
        )
    return tuple(rows)


def _driven(duty: Duty) -> set[str]:
    """Runs that a pump drives water through."""
    return {run for d in duty.deliveries for run in d.path}
