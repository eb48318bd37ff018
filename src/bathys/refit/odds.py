"""How surely a layout works, by all that it may be like after what was measured."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.evaluation import Evaluation
from bathys.plan.naming import named
from bathys.refit.fitting import Fit
from bathys.refit.trials import LIMIT, Trials
from bathys.simulation import Abandoned

__all__ = ["DRAWS", "Odds", "odds_of", "outcomes_of"]

Floats = NDArray[np.float64]

DRAWS = 100
"""So many layouts are drawn before, and as many after what was measured."""

_SEED = 20_000  # the same layouts each time


@dataclass(frozen=True, slots=True)
class Odds:
    """How surely something goes well.

    Attributes
    ----------
    key, label : str
        Its name, and what it is for people, with slots for names of parts
    before, after : float
        Share of layouts in which it does: of those drawn before anything was measured, and of those
        that agree with what was, [-]
    """

    key: str
    label: str
    before: float
    after: float


def outcomes_of(found: Evaluation) -> Iterator[tuple[str, str, bool]]:
    """What goes well in a layout.

    Parameters
    ----------
    found : Evaluation
        The numbers of the layout

    Yields
    ------
    (str, str, bool)
        Key; label for people, with slots for names of parts; whether it does
    """
    for bed in found.beds:
        if bed.fed_by:
            continue
        id_, name, window = bed.siphon.id, named(bed.siphon), bed.cycle.window
        inflow = bed.cycle.mean_inflow
        yield f"starts.{id_}", f"“{name}” starts by itself", inflow > window.start.value
        yield f"stops.{id_}", f"“{name}” stops again", inflow < window.stop.value
    for result in found.vessels.values():
        vessel = result.vessel
        under = result.levels.high < vessel.floor_height + vessel.shape.height
        yield f"rim.{vessel.id}", f"“{named(vessel)}” stays under its rim", under


def odds_of(
    fit: Fit, draws: int = DRAWS, is_wanted: Callable[[], bool] | None = None
) -> tuple[Odds, ...]:
    """How surely siphons start and stop and vessels stay under their rims.

    Layouts are drawn from what is known of the parameters, before and after the readings; each is
    balanced anew, so that no slope is taken for a law.

    Parameters
    ----------
    fit : Fit
        The plan fitted to readings
    draws : int
        How many layouts, before and after, [-]
    is_wanted : callable, optional
        Asked from time to time whether to go on

    Returns
    -------
    tuple of Odds
        Without what goes well in every layout, before and after

    Raises
    ------
    Abandoned
        If it is not wanted any longer
    """
    trials = Trials(fit.plan, [f.parameter for f in fit.fitted])
    random = np.random.default_rng(_SEED)
    first = random.standard_normal((draws, len(fit.fitted)))
    spread = np.linalg.cholesky(fit.covariance)
    before = _shares(trials, first, is_wanted)
    after = _shares(trials, fit.likely + first @ spread.T, is_wanted)
    labels = {key: label for key, label, _ in outcomes_of(fit.built)}
    rows = (
        Odds(key, label, before.get(key, 0.0), after.get(key, 0.0)) for key, label in labels.items()
    )
    return tuple(row for row in rows if min(row.before, row.after) < 1.0)


def _shares(
    trials: Trials, drawn: Floats, is_wanted: Callable[[], bool] | None
) -> dict[str, float]:
    """Share of the drawn layouts in which each thing goes well; one that is not solved tells
    nothing."""
    good = dict[str, int]()
    told = 0
    for z in np.clip(drawn, -LIMIT, LIMIT):
        if is_wanted is not None and not is_wanted():
            raise Abandoned
        found = trials.evaluation(z)
        if found is None:
            continue
        told += 1
        for key, _, is_good in outcomes_of(found):
            good[key] = good.get(key, 0) + is_good
    return {key: count / told for key, count in good.items()}
