"""What could be bought instead, what it costs more, and what it saves of a pump's power."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from bathys.edits import Edit, EditRefused, apply_edits
from bathys.evaluation import Evaluation
from bathys.evaluation.duty import HOURS_A_YEAR
from bathys.network.runs import line_of_run
from bathys.physics import GRAVITY
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.shelf import PriceList, fitting_item, pipe_item

__all__ = ["Alternative", "alternatives_of"]

_SHORT, _LONG = "elbow_90", "elbow_90_long"
_KILO = 1000.0
_LEAST = 0.5  # what saves less in a year is not worth a line [kWh]
_MOST = 6


@dataclass(frozen=True, slots=True)
class Alternative:
    """Something to buy instead.

    Attributes
    ----------
    run : str
        Id of the run
    what : str
        ``elbows`` for long elbows, ``bore`` for the next wider pipe
    instead, take : str
        Size or name of what is planned, and of what could be bought
    count : int
        How many elbows; 0 for pipe
    head : float
        Lost less at the flow as it is, [m]
    energy, saves : float
        Less a year at the pump's efficiency as it is, [kWh], and what that costs, [money]
    costs : float or None
        More to buy; none while a price is not known, [money]
    """

    run: str
    what: str
    instead: str
    take: str
    count: int
    head: float
    energy: float
    saves: float
    costs: float | None

    @property
    def years(self) -> float | None:
        """Until it has paid for itself; none if it never does, or a price is not known."""
        if self.costs is None or self.saves <= 0.0:
            return None
        return max(self.costs, 0.0) / self.saves


def alternatives_of(found: Evaluation, prices: PriceList) -> tuple[Alternative, ...]:
    """Long elbows for short ones and wider pipe, where a pump would spend less on the same flow.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    prices : PriceList
        What things cost

    Returns
    -------
    tuple of Alternative
        The greatest saving first, six at most; of runs that all water of a pump goes through. A
        saving is had only if the pump is then turned down, or a smaller one is bought
    """
    rows = [row for row in _all(found, prices) if row.energy >= _LEAST]
    return tuple(sorted(rows, key=lambda row: -row.energy)[:_MOST])


def _all(found: Evaluation, prices: PriceList) -> Iterator[Alternative]:
    for duty in found.duties.values():
        if duty.efficiency <= 0.0 or duty.energy_year <= 0.0:
            continue
        tariff = duty.cost_year / duty.energy_year
        # In one branch of several a saving is none: what drives the others still has to be made.
        ways = [set(delivery.path) for delivery in duty.deliveries]
        shared = set.intersection(*ways) if ways else set()
        for run in (r for r in duty.deliveries[0].path if r in shared) if ways else ():
            for changed, row in _of_run(found, found.plan.part(run), prices):
                less = _less(found, found.plan.part(run), changed)
                flow = abs(found.runs[run].mean_flow)
                power = found.water.density * GRAVITY * flow * less / duty.efficiency
                energy = power * HOURS_A_YEAR / _KILO
                what, instead, take, count, costs = row
                yield Alternative(
                    run, what, instead, take, count, less, energy, energy * tariff, costs
                )


_Row = tuple[str, str, str, int, float | None]


def _of_run(found: Evaluation, run: Run, prices: PriceList) -> Iterator[tuple[Plan, _Row]]:
    """The plan with something else on a run, and what that is."""
    path, size = f"runs.{run.id}", run.bore.size
    if size is None:
        return
    count = sum(f.count for f in run.fittings if f.kind == _SHORT)
    if count and all(f.kind != _LONG for f in run.fittings):
        fittings = [f.model_dump(mode="json") for f in run.fittings]
        for fitting in fittings:
            fitting["kind"] = _LONG if fitting["kind"] == _SHORT else fitting["kind"]
        one, two = (prices.of(fitting_item(k, "", size.nominal).key) for k in (_SHORT, _LONG))
        costs = None if one is None or two is None else count * (two - one)
        row = "elbows", "short elbows", "long elbows", count, costs
        yield apply_edits(found.plan, [Edit(f"{path}.fittings", fittings)]), row
    wider = next(iter(run.bore.wider), None)
    if wider is None:
        return
    try:
        after = apply_edits(found.plan, [Edit(f"{path}.bore", wider.as_data)])
    except EditRefused:  # it does not go through its vessel's wall, say
        return
    one, two = (prices.of(pipe_item(s.standard, s.nominal).key) for s in (size, wider))
    length = found.runs[run.id].length
    costs = None if one is None or two is None else length * (two - one)
    yield after, ("bore", size.nominal, wider.nominal, 0, costs)


def _less(found: Evaluation, run: Run, changed: Plan) -> float:
    """Head that a run of a changed plan loses less at the flow as it is [m]."""
    flow, viscosity = abs(found.runs[run.id].flow), found.water.kinematic_viscosity
    lines = (line_of_run(plan, plan.part(run.id), viscosity) for plan in (found.plan, changed))
    now, then = (float(line.loss(np.array([flow]))[0][0]) for line in lines)
    return max(now - then, 0.0)
