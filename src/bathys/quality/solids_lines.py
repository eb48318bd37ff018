"""Where waste goes by pipe before something settles it."""

from collections.abc import Collection
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.plan.pipes import Run

__all__ = [
    "SETTLER_FALL",
    "Fall",
    "SolidsLine",
    "falls_to",
    "reached_from",
    "solids_lines",
    "time_shut",
]

SETTLER_FALL = 0.1
"""Least fall from a tank's water to its settler's (common practice) [m]."""

_STILL = 1e-9  # flow that carries nothing [m³/s]


@dataclass(frozen=True, slots=True)
class SolidsLine:
    """A run that carries waste which nothing has settled yet.

    Attributes
    ----------
    run : Run
        The run
    tank : str
        Fish tank it comes from
    speed : float
        Of its water, [m/s]
    is_pumped : bool
        Whether a pump stands before it
    has_clean_out : bool
        Whether it can be opened to clean it
    """

    run: Run
    tank: str
    speed: float
    is_pumped: bool
    has_clean_out: bool


def solids_lines(found: Evaluation) -> tuple[SolidsLine, ...]:
    """Every run between a fish tank and the first vessel behind it, through tees and joints, the
    risers of a pump in the tank included.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of SolidsLine
        In the plan's order
    """
    plan = found.plan
    pressed = found.balance.layout.pressure
    lines: dict[str, SolidsLine] = {}
    for tank in (v.id for v in plan.vessels if v.use.keeps_fish):
        for run in _runs_from(found, tank):
            lines.setdefault(
                run.id,
                SolidsLine(
                    run,
                    tank,
                    found.runs[run.id].velocity,
                    run.id in pressed,
                    any(f.kind == "clean_out" for f in run.fittings),
                ),
            )
    return tuple(lines[r.id] for r in plan.runs if r.id in lines)


def reached_from(found: Evaluation, tank: str, *, by_itself: bool = False) -> set[str]:
    """Vessels that a tank's water comes to first.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    tank : str
        Id of the tank
    by_itself : bool
        Whether only what runs without a pump counts

    Returns
    -------
    set of str
        Ids of vessels
    """
    pressed: Collection[str] = found.balance.layout.pressure if by_itself else ()
    runs = _runs_from(found, tank, pressed)
    return {r.target for r in runs if found.plan.group_of(r.target) == "vessels"}


def _runs_from(found: Evaluation, tank: str, without: Collection[str] = ()) -> list[Run]:
    """Runs from a tank to the next vessels, through joints."""
    plan, seen, waiting, runs = found.plan, set[str](), [tank], []
    while waiting:
        here = waiting.pop()
        if here in seen:
            continue
        seen.add(here)
        for run in plan.runs:
            if run.id in without or found.runs[run.id].flow <= _STILL:
                continue
            if here in (run.start, plan.owner_of(run.start)):
                runs.append(run)
                if plan.group_of(run.target) != "vessels":
                    waiting.append(run.target)
    return runs


def time_shut(found: Evaluation, settler: str) -> tuple[str, float] | None:
    """How long the way to a settler may stay shut before a tank above it runs over.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    settler : str
        Id of the settler

    Returns
    -------
    (str, float) or None
        The tank that runs over first, and after how long, [s]; none if no tank drains into it
    """
    times = []
    for vessel in (v for v in found.plan.vessels if v.use.keeps_fish):
        if settler not in reached_from(found, vessel.id, by_itself=True):
            continue
        result = found.vessels[vessel.id]
        level = result.levels.high - vessel.floor_height
        room = vessel.shape.holds(vessel.shape.height) - vessel.shape.holds(level)
        if result.inflow > _STILL:
            times.append((vessel.id, room / result.inflow))
    return min(times, key=lambda row: row[1], default=None)


@dataclass(frozen=True, slots=True)
class Fall:
    """From a tank's water down to its settler's.

    Attributes
    ----------
    tank : str
        Id of the tank
    fall : float
        From the tank's low water to the settler's high, [m]
    lost : float
        Head that the runs between take, valves and filters included, [m]
    deeper : float
        By how much the settler is to stand deeper, or the tank higher, [m]; 0 if the fall does
    """

    tank: str
    fall: float
    lost: float
    deeper: float


def falls_to(found: Evaluation, settler: str) -> tuple[Fall, ...]:
    """How far the water falls from each tank that drains into a settler.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    settler : str
        Id of the settler

    Returns
    -------
    tuple of Fall
        In the plan's order
    """
    falls, high = [], found.vessels[settler].levels.high
    for vessel in (v for v in found.plan.vessels if v.use.keeps_fish):
        if settler not in reached_from(found, vessel.id, by_itself=True):
            continue
        fall = found.vessels[vessel.id].levels.low - high
        lost = sum(found.runs[r.id].loss for r in _way(found, vessel.id, settler))
        falls.append(Fall(vessel.id, fall, lost, max(SETTLER_FALL - fall, 0.0)))
    return tuple(falls)


def _way(found: Evaluation, tank: str, settler: str) -> list[Run]:
    """Runs from a tank to its settler, without a pump."""
    last = {r.target: r for r in _runs_from(found, tank, found.balance.layout.pressure)}
    way, here = list[Run](), settler
    while here in last:
        run = last.pop(here)
        way.append(run)
        here = run.start
    return way
