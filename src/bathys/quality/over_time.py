"""A plan between cleanings: filters and sludge grow day by day, until something goes wrong."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from bathys.evaluation import Evaluation, evaluate
from bathys.network import NotSolved
from bathys.parts.fouling import FOULING
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.quality.sludge import THICKNESS, sludge_of
from bathys.quality.solids import SolidsResult, solids_of

__all__ = ["HORIZON", "Happening", "Moment", "OverTime", "over_time"]

HORIZON = 120.0
"""Days that a plan is followed at most."""

_LOAD_STEP = 0.04  # of what a filter can hold, from one evaluation to the next
_LONGEST_STEP = 10.0  # [d]
_SHORTEST_STEP = 1.0 / 24.0  # [d]
_MOST_STEPS = 400
_SLIMED = 90.0  # days until pipes have the film of a season (assumed)
_LITTLE = 0.75  # of its flow at the beginning, from which on a fish tank has too little (judgement)
_GRAMS = 1000.0
_DAY = 86400.0
_GRAMS_A_M3 = 1e6
_LOST = 1e-3 / 3600.0  # a litre an hour over a rim is seen [m³/s]

Kind = Literal["past", "sludge", "film", "spills", "little_flow", "full"]


@dataclass(frozen=True, slots=True)
class Moment:
    """How a plan stands on one day.

    Attributes
    ----------
    day : float
        Since all was clean, [d]
    loads : dict of str to float
        Of each filter, by its run, [-]
    sludge : dict of str to float
        Height of the sludge over its mark's, by settler, [-]
    levels : dict of str to float
        Water over each vessel's floor, [m]
    flows : dict of str to float
        Through each fish tank over that at the beginning, [-]
    held : float
        Of the solids made, by settlers and filters, [-]
    """

    day: float
    loads: dict[str, float]
    sludge: dict[str, float]
    levels: dict[str, float]
    flows: dict[str, float]
    held: float


@dataclass(frozen=True, slots=True)
class Happening:
    """Something that happens on the way.

    Attributes
    ----------
    day : float
        Since all was clean, [d]
    kind : str
        Water goes ``past`` a filter, ``sludge`` stands at its mark, a ``film`` has grown, a filter
        is ``full``; or a harm: a vessel ``spills``, a fish tank has ``little_flow``
    place : str
        Id of the part; empty for all pipes
    """

    day: float
    kind: Kind
    place: str

    @property
    def is_harm(self) -> bool:
        """Whether it ends what is followed."""
        return self.kind in ("spills", "little_flow")


@dataclass(frozen=True, slots=True)
class OverTime:
    """A plan between cleanings.

    Attributes
    ----------
    moments : tuple of Moment
        Rising in days, the first clean
    happenings : tuple of Happening
        In the order of their days
    """

    moments: tuple[Moment, ...]
    happenings: tuple[Happening, ...]

    @property
    def harm(self) -> Happening | None:
        """The first harm; none within the days that are followed."""
        return next((h for h in self.happenings if h.is_harm), None)


def over_time(plan: Plan, is_wanted: Callable[[float], bool] = lambda share: True) -> OverTime:
    """Follow a plan from all clean until the first harm, with nobody cleaning a filter. Sludge is
    let out as often as the plan says.

    Parameters
    ----------
    plan : Plan
        The plan
    is_wanted : callable
        Told the share of the way, [-]; asked whether to go on

    Returns
    -------
    OverTime
        Evaluated anew whenever some filter's load has grown by 4 %

    Notes
    -----
    What is held a day is worked out in the steady state at each step: loads change over days, and
    water goes round in hours. Wall films come in the steps of the table of films.
    """
    found = evaluate(_loaded(plan, dict.fromkeys(_filtered(plan), 0.0), 0.0))
    began = {v: _through(found, v) for v in _tanks(plan)}
    loads = dict.fromkeys(_filtered(plan), 0.0)
    caught: dict[str, float] = {}
    purges = _purges(plan)
    moments: list[Moment] = []
    happened: dict[tuple[Kind, str], float] = {}
    day = 0.0
    for _ in range(_MOST_STEPS):
        solids = solids_of(found)
        moments.append(_moment(day, loads, caught, found, solids, began))
        for kind, place in _seen(moments[-1], found, solids, day):
            happened.setdefault((kind, place), day)
        if any(Happening(day, k, p).is_harm for k, p in happened) or day >= HORIZON:
            break
        if not is_wanted(day / HORIZON):
            break
        step = _step(day, loads, found, solids)
        loads = {
            id_: min(load + step * solids.held(id_) / _capacity(plan, id_), 0.95)
            for id_, load in loads.items()
        }
        for settler in solids.settlers:
            id_ = settler.vessel.id
            let_out = sum(
                ((day + step) // every - day // every) * dry for every, dry in purges.get(id_, ())
            )
            caught[id_] = max(caught.get(id_, 0.0) + step * solids.held(id_) - let_out, 0.0)
        day = min(day + step, HORIZON)
        try:
            found = evaluate(_loaded(plan, loads, day))
        except NotSolved:
            break
    rows = (Happening(day, kind, place) for (kind, place), day in happened.items())
    return OverTime(tuple(moments), tuple(sorted(rows, key=lambda h: (h.day, h.is_harm))))


def _filtered(plan: Plan) -> list[str]:
    return [r.id for r in plan.runs if r.filter is not None]


def _tanks(plan: Plan) -> list[str]:
    return [v.id for v in plan.vessels if v.use.keeps_fish]


def _purges(plan: Plan) -> dict[str, list[tuple[float, float]]]:
    """After how many days sludge of each settler is let out, by its clocks, and how much of it dry
    at most [g]."""
    found: dict[str, list[tuple[float, float]]] = {}
    for transfer in plan.transfers:
        for move in plan.moves:
            if move.id == transfer.id and move.source == transfer.takes_sludge:
                dry = THICKNESS[0] * _GRAMS_A_M3 * move.volume
                found.setdefault(str(move.source), []).append((move.every / _DAY, dry))
    return found


def _capacity(plan: Plan, id_: str) -> float:
    """What a run's filter can hold [g]."""
    return _GRAMS * float(plan.part(id_).filter.capacity)


