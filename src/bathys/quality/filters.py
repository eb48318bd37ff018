"""Filters on runs: what goes through them, what they lose, and how soon they clog."""

from collections.abc import Mapping
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.halving import least
from bathys.plan.filter import Filter
from bathys.plan.pipes import Run

__all__ = [
    "Due",
    "FilterResult",
    "due_of",
    "filter_results",
    "load_at_head",
    "rises_in",
    "shares_held",
]

_STILL = 1e-9  # flow that carries nothing [m³/s]
_GRAMS = 1000.0
_HALVINGS = 30
_MOST_LOADED = 0.8
"""Loaded so far a filter is cleaned whatever else: from there its resistance runs away (assumed)
[-]."""


@dataclass(frozen=True, slots=True)
class FilterResult:
    """What a filter does as it stands.

    Attributes
    ----------
    run : Run
        The run that it is on
    filter : Filter
        The filter
    flow : float
        That comes to it, [m³/s]
    through : float
        Share of that which goes through it and not past, [-]
    head : float
        That it loses, [m]
    rises_in : str
        Vessel whose water it raises as it clogs; empty where a pump presses through it
    room : float
        What that vessel's water may yet rise under its freeboard, [m]
    """

    run: Run
    filter: Filter
    flow: float
    through: float
    head: float
    rises_in: str
    room: float


@dataclass(frozen=True, slots=True)
class Due:
    """When a filter is to be cleaned, from clean.

    Attributes
    ----------
    days : float or None
        Until then; none for one that holds nothing
    why : str
        ``past`` when water goes past it, ``high`` when a vessel stands at its freeboard, ``full``
        when it can hold little more
    load : float
        How far it is loaded then, [-]
    """

    days: float | None
    why: str
    load: float


def filter_results(found: Evaluation) -> tuple[FilterResult, ...]:
    """Every filter of a plan that water comes to.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of FilterResult
        In the order of their runs
    """
    rows = []
    viscosity = found.water.kinematic_viscosity
    for run in found.plan.runs:
        flow = abs(found.runs[run.id].mean_flow)
        if run.filter is None or flow <= _STILL:
            continue
        through = run.filter.share_through(flow, viscosity)
        linear, squared = run.filter.resistance(viscosity)
        head = min(flow * (linear + flow * squared), run.filter.most_head)
        vessel, room = rises_in(found, run)
        rows.append(FilterResult(run, run.filter, flow, through, head, vessel, room))
    return tuple(rows)


def rises_in(found: Evaluation, run: Run) -> tuple[str, float]:
    """The vessel whose water a clogging filter raises.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    run : Run
        The run that it is on

    Returns
    -------
    (str, float)
        Id of the vessel, empty where a pump presses through the filter; and what its water may yet
        rise under its freeboard, [m]
    """
    plan = found.plan
    owner = plan.owner_of(run.start)
    if run.id in found.balance.layout.pressure or owner is None:
        return "", 0.0
    vessel = plan.vessel(owner)
    level = found.vessels[owner].levels.high - vessel.floor_height
    return owner, max(vessel.shape.height - vessel.freeboard - level, 0.0)


def load_at_head(filter_: Filter, flow: float, head: float, viscosity: float) -> float:
    """How far a filter is loaded when it takes a head to press a flow through it.

    Parameters
    ----------
    filter_ : Filter
        The filter
    flow : float
        The flow, [m³/s]
    head : float
        The head, [m]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    float
        Its load, at most what is reckoned with, [-]
    """

    def takes_it(load: float) -> bool:
        linear, squared = filter_.loaded_to(load).resistance(viscosity)
        return flow * (linear + flow * squared) >= head

    return 0.0 if takes_it(0.0) else least(takes_it, 0.0, _MOST_LOADED, _HALVINGS)


def due_of(result: FilterResult, held: float, viscosity: float) -> Due:
    """When a filter is to be cleaned, the flow and what it holds a day as they are now.

    Parameters
    ----------
    result : FilterResult
        The filter
    held : float
        Dry solids that it holds a day, [g]
    viscosity : float
        Kinematic viscosity of the water, [m²/s]

    Returns
    -------
    Due
        From clean
    """
    filter_, flow = result.filter, result.flow
    marks = {"full": _MOST_LOADED}
    if filter_.past_head > 0.0:
        marks["past"] = load_at_head(filter_, flow, filter_.past_head, viscosity)
    if result.rises_in:
        head = result.head + result.room
        marks["high"] = load_at_head(filter_, flow, head, viscosity)
    why = min(marks, key=lambda key: (marks[key], key == "full"))
    load = marks[why]
    capacity = _GRAMS * filter_.capacity
    return Due(load * capacity / held if held > 1e-6 else None, why, load)


def shares_held(results: tuple[FilterResult, ...], grain: float) -> Mapping[str, float]:
    """Share of a grain that each filter holds of what comes to it.

    Parameters
    ----------
    results : tuple of FilterResult
        The plan's filters
    grain : float
        Size of the grain, [m]

    Returns
    -------
    mapping of str to float
        By the id of the run, [-]
    """
    return {r.run.id: r.through * r.filter.holds(grain) for r in results}
