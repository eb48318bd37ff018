"""What comes if nothing is cleaned: how long what goes well still goes well."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.refit.fitting import Fit
from bathys.refit.odds import outcomes_of
from bathys.refit.trials import LIMIT, Trials
from bathys.simulation import Abandoned

__all__ = ["FARTHEST", "LEAST_DAYS", "Lasting", "lasting_of"]

Floats = NDArray[np.float64]

FARTHEST = 180.0
"""So far ahead it is looked [d]."""
LEAST_DAYS = 7.0
"""Pipes must have been in use so long before a pace is taken from them [d]."""

_GRID = (0.0, 7.0, 14.0, 30.0, 60.0, 90.0, 120.0, FARTHEST)  # of drawn layouts [d]
_DRAWS = 20  # layouts that agree with what was measured
_EXACT = 0.5  # of the most likely one [d]
_SEED = 20_000  # the same layouts each time


@dataclass(frozen=True, slots=True)
class Lasting:
    """How long something still goes well if nothing is cleaned.

    Attributes
    ----------
    key, label : str
        Its name, and what it is for people, with slots for names of parts
    likely : float or None
        Until then in the layout as it most likely is, from now, [d]; None for longer than is looked
    soon, late : float or None
        Until then in one of ten, and in nine of ten, of the layouts that agree with what was
        measured, [d]; None for longer than is looked
    """

    key: str
    label: str
    likely: float | None
    soon: float | None
    late: float | None


class _Growing:
    """A layout whose films and strainers go on as they have grown since they were clean."""

    def __init__(self, trials: Trials, z: Floats, days: float) -> None:
        self._trials, self._z, self._days = trials, z, days
        self._seen = dict[float, dict[str, bool]]()

    def goes_well(self, ahead: float) -> dict[str, bool]:
        """What goes well so many days from now; empty where it is not solved."""
        if ahead not in self._seen:
            found = self._trials.evaluation(self._z, 1.0 + ahead / self._days)
            rows = () if found is None else outcomes_of(found)
            self._seen[ahead] = {key: is_good for key, _, is_good in rows}
        return self._seen[ahead]

    def until(self, key: str, grid: Sequence[float]) -> tuple[float, float] | None:
        """Between which two days it goes wrong for the first time; None for never."""
        last = grid[0]
        for ahead in grid:
            rows = self.goes_well(ahead)
            if rows and not rows.get(key, True):
                return last, ahead
            last = ahead
        return None


def lasting_of(
    fit: Fit, days: float, is_wanted: Callable[[], bool] | None = None
) -> tuple[Lasting, ...]:
    """How long siphons still start and stop, and rims hold, if nothing is cleaned.

    Film and strainers grow on at the pace that they have grown at since they were clean: straight
    with time (assumed). Each day that is tried is balanced anew.

    Parameters
    ----------
    fit : Fit
        The plan fitted to readings
    days : float
        How long it has run since its pipes were clean, [d]
    is_wanted : callable, optional
        Asked from time to time whether to go on

    Returns
    -------
    tuple of Lasting
        What goes well now and may not within :data:`FARTHEST`, the soonest first; none where it
        has run for less than :data:`LEAST_DAYS`

    Raises
    ------
    Abandoned
        If it is not wanted any longer
    """
    if days < LEAST_DAYS:
        return ()
    trials = Trials(fit.plan, [f.parameter for f in fit.fitted])
    likely = _Growing(trials, fit.likely, days)
    labels = {key: label for key, label, is_good in outcomes_of(fit.built) if is_good}
    random = np.random.default_rng(_SEED)
    off = random.standard_normal((_DRAWS, len(fit.fitted))) @ np.linalg.cholesky(fit.covariance).T
    drawn = [_Growing(trials, z, days) for z in np.clip(fit.likely + off, -LIMIT, LIMIT)]
    rows = list[Lasting]()
    for key, label in labels.items():
        ends = list[float]()
        for layout in drawn:
            if is_wanted is not None and not is_wanted():
                raise Abandoned
            found = layout.until(key, _GRID)
            ends.append(np.inf if found is None else 0.5 * sum(found))
        soon, late = (_told(at) for at in np.quantile(ends, (0.1, 0.9), method="nearest"))
        until = _told(_exact(likely, key))
        if soon is not None or until is not None:
            rows.append(Lasting(key, label, until, soon, late))
    return tuple(sorted(rows, key=lambda r: r.likely if r.likely is not None else FARTHEST))


def _told(at: float) -> float | None:
    return float(at) if np.isfinite(at) else None


def _exact(layout: _Growing, key: str) -> float:
    """When it goes wrong [d], by halving; infinite for never."""
    found = layout.until(key, _GRID)
    if found is None:
        return float(np.inf)
    low, high = found
    while high - low > _EXACT:
        middle = 0.5 * (low + high)
        if layout.goes_well(middle).get(key, True):
            low = middle
        else:
            high = middle
    return 0.5 * (low + high)
