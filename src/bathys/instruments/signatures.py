"""What instruments would read if something failed, and which failure fits what they read.

Each failure is simulated from the plan's periodic state on. Readings are compared by the least, the
greatest and the mean over a while, since nobody knows where in its cycle a bed was.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.edits.editing import EditRefused
from bathys.evaluation import Evaluation
from bathys.instruments.bands import Band, level_reading
from bathys.instruments.channels import CHANNEL_KINDS, Channel
from bathys.instruments.series import Series
from bathys.scenarios.failures import Failure, as_failed, failures_of
from bathys.scenarios.periodic_state import PeriodicState
from bathys.simulation.doings import always
from bathys.simulation.errors import NotSimulated
from bathys.simulation.result import Moment, SimulationResult
from bathys.simulation.valve_clocks import simulate

__all__ = [
    "Cause",
    "Signature",
    "causes_of",
    "reading_of",
    "signature_of",
    "signatures_of",
    "usual_readings",
]

Floats = NDArray[np.float64]

_SPANS = (0.1, 0.15, 0.25, 0.5, 2.0, 9.0)  # over each of which a flow is a mean [h]
_HOURS = sum(_SPANS)
_EVERY = 60.0  # [s]
_PHASES = (0, 3, 7)  # so many starts of siphons before the last, from which each is followed too
_MOST = 100  # that are followed
_LEAST_WHILE, _MOST_WHILE = 600.0, 10800.0  # over which readings are compared [s]
_FARTHEST = 3.0  # one reading that fits nothing counts no more than so many spreads
_FITS = 1.5  # a cause whose readings lie within so many spreads, in the mean, fits [-]
_BETTER = 4.0  # and its squares must come to so much less than those of all being well [-]
_LATE, _TRIED = 1800.0, 16  # it may have happened so long before, in so many steps [s]
_ANYWHERE = 0.2  # of a swing: nobody knows where in its cycle a bed was (assumed) [-]
_ANYWHERE_STILL = 0.5  # of the swing of one that stopped somewhere in it (assumed) [-]
_SHOWN = 3


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


@dataclass(frozen=True, slots=True)
class Cause:
    """A failure that fits what is read.

    Attributes
    ----------
    failure : Failure
        What failed
    distance : float
        How far its readings lie from those made, in spreads, [-]
    """

    failure: Failure
    distance: float


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


def causes_of(
    signatures: Sequence[Signature],
    channels: Sequence[Channel],
    bands: Mapping[str, Band],
    usual: Mapping[str, Series],
    series: Mapping[str, Series],
    since: float,
    now: float,
) -> tuple[Cause, ...]:
    """Failures that fit what is read, the closest first.

    Parameters
    ----------
    signatures : sequence of Signature
        What would be read
    channels : sequence of Channel
        What is measured
    bands : mapping of str to Band
        Between what is read while all is well
    usual : mapping of str to Series
        What is read while all is well, from :func:`usual_readings`
    series : mapping of str to Series
        What is read
    since, now : float
        From when on something was wrong, and the present moment, [s] of the readings' clock

    Returns
    -------
    tuple of Cause
        At most three; none where nothing fits, or all being well fits about as well
    """
    slowest = max((b.period for b in bands.values()), default=0.0)
    span = min(max(1.2 * slowest, _LEAST_WHILE), _MOST_WHILE)
    shown = max(now - since, _EVERY)
    span = min(span, max(shown, 0.5 * _LEAST_WHILE))
    telling = {key for s in signatures for key in s.values}
    read = {
        c.key: _features(last.values)
        for c in channels
        if c.key in telling
        and c.key in bands
        and c.key in series
        # Less than a whole cycle says nothing of one.
        and span >= bands[c.key].period
        and len(last := series[c.key].within(now - span, now)) > 1
    }
    if not read:
        return ()
    well, _ = _apart(
        {key: _extent(usual[key].values) for key in read if key in usual}, read, channels, bands
    )
    # It was seen some time after it happened: how long is not known.
    latest = min(shown + max(_LATE, 0.5 * shown), _HOURS * 3600.0)
    spans = np.linspace(min(shown, latest), latest, _TRIED)
    nearest = dict[Failure, float]()
    for signature in signatures:
        apart, count = min(_at(signature, float(ago), span, read, channels, bands) for ago in spans)
        if count and apart <= _FITS**2 * count and apart <= well - _BETTER:
            distance = math.sqrt(apart / count)
            failure = signature.failure
            nearest[failure] = min(distance, nearest.get(failure, math.inf))
    causes = (Cause(failure, distance) for failure, distance in nearest.items())
    return tuple(sorted(causes, key=lambda c: c.distance)[:_SHOWN])


_Features = tuple[float, float, float]


def _features(values: Floats) -> _Features:
    low, high = np.quantile(values, (0.03, 0.97))
    return float(low), float(high), float(np.mean(values))


def _extent(values: Floats) -> _Features:
    """The same of what has no noise."""
    return float(values.min()), float(values.max()), float(values.mean())


def _at(
    signature: Signature,
    ago: float,
    span: float,
    read: Mapping[str, _Features],
    channels: Sequence[Channel],
    bands: Mapping[str, Band],
) -> tuple[float, int]:
    """How far a failure that happened so long ago lies from what is read, as :func:`_apart`."""
    chosen = (signature.times > ago - span) & (signature.times <= ago)
    if not np.any(chosen):
        return math.inf, 0
    would = {k: _extent(v[chosen]) for k, v in signature.values.items() if k in read}
    return _apart(would, read, channels, bands)


def _apart(
    would: Mapping[str, _Features],
    read: Mapping[str, _Features],
    channels: Sequence[Channel],
    bands: Mapping[str, Band],
) -> tuple[float, int]:
    """Sum of the squares of what lies between, in spreads, and of how many [-]."""
    squares = []
    for channel in channels:
        if channel.key not in would or channel.key not in read:
            continue
        band = bands[channel.key]
        two = would[channel.key], read[channel.key]
        stands = band.cycle > 0.0 and all(high - low < 0.4 * band.cycle for low, high, _ in two)
        anywhere = (_ANYWHERE_STILL if stands else _ANYWHERE) * band.swing
        spread = max(CHANNEL_KINDS[channel.kind].spread, band.doubt, anywhere, 1e-9)
        for one, other in zip(*two, strict=True):
            squares.append(min(abs(one - other) / spread, _FARTHEST) ** 2)
    return sum(squares), len(squares)
