"""What to measure next: what narrows the doubt most."""

from dataclasses import dataclass

import numpy as np

from bathys.refit.fitting import Fit
from bathys.refit.measures import MEASURES, MODEL_SPREAD, Measure

__all__ = ["Advice", "next_readings"]

_WORTH = 0.02  # share of a doubt under which a reading is not worth its trouble


@dataclass(frozen=True, slots=True)
class Advice:
    """A reading that is worth taking.

    Attributes
    ----------
    measure : Measure
        How
    part : str
        Where
    expected : float
        What should come out by the plan as built, in SI
    narrows : float
        Share by which it narrows the doubt of the figure asked about; of all parameters together,
        as the mean of one, where none is, [-]
    """

    measure: Measure
    part: str
    expected: float
    narrows: float


def next_readings(fit: Fit, asked: str = "", most: int = 3) -> tuple[Advice, ...]:
    """Readings that are worth taking, the best first.

    Parameters
    ----------
    fit : Fit
        The fit so far
    asked : str
        Key of the figure that matters; empty for all that is in doubt
    most : int
        How many

    Returns
    -------
    tuple of Advice
        The best ones; none where nothing is worth it

    Notes
    -----
    With j the slopes of a reading over its spread, a reading takes (g·C·j)²/(1 + j·C·j) off the
    variance g·C·g of a figure with slopes g (Gauss). Where none is asked about, the volume of doubt
    shrinks by √(1 + j·C·j): D-optimal design (Kiefer and Wolfowitz 1960, memory).
    """
    covariance, rows = fit.covariance, []
    about = fit.asked_slopes.get(asked) if asked else None
    for (kind, part), slopes in fit.slopes.items():
        measure, expected = MEASURES[kind], fit.predicted[kind, part]
        if not measure.is_put_forward:
            continue
        spread = np.hypot(measure.spread, MODEL_SPREAD) * abs(expected)
        if spread <= 0.0:
            continue
        j = slopes / spread
        gained = float(j @ covariance @ j)
        if about is None:
            narrows = 1.0 - (1.0 + gained) ** (-0.5 / len(slopes))
        else:
            variance = float(about @ covariance @ about)
            if variance <= 0.0:
                continue
            taken = float(about @ covariance @ j) ** 2 / (1.0 + gained)
            narrows = 1.0 - float(np.sqrt(max(1.0 - taken / variance, 0.0)))
        rows.append(Advice(measure, part, expected, narrows))
    rows.sort(key=lambda row: (-row.narrows, row.measure.kind, row.part))
    return tuple(row for row in rows[:most] if row.narrows > _WORTH)
