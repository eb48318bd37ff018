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
    """What was read over a while, or would be by several failures, each an array over them [the
    engine's unit of the quantity]."""

    low: Floats
    high: Floats
    mean: Floats


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
        self._usual = {key: _extent(told.values[None, :]) for key, told in usual.items()}
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
        well = sum(float(self._squares(key, self._usual[key]).sum()) for key in self._read)
        # It was seen some time after it happened: how long is not known.
        latest = min(self._shown + max(_LATE, 0.5 * self._shown), SIGNATURE_TIME)
        agos = np.linspace(min(self._shown, latest), latest, _TRIED)
        fits = dict[Failure, tuple[float, int]]()
        for group in _alike(signatures):
            keys = [key for key in self._read if key in group[0].values]
            if not keys:
                continue
            values = {key: np.stack([s.values[key] for s in group]) for key in keys}
            apart = np.min([self._at(group[0].times, values, float(ago)) for ago in agos], axis=0)
            count = 3 * len(keys)
            for signature, found in zip(group, apart.tolist(), strict=True):
                if found <= _FITS**2 * count and found <= well - _BETTER:
                    so_far = fits.get(signature.failure, (math.inf, 0))
                    fits[signature.failure] = min((found, count), so_far)
        least = min((apart for apart, _ in fits.values()), default=0.0)
        causes = [
            Cause(failure, math.sqrt(apart / count))
            for failure, (apart, count) in fits.items()
            if apart < least + _BETTER
        ]
        return sorted(causes, key=lambda c: c.distance)

    def _at(self, times: Floats, values: Mapping[str, Floats], ago: float) -> Floats:
        """How far failures that happened so long ago lie from what is read: of each the sum of
        squares of what lies between, in spreads; infinite where it is not followed so far [-]."""
        apart = np.zeros(len(next(iter(values.values()))))
        last = int(np.searchsorted(times, ago, "right"))
        for key, would in values.items():
            span = max(self._span, self._bands[key].period)
            first = int(np.searchsorted(times, ago - span, "right"))
            if first == last:
                return np.full(len(apart), math.inf)
            extent = _extent(would[:, first:last])
            if self._span < span and ago < span:
                # Nobody knows where in its cycle it was when it failed.
                well = self._usual[key]
                extent = _Extent(
                    np.minimum(extent.low, well.low),
                    np.maximum(extent.high, well.high),
                    extent.mean,
                )
            apart += self._squares(key, extent).sum(axis=0)
        return apart

    def _squares(self, key: str, would: _Extent) -> Floats:
        """Squares of what lies between what is read and what would be, in spreads, shape (3,
        failures) [-]."""
        read, band = self._read[key], self._bands[key]
        least = 0.4 * band.cycle
        stands = (would.high - would.low < least) & (read.high - read.low < least)
        anywhere = np.where(stands, _ANYWHERE_STILL, _ANYWHERE) * band.swing
        spread = np.maximum(max(self._spreads[key], band.doubt, 1e-9), anywhere)
        low, high = would.low - read.low, would.high - read.high
        mean = would.mean - read.mean
        if self._span < band.period:
            low, high, mean = np.maximum(low, 0.0), np.minimum(high, 0.0), 0.0 * mean
        far = np.abs(np.stack([low, high, mean])) / spread
        return np.asarray(np.minimum(far, _FARTHEST) ** 2)


def _alike(signatures: Sequence[Signature]) -> list[list[Signature]]:
    """Signatures by the moments and channels that they tell."""
    groups = dict[tuple[bytes, tuple[str, ...]], list[Signature]]()
    for signature in signatures:
        groups.setdefault((signature.times.tobytes(), (*signature.values,)), []).append(signature)
    return list(groups.values())


def _read_extent(values: Floats) -> _Extent:
    low, high = np.quantile(values, (0.03, 0.97))
    return _Extent(np.atleast_1d(low), np.atleast_1d(high), np.atleast_1d(np.mean(values)))


def _extent(values: Floats) -> _Extent:
    """The same of what has no noise, shape (failures, samples)."""
    return _Extent(values.min(axis=1), values.max(axis=1), values.mean(axis=1))
