"""The most likely state of a layout, by what is known before and what was measured."""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares
from scipy.sparse.csgraph import connected_components

from bathys.evaluation import Evaluation, evaluate
from bathys.plan.model import Plan
from bathys.refit.measures import MODEL_SPREAD, Asked, Reading, asked_figures
from bathys.refit.parameters import Parameter, parameters_of
from bathys.refit.trials import LIMIT, Trials, predicted_readings
from bathys.simulation import Abandoned

__all__ = [
    "Fit",
    "Fitted",
    "FittedReading",
    "NothingMeasured",
    "refit",
]

Floats = NDArray[np.float64]

_NOTHING = 4.0  # residual of a reading that the trial says cannot be had [spreads]
_EIGHTY = 1.2816  # spreads that hold 80 % of a normal distribution
_TOLD = 0.9  # share of its first spread under which a parameter was told something
_TOGETHER = 0.8  # correlation from which on two parameters are not told apart
_NEWS = 3.0  # studentised residual of a reading that fits none of the others
_ODD_SHARE = 4  # at most one reading in so many is left out as odd
_MOST_EVALUATIONS = 40


class NothingMeasured(ValueError):
    """There is no reading that the plan can be fitted to; its message is a sentence."""


@dataclass(frozen=True, slots=True)
class Fitted:
    """What a parameter came to.

    Attributes
    ----------
    parameter : Parameter
        The parameter
    value, low, high : float
        Its most likely value and the ends of what holds it with 80 %, in SI
    spread : float
        One spread, in SI
    narrowed : float
        Its spread over the spread before anything was measured, [-]
    """

    parameter: Parameter
    value: float
    low: float
    high: float
    spread: float
    narrowed: float

    @property
    def is_told(self) -> bool:
        """Whether the readings say something of it."""
        return self.narrowed < _TOLD


@dataclass(frozen=True, slots=True)
class FittedReading:
    """A reading beside the plan before and after.

    Attributes
    ----------
    reading : Reading
        The reading
    planned, fitted : float or None
        What the plan says, and the plan as built; none where nothing should come out
    is_odd : bool
        Whether it goes with none of the others, and was left out
    """

    reading: Reading
    planned: float | None
    fitted: float | None
    is_odd: bool


@dataclass(frozen=True, slots=True)
class Fit:
    """A plan fitted to readings.

    Attributes
    ----------
    plan : Plan
        The plan before
    built : Evaluation
        The numbers of the plan as it most likely is
    fitted : tuple of Fitted
        All parameters
    readings : tuple of FittedReading
        All readings
    together : tuple of tuple of Parameter
        Groups that are not told apart: what one gains another loses
    asked : tuple of Asked
        Figures that may be asked about, as built
    likely : array of shape (n,)
        Where the parameters most likely are, in their first spreads from their medians, [-]
    covariance : array of shape (n, n)
        Of the parameters in their first spreads, [-]
    slopes : dict of (str, str) to array of shape (n,)
        What each possible reading moves by, for a first spread of each parameter, in SI
    asked_slopes : dict of str to array of shape (n,)
        The same of each figure that may be asked about
    predicted : dict of (str, str) to float
        What each possible reading should come to, in SI
    """

    plan: Plan
    built: Evaluation
    fitted: tuple[Fitted, ...]
    readings: tuple[FittedReading, ...]
    together: tuple[tuple[Parameter, ...], ...]
    asked: tuple[Asked, ...]
    likely: Floats
    covariance: Floats
    slopes: dict[tuple[str, str], Floats]
    asked_slopes: dict[str, Floats]
    predicted: dict[tuple[str, str], float]


def _asked(found: Evaluation | None) -> dict[str, float]:
    return {} if found is None else {row.key: row.value for row in asked_figures(found)}


def refit(
    plan: Plan,
    readings: Sequence[Reading],
    days: float = 90.0,
    is_wanted: Callable[[], bool] | None = None,
    only: Collection[str] = (),
) -> Fit:
    """Fit a plan to what was measured: maximum a posteriori by least squares.

    Parameters
    ----------
    plan : Plan
        The plan
    readings : sequence of Reading
        What was measured
    days : float
        How long it has run since its pipes were clean, [d]
    is_wanted : callable, optional
        Asked from time to time whether to go on
    only : collection of str
        Keys of the parameters that may move; empty for all

    Returns
    -------
    Fit
        What each parameter most likely is, how surely, and what goes with nothing

    Raises
    ------
    NothingMeasured
        If none of the readings is one the plan says anything of
    NotSolved
        If the plan's own balance does not settle
    Abandoned
        If it is not wanted any longer

    Notes
    -----
    Residuals are (read − computed) over the spread of both, and each parameter's distance from its
    median over its spread before. The spread afterwards is that of the linearised model (Gauss and
    Laplace), cov = (JᵀJ)⁻¹. A reading is odd where its residual over √(1 − leverage), the residual
    that it would have if it were left out, is over three; the oddest is left out and the rest
    fitted anew, until none is odd.
    """
    planned = evaluate(plan)
    kinds = {r.kind for r in readings}
    fed = min((r.fed for r in readings if r.kind == "ammonia"), default=1.0)
    before = predicted_readings(planned, kinds, fed)
    parameters = [
        p
        for p in parameters_of(planned, days)
        if (not only or p.key in only) and (not p.told_by or p.told_by in kinds)
    ]
    rows = [r for r in readings if (r.kind, r.part) in before]
    if not rows or not parameters:
        raise NothingMeasured(
            "There is no reading yet that the plan can be fitted to. Begin with a bucket at each "
            "outlet."
        )
    trials, wanted = Trials(plan, parameters, kinds, fed), is_wanted or (lambda: True)
    odd: list[Reading] = []
    while True:
        counted = [r for r in rows if r not in odd]
        spreads = _spreads(counted)
        z = _most_likely(trials, counted, spreads, wanted)
        fit, left_out = _result(trials, planned, counted, z, spreads)
        worst = int(np.argmax(left_out))
        if left_out[worst] <= _NEWS or len(odd) >= len(rows) // _ODD_SHARE:
            break
        odd.append(counted[worst])
    told = tuple(
        FittedReading(r, before[r.kind, r.part], fit.predicted.get((r.kind, r.part)), r in odd)
        for r in rows
    )
    return replace(fit, readings=told)


