"""The falls of a plan: where water runs down by itself, from what level to what level."""

from dataclasses import dataclass

from bathys.evaluation.result import Evaluation
from bathys.evaluation.runs import RunResult
from bathys.plan.topology import reached

__all__ = ["Fall", "falls_of"]


@dataclass(frozen=True, slots=True)
class Fall:
    """Water going from one vessel to another.

    Attributes
    ----------
    run : RunResult
        The run it goes through that no other fall does
    start, end : str
        Vessels it leaves and comes to
    up, down : float
        Level it leaves, and level it comes to or the run's end over that, [m] over the datum
    """

    run: RunResult
    start: str
    end: str
    up: float
    down: float

    @property
    def fall(self) -> float:
        """How far it falls; below 0 where a pump lifts it [m]."""
        return self.up - self.down

    @property
    def is_lift(self) -> bool:
        """Whether a pump moves it."""
        return self.run.gravity is None

    @property
    def spare_flow(self) -> float | None:
        """What it could carry besides before the vessel above stands at its freeboard [m³/s]; none
        for what a pump moves."""
        gravity = self.run.gravity
        return None if gravity is None else gravity.capacity - abs(self.run.flow)


def falls_of(found: Evaluation) -> tuple[Fall, ...]:
    """Every way that carries water from vessel to vessel, as a step up or down.

    Parameters
    ----------
    found : Evaluation
        The plan's numbers

    Returns
    -------
    tuple of Fall
        In the plan's order, each under the run that it has to itself: the first of a drain that
        joins others, the last of a line that forks. What carries nothing is left out
    """
    plan, steps = found.plan, {}
    sources = {d.run: d.pump for d in found.deliveries}
    for result in found.runs.values():
        run = result.run
        if result.flow <= 0.0:
            continue
        if run.id in sources:
            start = plan.part(sources[run.id]).stands_in
            end, up = run.target, found.balance.levels[start]
            steps[run.id] = Fall(result, start, end, up, result.end_head)
        elif result.gravity is not None and (start := plan.owner_of(run.start)) is not None:
            ends = _ends(found, result)
            for last in ends:
                own = last if len(ends) > 1 else result
                end = last.run.target
                fall = Fall(own, start, end, result.start_head, last.end_head)
                steps.setdefault(own.run.id, fall)
    return tuple(steps[id_] for id_ in found.runs if id_ in steps)


def _ends(found: Evaluation, first: RunResult) -> list[RunResult]:
    """The runs by which water that enters one run comes to vessels."""

    def onward(id_: str) -> list[str]:
        runs = (found.runs[r.id] for r in found.plan.runs_from(found.runs[id_].run.end))
        return [r.run.id for r in runs if r.flow > 0.0 and r.gravity is not None]

    every = (found.runs[id_] for id_ in reached([first.run.id], onward))
    return [r for r in every if found.plan.port(r.run.end) is not None]
