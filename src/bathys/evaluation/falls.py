"""The falls of a plan: where water runs down by itself, from what level to what level."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from bathys.evaluation.runs import RunResult

if TYPE_CHECKING:
    from bathys.evaluation.result import Evaluation

__all__ = ["Fall", "falls_of"]


@dataclass(frozen=True, slots=True)
class Fall:
    """Water going from one level to another.

    Attributes
    ----------
    run : RunResult
        The run it goes through
    start, end : str
        Vessel or junction it leaves and comes to
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


def falls_of(found: "Evaluation") -> tuple[Fall, ...]:
    """Every run that carries water and ends in a vessel, as a step up or down.

    Parameters
    ----------
    found : Evaluation
        The plan's numbers

    Returns
    -------
    tuple of Fall
        In the plan's order; runs that carry nothing are left out
    """
    plan, steps = found.plan, []
    sources = {d.run: d.pump for d in found.deliveries}
    for result in found.runs.values():
        run = result.run
        if result.flow <= 0.0 or plan.port(run.end) is None:
            continue
        end = run.end.partition(".")[0]
        start = plan.owner_of(run.start) or run.start
        up = result.start_head
        if run.id in sources:
            start = plan.part(sources[run.id]).stands_in
            up = found.balance.levels[start]
        steps.append(Fall(result, start, end, up, result.end_head))
    return tuple(steps)