def _through(found: Evaluation, tank: str) -> float:
    return max(found.vessels[tank].inflow, 1e-12)


def _loaded(plan: Plan, loads: dict[str, float], day: float) -> Plan:
    """The plan with its filters loaded so far, and its pipes slimed after a season."""
    season = FOULING["season"]

    def grown(run: Run) -> Run:
        changes: dict[str, object] = {}
        if run.id in loads and run.filter is not None:
            changes["filter"] = run.filter.loaded_to(loads[run.id])
        if day >= _SLIMED and run.wall.thickness < season.thickness:
            changes |= {"fouling": "season", "film": None}
        return run.model_copy(update=changes) if changes else run

    return plan.model_copy(update={"runs": tuple(grown(r) for r in plan.runs)})


def _moment(
    day: float,
    loads: dict[str, float],
    caught: dict[str, float],
    found: Evaluation,
    solids: SolidsResult,
    began: dict[str, float],
) -> Moment:
    marks = {}
    for settler in solids.settlers:
        sludge = sludge_of(solids, settler.vessel)
        if sludge is not None and sludge.days and sludge.dry > 0.0:
            marks[settler.vessel.id] = caught.get(settler.vessel.id, 0.0) / (
                sludge.dry * sludge.days
            )
    places = [s.vessel.id for s in solids.settlers] + list(loads)
    return Moment(
        day,
        dict(loads),
        marks,
        {id_: v.levels.high - v.vessel.floor_height for id_, v in found.vessels.items()},
        {id_: _through(found, id_) / first for id_, first in began.items()},
        sum(solids.held(p) for p in places) / solids.made if solids.made > 0.0 else 0.0,
    )


def _seen(
    moment: Moment, found: Evaluation, solids: SolidsResult, day: float
) -> list[tuple[Kind, str]]:
    """What is to be told of a day."""
    rows: list[tuple[Kind, str]] = [
        ("past", r.run.id) for r in solids.filters if r.through < 1.0 - 1e-9
    ]
    rows += [("full", r.run.id) for r in solids.filters if r.filter.is_full]
    rows += [("sludge", id_) for id_, share in moment.sludge.items() if share >= 1.0]
    if day >= _SLIMED:
        rows.append(("film", ""))
    rows += [("spills", id_) for id_, v in found.vessels.items() if v.spill > _LOST]
    rows += [("little_flow", id_) for id_, share in moment.flows.items() if share < _LITTLE]
    return rows


def _step(day: float, loads: dict[str, float], found: Evaluation, solids: SolidsResult) -> float:
    """Days to the next look: until some load has grown by a step, a film is there, or the end."""
    ends = [HORIZON - day, _LONGEST_STEP]
    if day < _SLIMED:
        ends.append(_SLIMED - day)
    for result in solids.filters:
        held = solids.held(result.run.id)
        if held > 0.0 and not result.filter.is_full:
            capacity = _GRAMS * result.filter.capacity
            growth = _LOAD_STEP * max(1.0 - loads[result.run.id], 0.2)
            ends.append(growth * capacity / held)
    for settler in solids.settlers:
        sludge = sludge_of(solids, settler.vessel)
        if sludge is not None and sludge.days is not None:
            ends.append(max(0.25 * sludge.days, 1.0))
    step = min(e for e in ends if e > 0.0 and math.isfinite(e))
    return max(step, _SHORTEST_STEP)
