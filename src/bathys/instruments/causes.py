"""Which failure fits what instruments read.

Readings since something was wrong are compared with what they would be after each failure: by the
least, the greatest and the mean of whole cycles, since nobody knows where in its cycle a bed was.
Of less than a cycle only what lies beyond all that the cycle reaches tells anything.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.instruments.bands import Band
from bathys.instruments.channels import CHANNEL_KINDS, Channel
from bathys.instruments.series import Series
from bathys.instruments.signatures import SIGNATURE_TIME, Signature
from bathys.scenarios.failures import Failure

__all__ = ["Cause", "causes_of"]

Floats = NDArray[np.float64]

_LEAST_WHILE, _MOST_WHILE = 600.0, 10800.0  # over which readings are compared [s]
_SHORTEST = 60.0  # that tells anything [s]
_FARTHEST = 3.0  # one reading that fits nothing counts no more than so many spreads
_FITS = 1.5  # a cause whose readings lie within so many spreads, in the mean, fits [-]
_BETTER = 4.0  # one fits better than another whose squares come to so much more [-]
_LATE, _TRIED = 1800.0, 16  # it may have happened so long before, in so many steps [s]
_ANYWHERE = 0.2  # of a swing: nobody knows where in its cycle a bed was (assumed) [-]
_ANYWHERE_STILL = 0.5  # of the swing of one that stopped somewhere in it (assumed) [-]
_LOOKS, _BETWEEN = 3, 60.0  # so many, so far apart, must agree (assumed) [s]
_SHOWN = 3


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


@dataclass(frozen=True, slots=True)
class _Extent:
    """What was read over a while, or would be [the engine's unit of the quantity]."""

    low: float
    high: float
    mean: float


def causes_of(
    signatures: Sequence[Signature],
    channels: Sequence[Channel],
    bands: Mapping[str, Band],
    usual: Mapping[str, Series],
    series: Mapping[str, Series],
    since: float,
    now: float,
) -> tuple[Cause, ...]:
    """Failures that fit what is read, the closest first, once readings tell them apart.

    Parameters
    ----------
    signatures : sequence of Signature
        What would be read
    channels : sequence of Channel
        What is measured
    bands : mapping of str to Band
        Between what is read while all is well
    usual : mapping of str to Series
        What is read while all is well, from :func:`~bathys.instruments.usual_readings`
    series : mapping of str to Series
        What is read
    since, now : float
        From when on something was wrong, and the present moment, [s] of the readings' clock

    Returns
    -------
    tuple of Cause
        At most three, which fit about as well as each other now and did so a minute and two
        minutes ago. None where nothing fits, where all being well fits about as well, or where
        more than three fit about as well
    """
    looks = list[dict[Failure, Cause]]()
    for back in range(_LOOKS):
        compared = _Compared(channels, bands, usual, series, since, now - back * _BETWEEN)
        alike = compared.causes(signatures)
        if not alike or len(alike) > _SHOWN:
            return ()
        looks.append({cause.failure: cause for cause in alike})
    lasting = set.intersection(*(set(look) for look in looks))
    return tuple(cause for failure, cause in looks[0].items() if failure in lasting)


class _Compared:
    """What was read until a moment, to be held against what would be."""

    def __init__(
        self,
        channels: Sequence[Channel],
        bands: Mapping[str, Band],
        usual: Mapping[str, Series],
        series: Mapping[str, Series],
        since: float,
        now: float,
    ) -> None:
        slowest = max((b.period for b in bands.values()), default=0.0)
        self._shown = max(now - since, _SHORTEST)
        # What was read before anything was wrong says nothing of it.
        self._span = min(max(1.2 * slowest, _LEAST_WHILE), _MOST_WHILE, self._shown)
        self._bands = bands
        self._spreads = {c.key: CHANNEL_KINDS[c.kind].spread for c in channels}
        self._usual = {key: _extent(told.values) for key, told in usual.items()}
        self._read = {
            c.key: _read_extent(last.values)
            for c in channels
            if c.key in usual
            and c.key in bands
            and c.key in series
            and len(last := series[c.key].within(now - self._span, now)) > 1
        }

    def causes(self, signatures: Sequence[Signature]) -> list[Cause]:
        """Those that fit about as well as the closest, and better than all being well."""
        if not self._read:
            return []
        well, _ = self._apart(self._usual)
        # It was seen some time after it happened: how long is not known.
        latest = min(self._shown + max(_LATE, 0.5 * self._shown), SIGNATURE_TIME)
        agos = np.linspace(min(self._shown, latest), latest, _TRIED)
        fits = dict[Failure, tuple[float, int]]()
        for signature in signatures:
            apart, count = min(self._at(signature, float(ago)) for ago in agos)
            failure = signature.failure
            if count and apart <= _FITS**2 * count and apart <= well - _BETTER:
                fits[failure] = min((apart, count), fits.get(failure, (math.inf, 0)))
        least = min((apart for apart, _ in fits.values()), default=0.0)
        causes = [
            Cause(failure, math.sqrt(apart / count))
            for failure, (apart, count) in fits.items()
            if apart < least + _BETTER
        ]
        return sorted(causes, key=lambda c: c.distance)

    def _at(self, signature: Signature, ago: float) -> tuple[float, int]:
        """How far a failure that happened so long ago lies from what is read."""
        would = dict[str, _Extent]()
        last = int(np.searchsorted(signature.times, ago, "right"))
        for key in self._read:
            if key not in signature.values:
                continue
            span = max(self._span, self._bands[key].period)
            first = int(np.searchsorted(signature.times, ago - span, "right"))
            if first == last:
                return math.inf, 0
            extent = _extent(signature.values[key][first:last])
            if self._span < span and ago < span:
                # Nobody knows where in its cycle it was when it failed.
                well = self._usual[key]
                extent = _Extent(
                    min(extent.low, well.low), max(extent.high, well.high), extent.mean
                )
            would[key] = extent
        return self._apart(would)

    def _apart(self, would: Mapping[str, _Extent]) -> tuple[float, int]:
        """Sum of the squares of what lies between, in spreads, and of how many [-]."""
        squares = list[float]()
        for key, read in self._read.items():
            if key not in would:
                continue
            one, band = would[key], self._bands[key]
            two = (one.low, one.high), (read.low, read.high)
            stands = band.cycle > 0.0 and all(high - low < 0.4 * band.cycle for low, high in two)
            anywhere = (_ANYWHERE_STILL if stands else _ANYWHERE) * band.swing
            spread = max(self._spreads[key], band.doubt, anywhere, 1e-9)
            between = (one.low - read.low, one.high - read.high, one.mean - read.mean)
            if self._span < band.period:
                between = (max(between[0], 0.0), min(between[1], 0.0), 0.0)
            squares += [min(abs(b) / spread, _FARTHEST) ** 2 for b in between]
        return sum(squares), len(squares)


def _read_extent(values: Floats) -> _Extent:
    low, high = np.quantile(values, (0.03, 0.97))
    return _Extent(float(low), float(high), float(np.mean(values)))


def _extent(values: Floats) -> _Extent:
    """The same of what has no noise."""
    return _Extent(float(values.min()), float(values.max()), float(values.mean()))
