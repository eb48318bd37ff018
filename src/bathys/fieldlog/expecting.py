"""What an entry measured, what the plan expects there, and how far they are apart."""

import math
import statistics
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from bathys.build import BUCKET, Reading, readings_of
from bathys.evaluation import Evaluation
from bathys.quality.solids import solids_of

__all__ = ["Expected", "Measured", "Verdict", "expected_of", "held_against", "measured_of"]

Verdict = Literal["within", "at the edge", "outside"]

_SPREADS_OF_BAND = 2.0  # half a band of the commissioning card is so many spreads
_TIMED_ONCE = 0.05  # of a bucket that was timed only once (assumed) [-]
_BY_HAND = 0.5  # of a stopwatch in the hand (common practice) [s]
_READ = {"watts": 0.03, "feed": 0.03, "netted": 0.05}  # spread of scales and meters (assumed) [-]
_TAPE = 0.005  # spread of a level read by tape (assumed) [m]
_HOSE = 0.02  # spread of a hose held up (assumed) [m]
_LABEL = 0.05  # spread of a label's head (assumed) [-]
_BUCKETS = ("bucket", "starts", "stops")
_MINUTES = 10.0  # spread of a cycle noted by the clock (assumed) [s]


@dataclass(frozen=True, slots=True)
class Measured:
    """What an entry came to.

    Attributes
    ----------
    value, spread : float
        The figure and its standard spread, in the SI unit of its kind
    """

    value: float
    spread: float


@dataclass(frozen=True, slots=True)
class Expected:
    """What the plan expects.

    Attributes
    ----------
    value, spread : float
        The figure and its standard spread, in the SI unit of its kind
    """

    value: float
    spread: float


def measured_of(
    kind: str, part: str, values: Mapping[str, Any], found: Evaluation
) -> Measured | None:
    """The figure that an entry came to.

    Parameters
    ----------
    kind : str
        Key of its kind
    part : str
        Id of the part it was made at
    values : mapping of str to object
        From :func:`~bathys.fieldlog.read_entry`, in SI
    found : Evaluation
        The numbers of the plan

    Returns
    -------
    Measured or None
        None for what is no measurement, or of a part that is not there
    """
    if kind in _BUCKETS:
        times = [float(t) for t in values["times"]]
        mean = statistics.fmean(times)
        once = max(_BY_HAND, _TIMED_ONCE * mean)
        spread = statistics.stdev(times) if len(times) > 1 else once
        spread = max(spread, _BY_HAND) / math.sqrt(len(times))
        flow = float(values["volume"]) / mean
        return Measured(flow, flow * spread / mean)
    if kind == "cycle":
        return Measured(float(values["period"]), _MINUTES)
    if kind == "level" and part in found.vessels:
        return Measured(float(values["below"]), _TAPE)
    if kind == "lift":
        return Measured(float(values["height"]), _HOSE)
    if kind == "netted":
        each = float(values["mass"]) / float(values["count"])
        return Measured(each, _READ[kind] * each)
    plain = {"watts": "power", "feed": "mass"}.get(kind)
    if plain is None:
        return None
    return Measured(float(values[plain]), _READ[kind] * float(values[plain]))


def expected_of(kind: str, part: str, found: Evaluation) -> Expected | None:
    """What the plan expects of a measurement.

    Parameters
    ----------
    kind : str
        Key of the kind of entry
    part : str
        Id of the part
    found : Evaluation
        The numbers of the plan

    Returns
    -------
    Expected or None
        None where the plan says nothing of it
    """
    rows: dict[tuple[str, str], Reading] = {(r.what, r.part): r for r in readings_of(found)}
    if kind == "bucket" and ("bucket", part) in rows:
        row = rows["bucket", part]
        flow = BUCKET / row.expected
        return Expected(flow, (BUCKET / row.low - BUCKET / row.high) / 2.0 / _SPREADS_OF_BAND)
    if kind in ("cycle", "watts") and (kind, part) in rows:
        row = rows[kind, part]
        return Expected(row.expected, (row.high - row.low) / 2.0 / _SPREADS_OF_BAND)
    if kind == "level" and ("low", part) in rows and ("high", part) in rows:
        low, high = rows["low", part], rows["high", part]
        below = found.plan.vessel(part).shape.height - 0.5 * (low.expected + high.expected)
        # Anywhere between the two marks, each with its own doubt.
        swing = (high.expected - low.expected) / math.sqrt(12.0)
        doubt = (low.high - low.low) / 2.0 / _SPREADS_OF_BAND
        return Expected(below, math.hypot(swing, doubt))
    if kind == "feed":
        return _feed(part, found)
    if kind in ("starts", "stops"):
        return _of_window(kind, part, found)
    if kind == "lift" and part in found.duties:
        most = found.duties[part].shut_off_head
        return Expected(most, _LABEL * most)
    return None


def _of_window(kind: str, part: str, found: Evaluation) -> Expected | None:
    """The least or the most flow at which a bed's siphon works."""
    bed = found.bed(part)
    if bed is None:
        return None
    window = bed.cycle.window
    band = window.start if kind == "starts" else window.stop
    return Expected(band.value, (band.high - band.low) / 2.0 / _SPREADS_OF_BAND)


def _feed(part: str, found: Evaluation) -> Expected | None:
    """A cohort's share of the feed that is planned for a day."""
    total = solids_of(found).feed
    weights = {c.id: c.mass for c in found.plan.fish}
    if total <= 0.0 or part not in weights or sum(weights.values()) <= 0.0:
        return None
    share = total * weights[part] / sum(weights.values())
    return Expected(share, 0.15 * share)


def held_against(measured: Measured, expected: Expected) -> tuple[float, Verdict]:
    """How far a measurement lies off what was expected.

    Parameters
    ----------
    measured : Measured
        What was measured
    expected : Expected
        What was expected, in the same unit

    Returns
    -------
    (float, Verdict)
        Difference over the spread of both, [-]; within one of them, up to two at the edge, beyond
        that outside
    """
    spread = math.hypot(measured.spread, expected.spread)
    z = (measured.value - expected.value) / spread if spread > 0.0 else 0.0
    verdict: Verdict = "within" if abs(z) < 1.0 else "at the edge" if abs(z) <= 2.0 else "outside"
    return z, verdict
