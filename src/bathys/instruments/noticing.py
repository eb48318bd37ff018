"""Which failures a set of instruments notices, and how soon."""

from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from bathys.instruments.bands import Band
from bathys.instruments.channels import Channel
from bathys.instruments.series import Series
from bathys.instruments.signatures import Signature
from bathys.instruments.watching import alarms_of
from bathys.scenarios.failures import Failure

__all__ = ["noticed_after"]

_BEFORE, _UNTIL = 13.0 * 3600.0, 6.0 * 3600.0  # what is read before it, and how long after [s]
_EVERY, _LOOKS = 60.0, 300.0  # between readings, and between looks at them [s]


def noticed_after(
    signatures: Iterable[Signature],
    channels: Sequence[Channel],
    bands: Mapping[str, Band],
    usual: Mapping[str, Series],
) -> dict[Failure, float | None]:
    """How soon each failure is noticed.

    Parameters
    ----------
    signatures : iterable of Signature
        What would be read after each failure; the first of each counts
    channels : sequence of Channel
        What is measured
    bands : mapping of str to Band
        Their bands
    usual : mapping of str to Series
        What is read while all is well, from
        :func:`~bathys.instruments.signatures.usual_readings`

    Returns
    -------
    dict of Failure to float or None
        After which time an alarm is on, [s]; None where none is within six hours
    """
    after = dict[Failure, float | None]()
    for signature in signatures:
        if signature.failure not in after:
            after[signature.failure] = _noticed(signature, channels, bands, usual)
    return after


def _noticed(
    signature: Signature,
    channels: Sequence[Channel],
    bands: Mapping[str, Band],
    usual: Mapping[str, Series],
) -> float | None:
    before = np.arange(-_BEFORE, 0.0, _EVERY)
    after = np.arange(0.0, _UNTIL + _EVERY, _EVERY)
    series = {}
    for key, values in signature.values.items():
        well = usual[key]
        told = np.interp(before % well.times[-1], well.times, well.values)
        then = np.interp(after, signature.times, values)
        series[key] = Series(np.concatenate([before, after]), np.concatenate([told, then]))
    for now in np.arange(_LOOKS, _UNTIL, _LOOKS):
        read = {key: told.within(-_BEFORE, float(now)) for key, told in series.items()}
        if alarms_of(channels, bands, read, float(now)):
            return float(now)
    return None
