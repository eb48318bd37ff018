"""Where a pump's head goes on its way to each outlet."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from bathys.evaluation.runs import RunResult
from bathys.network import Balance, PieceKind
from bathys.plan.pipes import Run
from bathys.plan.places import part_id
from bathys.plan.topology import followed

__all__ = ["BudgetRow", "Delivery", "deliveries_of", "grade_line"]


@dataclass(frozen=True, slots=True)
class BudgetRow:
    """A share of the pump's head.

    Attributes
    ----------
    kind : str
        ``lift`` or the kind of a piece of the line
    label : str
        What takes it
    place : str
        Id of the run it is in, or of the vessel that is lifted to
    head : float
        Head taken, [m]
    as_pipe : float or None
        Length of the run's own pipe that would cost as much, for what is no pipe itself, [m]
    """

    kind: PieceKind | Literal["lift"]
    label: str
    place: str
    head: float
    as_pipe: float | None = None


@dataclass(frozen=True, slots=True)
class Delivery:
    """The way from a pump to one outlet.

    Attributes
    ----------
    pump : str
        Id of the pump
    run : str
        Id of the run that ends in the vessel
    end : str
        The vessel's port it arrives at
    flow : float
        What arrives while the pump runs, [m³/s]
    lift : float
        Height of the outlet, or of the water over it, over the level at the pump, [m]
    path : tuple of str
        Ids of the runs in the order of the water
    budget : tuple of BudgetRow
        Where the head goes, adding up to the pump's
    """

    pump: str
    run: str
    end: str
    flow: float
    lift: float
    path: tuple[str, ...]
    budget: tuple[BudgetRow, ...]

    @property
    def vessel(self) -> str:
        """Id of the vessel."""
        return part_id(self.end)

    def total(self, kind: str) -> float:
        """Head that one kind takes [m]."""
        return sum(row.head for row in self.budget if row.kind == kind)


def deliveries_of(now: Balance, runs: dict[str, RunResult]) -> tuple[Delivery, ...]:
    """Deliveries of every run under pressure that ends in a vessel.

    Parameters
    ----------
    now : Balance
        With every pump running
    runs : dict of RunResult
        What each run does

    Returns
    -------
    tuple of Delivery
        In the plan's order; outlets that no pump reaches are left out
    """
    found: list[Delivery | None] = []
    rows = {r.id: _rows(runs[r.id]) for r in now.layout.pressure_runs}
    for run in now.layout.pressure_runs:
        if now.plan.port(run.end) is not None:
            found.append(_delivery(now, runs, rows, run, run.start, run.end))
        if now.plan.port(run.start) is not None and now.flows[run.id] < 0.0:
            # Drawn from a vessel into a pumped line, but the pump pushes water back into it.
            found.append(_delivery(now, runs, rows, run, run.end, run.start))
    return tuple(d for d in found if d is not None)


def _rows(result: RunResult) -> list[BudgetRow]:
    """A run's own part of the budget of every outlet it leads to."""
    return [
        BudgetRow(p.kind, p.label, result.run.id, abs(h), result.as_pipe(p, abs(h)))
        for p, h in result.losses
        if h != 0.0
    ]


def _delivery(
    now: Balance,
    runs: dict[str, RunResult],
    rows: dict[str, list[BudgetRow]],
    run: Run,
    here: str,
    end: str,
) -> Delivery | None:
    """The way to the end of a run that lies in a vessel, from its other end on."""
    path = _path_to(now, run, end, here)
    if path is None:
        return None
    pump_id, ids = path
    sign = 1.0 if end == run.end else -1.0
    head = runs[run.id].end_head if end == run.end else runs[run.id].start_head
    lift = head - now.levels[now.plan.part(pump_id).stands_in]
    budget = [BudgetRow("lift", "lift", part_id(end), lift), *(r for i in ids for r in rows[i])]
    flow = max(sign * runs[run.id].flow, 0.0)
    return Delivery(pump_id, run.id, end, flow, lift, tuple(ids), tuple(budget))


def _path_to(now: Balance, run: Run, end: str, here: str) -> tuple[str, list[str]] | None:
    """Pump and runs by which water comes to a run, each time along the greatest flow."""
    plan = now.plan

    def is_pump(place: str) -> bool:
        return plan.group_of(part_id(place)) == "pumps"

    def ways(place: str) -> Iterator[tuple[str, tuple[float, str]]]:
        if is_pump(place):
            return
        steps = [(r.start, (now.flows[r.id], r.id)) for r in plan.runs_to(place)]
        steps += [(r.end, (-now.flows[r.id], r.id)) for r in plan.runs_from(place)]
        yield from (s for s in steps if s[1][0] >= 0.0)

    steps = followed((end, here), ways, lambda s: (is_pump(s[0]), s[1][0]))
    last = steps[-1][0] if steps else here
    if not is_pump(last):
        return None
    return part_id(last), [run.id, *(id_ for _, (_, id_) in steps)][::-1]


def grade_line(
    delivery: Delivery, now: Balance, runs: dict[str, RunResult]
) -> tuple[tuple[float, float], ...]:
    """Head along the way from a pump to an outlet, for drawing.

    Parameters
    ----------
    delivery : Delivery
        The way
    now : Balance
        With every pump running
    runs : dict of RunResult
        What each run does

    Returns
    -------
    tuple of (float, float)
        Length from the pump and head over the datum at each run's beginning and end, [m]
    """
    source = now.levels[now.plan.part(delivery.pump).stands_in]
    head = source + sum(row.head for row in delivery.budget)
    at, points = 0.0, [(0.0, head)]
    for id_ in delivery.path:
        result = runs[id_]
        sign = 1.0 if result.flow >= 0.0 else -1.0
        at, head = at + result.length, head - sign * result.loss
        points.append((at, head))
    return tuple(points)
