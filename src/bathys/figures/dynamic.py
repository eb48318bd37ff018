"""Figures of power cuts and of beds that run together, known once a plan was followed through
time."""

from collections.abc import Iterator

from bathys.evaluation.resilience import ResilienceRun
from bathys.figures import formulas_in_time as in_time
from bathys.figures.figure import Figure, Input
from bathys.scenarios.power_cut import CutVessel

__all__ = ["list_dynamic"]


def list_dynamic(resilience: ResilienceRun) -> tuple[Figure, ...]:
    """What every vessel comes to in each power cut, and each siphon's cycle beside the others.

    Parameters
    ----------
    resilience : ResilienceRun
        What the plan does through time

    Returns
    -------
    tuple of Figure
        Keys such as ``T1.cut0.final``, of the first power cut, and ``S1.together.period``
    """
    return (*_cuts(resilience), *_cycles(resilience))


def _cuts(resilience: ResilienceRun) -> Iterator[Figure]:
    plan = resilience.evaluation.plan
    for number, trial in enumerate(resilience.trials):
        for row in trial.vessels:
            vessel = plan.vessel(row.vessel)
            yield from _cut(
                f"{row.vessel}.cut{number}", row, vessel.floor_height, vessel.shape.height
            )


def _cut(key: str, row: CutVessel, floor: float, rim: float) -> Iterator[Figure]:
    held = Input("water when the power failed", row.volume_before, "volume")
    left = Input("water in the end", row.volume_final, "volume")
    yield in_time.CUT_DEPTH.of(
        f"{key}.final",
        row.vessel,
        (Input("depth when the power failed", row.before - floor, "length"), held, left),
        "its rim is at {rim:length}",
        {"rim": rim},
        value=row.final - floor,
    )
    change = row.volume_final - row.volume_before
    yield in_time.CUT_HOLDS.of(
        f"{key}.holds", row.vessel, (held, Input("came in less what left", change, "volume"))
    )
    if row.volume_before > 0.0:
        yield in_time.CUT_SHARE.of(f"{key}.share", row.vessel, (left, held))


def _cycles(resilience: ResilienceRun) -> Iterator[Figure]:
    for cycle in resilience.periodic.cycles:
        starts = Input("starts counted", cycle.starts, "count")
        if cycle.period is not None:
            yield in_time.CYCLE_TOGETHER.of(
                f"{cycle.siphon}.together.period",
                cycle.siphon,
                (
                    starts,
                    Input("fills in", cycle.fill_time or 0.0, "time"),
                    Input("drains in", cycle.drain_time or 0.0, "time"),
                ),
                value=cycle.period,
            )
        if cycle.exchanged is not None:
            yield in_time.MOVES_TOGETHER.of(
                f"{cycle.siphon}.together.moves", cycle.siphon, (starts,), value=cycle.exchanged
            )