def _spreads(rows: Sequence[Reading]) -> Floats:
    """Of each reading against what is computed with all parameters right."""
    return np.array([np.hypot(r.spread, MODEL_SPREAD * abs(r.value)) for r in rows])


def _most_likely(
    trials: Trials, rows: Sequence[Reading], spreads: Floats, wanted: Callable[[], bool]
) -> Floats:
    """Where posterior density is greatest, each parameter in its first spreads."""
    read = np.array([r.value for r in rows])

    def misfit(computed: Mapping[tuple[str, str], float]) -> Floats:
        at = np.array([computed.get((r.kind, r.part), np.nan) for r in rows])
        found: Floats = np.nan_to_num((read - at) / spreads, nan=_NOTHING)
        return found

    def residuals(z: Floats) -> Floats:
        if not wanted():
            raise Abandoned
        return np.concatenate([misfit(trials.read(z, trials.evaluation(z))), z])

    def jacobian(z: Floats) -> Floats:
        here = trials.read(z, trials.evaluation(z))
        base = misfit(here)
        columns = [(misfit(read) - base) / step for step, _, read in trials.moved(z, here)]
        return np.vstack([np.array(columns).T.reshape(len(rows), -1), np.eye(len(z))])

    found = least_squares(
        residuals,
        np.zeros(len(trials.parameters)),
        jac=jacobian,
        bounds=(-LIMIT, LIMIT),
        xtol=1e-4,
        ftol=1e-6,
        gtol=1e-5,
        max_nfev=_MOST_EVALUATIONS,
    )
    return np.asarray(found.x)


def _result(
    trials: Trials,
    planned: Evaluation,
    rows: Sequence[Reading],
    z: Floats,
    spreads: Floats,
) -> tuple[Fit, Floats]:
    """The fit, and the residual that each reading would have if it were left out."""
    built = trials.evaluation(z)
    if built is None:
        built, z = planned, np.zeros(len(z))
    base, base_asked = trials.read(z, built), _asked(built)
    slopes = {key: np.zeros(len(z)) for key in base}
    asked_slopes = {key: np.zeros(len(z)) for key in base_asked}
    for n, (step, there, by_kind) in enumerate(trials.moved(z, base)):
        by_key = _asked(there)
        for key, slope in slopes.items():
            slope[n] = (by_kind.get(key, base[key]) - base[key]) / step
        for name, slope in asked_slopes.items():
            slope[n] = (by_key.get(name, base_asked[name]) - base_asked[name]) / step
    weighed = np.array(
        [
            slopes.get((r.kind, r.part), np.zeros(len(z))) / spread
            for r, spread in zip(rows, spreads, strict=True)
        ]
    )
    covariance = np.linalg.inv(weighed.T @ weighed + np.eye(len(z)))
    leverage = np.einsum("ij,jk,ik->i", weighed, covariance, weighed)
    at = np.array([base.get((r.kind, r.part), np.nan) for r in rows])
    misfit = np.nan_to_num((np.array([r.value for r in rows]) - at) / spreads, nan=_NOTHING)
    left_out = np.abs(misfit) / np.sqrt(np.maximum(1.0 - leverage, 1e-6))
    fit = Fit(
        trials.plan,
        built,
        tuple(
            _fitted(p, float(z[n]), float(np.sqrt(covariance[n, n])))
            for n, p in enumerate(trials.parameters)
        ),
        (),
        _together(trials.parameters, covariance),
        asked_figures(built),
        z,
        covariance,
        slopes,
        asked_slopes,
        base,
    )
    return fit, left_out


def _fitted(parameter: Parameter, z: float, spread: float) -> Fitted:
    value = parameter.value(z)
    low, high = (parameter.value(z + way * _EIGHTY * spread) for way in (-1.0, 1.0))
    one = 0.5 * (parameter.value(z + spread) - parameter.value(z - spread))
    return Fitted(parameter, value, low, high, one, spread)


def _together(
    parameters: Sequence[Parameter], covariance: Floats
) -> tuple[tuple[Parameter, ...], ...]:
    """Groups of parameters that stay in doubt together."""
    spreads = np.sqrt(np.diag(covariance))
    hang = np.abs(covariance / np.outer(spreads, spreads)) > _TOGETHER
    count, group = connected_components(hang, directed=False)
    groups = (
        tuple(p for p, its in zip(parameters, group, strict=True) if its == number)
        for number in range(count)
    )
    return tuple(one for one in groups if len(one) > 1)
