"""What instruments would read if something failed: each failure simulated from the plan's periodic
state on."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.edits.editing import EditRefused
from bathys.evaluation import Evaluation
from bathys.instruments.bands import level_reading
from bathys.instruments.channels import Channel
from bathys.instruments.series import Series
from bathys.scenarios.failures import Failure, as_failed, failures_of
from bathys.scenarios.periodic_state import PeriodicState
from bathys.simulation.doings import always
from bathys.simulation.errors import NotSimulated
from bathys.simulation.result import Moment, SimulationResult
from bathys.simulation.valve_clocks import simulate

__all__ = [
    "SIGNATURE_TIME",
    "Signature",
    "reading_of",
    "signature_of",
    "signatures_of",
    "usual_readings",
]

Floats = NDArray[np.float64]

_SPANS = (0.1, 0.15, 0.25, 0.5, 2.0, 9.0)  # over each of which a flow is a mean [h]
SIGNATURE_TIME = 3600.0 * sum(_SPANS)
"""A failure is followed for so long [s]."""
_EVERY = 60.0  # [s]
_PHASES = (0, 3, 7)  # so many starts of siphons before the last, from which each is followed too
_MOST = 100  # that are followed


@dataclass(frozen=True)
class Signature:
    """What instruments would read after a failure.

    Attributes
    ----------
    failure : Failure
        What fails
    times : array
        After it, shape (samples,), [s]
    values : dict of str to array
        By channel, shape (samples,), [the engine's unit of the quantity]
    """

    failure: Failure
    times: Floats
    values: Mapping[str, Floats]


def signature_of(
    found: Evaluation,
    periodic: PeriodicState,
    channels: Sequence[Channel],
    failure: Failure,
    is_wanted: Callable[[float], bool] = always,
    since: Moment | None = None,
) -> Signature | None:
    """What instruments would read after one failure.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    periodic : PeriodicState
        The same followed until it repeats itself
    channels : sequence of Channel
        What is measured
    failure : Failure
        What fails
    is_wanted : callable
        Asked now and then whether to go on
    since : Moment, optional
        When it fails; where the periodic state was left if not told

    Returns
    -------
    Signature or None
        For half a day; None for what is not followed
    """
    parts, since = list[SimulationResult](), since or periodic.through.end
    try:
        changed, doings = as_failed(found.plan, failure)
        for hours in _SPANS:
            parts.append(simulate(changed, hours, doings, _EVERY, since, is_wanted))
            since = parts[-1].end
    except (EditRefused, NotSimulated, ArithmeticError, KeyError):
        return None
    values = dict[str, Floats]()
    for channel in channels:
        told = [reading_of(found, periodic, part, failure, channel) for part in parts]
        if all(t is not None for t in told):
            values[channel.key] = np.concatenate([t for t in told if t is not None])
    times = np.concatenate([p.times for p in parts])
    return Signature(failure, times - times[0], values)


def signatures_of(
    found: Evaluation,
    periodic: PeriodicState,
    channels: Sequence[Channel],
    is_wanted: Callable[[float], bool] = always,
) -> tuple[Signature, ...]:
    """What instruments would read after each failure of a plan.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    periodic : PeriodicState
        The same followed until it repeats itself
    channels : sequence of Channel
        What is measured
    is_wanted : callable
        Asked now and then whether to go on

    Returns
    -------
    tuple of Signature
        Each failure from some moments of the cycles; without failures that are not followed, and
        without those that show only in a power cut
    """
    tried = [f for f in failures_of(found.plan) if f.kind != "stuck_open"][:_MOST]
    starts = periodic.starts()
    others = [starts[-1 - n] for n in _PHASES if n < len(starts)]
    moments = [periodic.through.end, *others[: _MOST // max(len(tried), 1)]]
    all_ = (
        signature_of(found, periodic, channels, f, is_wanted, m) for f in tried for m in moments
    )
    return tuple(s for s in all_ if s is not None)


def usual_readings(
    found: Evaluation, periodic: PeriodicState, channels: Sequence[Channel]
) -> dict[str, Series]:
    """What instruments read while all is well.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    periodic : PeriodicState
        The same followed until it repeats itself
    channels : sequence of Channel
        What is measured

    Returns
    -------
    dict of str to Series
        By channel, over the time in which it repeats itself; without what is not followed
    """
    times = periodic.through.times
    repeats = times >= periodic.since
    usual = dict[str, Series]()
    for channel in channels:
        told = reading_of(found, periodic, periodic.through, None, channel)
        if told is not None:
            usual[channel.key] = Series(times[repeats] - times[repeats][0], told[repeats])
    return usual


def reading_of(
    found: Evaluation,
    periodic: PeriodicState,
    through: SimulationResult,
    failure: Failure | None,
    channel: Channel,
) -> Floats | None:
    """What one instrument would read of a plan that is followed.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan
    periodic : PeriodicState
        The same followed until it repeats itself
    through : SimulationResult
        What is followed
    failure : Failure or None
        What fails in it
    channel : Channel
        What is measured

    Returns
    -------
    array or None
        Shape (samples of ``through``,), [the engine's unit of the quantity]; None for what is not
        followed. A flow is its mean over all of it
    """
    plan, part = found.plan, channel.part
    if channel.kind in ("level", "below", "contact") and part in through.nodes:
        heights = through.level(part) - plan.vessel(part).floor_height
        if channel.kind == "level":
            return np.asarray(heights)
        return np.array([level_reading(plan, channel, float(z)) for z in heights])
    if channel.kind == "watts" and part in found.duties:
        is_dead = failure is not None and failure.kind == "dead" and failure.place == part
        power = 0.0 if is_dead else found.duties[part].power
        return np.full(len(through.times), power)
    if channel.kind == "flow" and part in through.carried:
        usual = abs(periodic.through.carried.get(part, 0.0)) / _length(periodic.through)
        now = abs(through.carried[part]) / _length(through)
        flow = next((d.flow for d in found.deliveries if d.run == part), 0.0)
        return np.full(len(through.times), flow * (now / usual if usual > 0.0 else 0.0))
    return None


def _length(through: SimulationResult) -> float:
    return float(through.times[-1] - through.times[0])
