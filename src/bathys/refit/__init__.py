"""A plan fitted to what was measured on the layout that was built by it.

Public: :func:`refit`, :class:`Reading`, :data:`MEASURES`, :func:`next_readings`,
:func:`as_built`, :func:`odds_of`, :func:`lasting_of`.
"""

from bathys.refit.advising import Advice, next_readings
from bathys.refit.ahead import FARTHEST, LEAST_DAYS, Lasting, lasting_of
from bathys.refit.fitting import Fit, Fitted, FittedReading, NothingMeasured, refit
from bathys.refit.logged import readings_of_log
from bathys.refit.measures import MEASURES, Asked, Measure, Reading, asked_figures
from bathys.refit.odds import Odds, odds_of
from bathys.refit.parameters import Parameter, as_built, parameters_of, with_values

__all__ = [
    "FARTHEST",
    "LEAST_DAYS",
    "MEASURES",
    "Advice",
    "Asked",
    "Fit",
    "Fitted",
    "FittedReading",
    "Lasting",
    "Measure",
    "NothingMeasured",
    "Odds",
    "Parameter",
    "Reading",
    "as_built",
    "asked_figures",
    "lasting_of",
    "next_readings",
    "odds_of",
    "parameters_of",
    "readings_of_log",
    "refit",
    "with_values",
]
