"""What goes by the clock in a week: pumps, valves, water moved, and what is done by hand."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from bathys.evaluation.result import Evaluation
from bathys.plan.model import Plan
from bathys.plan.supply import Visit
from bathys.plan.switch import Clock

__all__ = ["WEEK", "Timed", "week_of"]

WEEK = 604_800.0
"""Seconds of a week [s]."""

_MOST = 80  # stretches of one part that are drawn each; more run into one another
_DAY = 86400.0
Stretch = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Timed:
    """Something that goes by the clock.

    Attributes
    ----------
    part : str
        Id of the part
    kind : str
        ``pump``, ``valve``, ``water`` that is moved, or ``hand``
    stretches : tuple of (float, float)
        When it is on in the first week, from and to, [s]
    is_dense : bool
        Whether there are too many of them to be told apart: they are then the spans that hold them
    hours : float
        How long it is on in a week, [h]
    energy : float
        Of a pump, in a week, [kWh]
    volume : float
        Water moved in a week, [m³]
    """

    part: str
    kind: Literal["pump", "valve", "water", "hand"]
    stretches: tuple[Stretch, ...]
    is_dense: bool
    hours: float
    energy: float = 0.0
    volume: float = 0.0


def week_of(found: Evaluation) -> tuple[Timed, ...]:
    """Everything of a plan that goes by the clock, over its first week.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    tuple of Timed
        Pumps, valves, water moved, hands; in the plan's order
    """
    plan = found.plan
    return (*_pumps(found), *_valves(plan), *_moved(plan), *_hands(plan))


def _pumps(found: Evaluation) -> Iterator[Timed]:
    for pump in found.plan.pumps:
        if pump.clock is None:
            continue
        hours = pump.clock.share * WEEK / 3600.0
        duty = found.duties.get(pump.id)
        watts = duty.power if duty is not None else 0.0
        volume = duty.flow * pump.clock.share * WEEK if duty is not None else 0.0
        drawn, is_dense = _drawn(_of_clock(pump.clock))
        yield Timed(pump.id, "pump", drawn, is_dense, hours, watts * hours / 1000.0, volume)


def _valves(plan: Plan) -> Iterator[Timed]:
    for run in plan.runs:
        if run.opens_by is not None:
            drawn, is_dense = _drawn(_of_clock(run.opens_by))
            yield Timed(run.id, "valve", drawn, is_dense, run.opens_by.share * WEEK / 3600.0)


def _moved(plan: Plan) -> Iterator[Timed]:
    for transfer in plan.transfers:
        own = [m for m in plan.moves if m.id == transfer.id]
        spans = sorted(s for m in own for s in _again(m.at, m.every, m.lasts))
        drawn, is_dense = _drawn(spans)
        volume = sum(m.volume * WEEK / m.every for m in own) / max(len(own), 1)
        hours = sum(m.lasts * WEEK / m.every for m in own) / 3600.0
        yield Timed(transfer.id, "water", drawn, is_dense, hours, volume=volume)


def _hands(plan: Plan) -> Iterator[Timed]:
    for top_up in plan.top_ups:
        visit: Visit | None = top_up.visit
        if visit is not None:
            drawn, is_dense = _drawn(_again(visit.at, visit.every, visit.lasts))
            yield Timed(top_up.id, "hand", drawn, is_dense, 0.0)


def _of_clock(clock: Clock) -> list[Stretch]:
    """Its spells in a week."""
    turns = int(WEEK // clock.turn) + 1
    spans = (
        (k * clock.turn + a, k * clock.turn + b) for k in range(turns) for a, b in clock.spells
    )
    return _joined((a, min(b, WEEK)) for a, b in spans if a < WEEK)


def _again(at: float, every: float, lasts: float) -> list[Stretch]:
    """A span that comes again and again, within a week."""
    times = []
    begin = at
    while begin < WEEK:
        times.append((begin, min(begin + lasts, WEEK)))
        begin += every
    return times


def _joined(spans: Iterator[Stretch]) -> list[Stretch]:
    found: list[Stretch] = []
    for begin, end in spans:
        if found and begin <= found[-1][1] + 1e-6:
            found[-1] = (found[-1][0], end)
        else:
            found.append((begin, end))
    return found


def _drawn(spans: list[Stretch]) -> tuple[tuple[Stretch, ...], bool]:
    """Spans as they are drawn, and whether they run into one another: then by the day, from the
    first of it to the last."""
    if len(spans) <= _MOST:
        return tuple(spans), False
    days: dict[int, Stretch] = {}
    for begin, end in spans:
        day = int(begin // _DAY)
        first, last = days.get(day, (begin, end))
        days[day] = (min(first, begin), max(last, end))
    return tuple(days.values()), True
