"""How long new surfaces take until their bacteria turn over what is given."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bathys.halving import greatest

__all__ = ["CLEAR", "DOSE", "EXCHANGED", "Cycling", "cycled", "dose_with_fish"]

Floats = NDArray[np.float64]

DOSE = 1.0
"""Ammonia nitrogen given a day (common practice) [g/m³]."""

EXCHANGED = 0.2
"""Of the water, made fresh each day of a start with fish (common practice) [-]."""

CLEAR = 0.5
"""Of ammonia and of nitrite nitrogen: from which on fish may come (common practice) [g/m³]."""

_GROWS = (0.6, 0.65)  # of ammonia's and nitrite's bacteria at 20 °C, at their best (assumed) [1/d]
_DIES = 0.1  # [1/d]
_YIELD = (0.15, 0.05)  # bacteria for nitrogen turned over (assumed) [g/g]
_HALF = 1.0  # [g/m³]
_THETA = 1.1
_AIRED = 0.94  # of their growth, in water with 8 g/m³ of oxygen (assumed) [-]
_SEED = (3e-4, 1e-4, 1e-3)  # without anything brought in, and its doubt (assumed) [g/m³]
_INOCULATED = 100.0
_STOP_TAN, _STOP_NITRITE = 3.0, 5.0  # from which on nothing is given [g/m³]
_FOLLOWED, _HALVINGS = 120.0, 12  # days and tries of a start with fish
_WEEK_OLD = 7.0  # not before [d]


@dataclass(frozen=True)
class Cycling:
    """A start without fish.

    Attributes
    ----------
    days : array
        From the first dose, [d]
    tan, nitrite, nitrate : array
        Nitrogen in the water, [g/m³]
    ready : float or None
        Day from which on fish may come; none if not within the days followed
    soonest, latest : float or None
        The same with more and with fewer bacteria at the beginning
    """

    days: Floats
    tan: Floats
    nitrite: Floats
    nitrate: Floats
    ready: float | None
    soonest: float | None
    latest: float | None


@lru_cache(maxsize=64)
def cycled(
    temperature: float, dose: float = DOSE, *, inoculated: bool = False, days: float = 90.0
) -> Cycling:
    """Start a system without fish, by a dose of ammonia a day.

    Parameters
    ----------
    temperature : float
        Of the water, [°C]
    dose : float
        Nitrogen a day, as long as neither ammonia nor nitrite is high, [g/m³]
    inoculated : bool
        Whether media or water of a running system are brought in
    days : float
        How long it is followed, [d]

    Returns
    -------
    Cycling
        With the band that the bacteria at the beginning make
    """
    runs = [
        _followed(temperature, dose, seed * (_INOCULATED if inoculated else 1.0), days)
        for seed in _SEED
    ]
    times, levels = runs[0]
    ready, latest, soonest = (_ready(t, y) for t, y in runs)
    return Cycling(times, levels[0], levels[1], levels[2], ready, soonest, latest)


@lru_cache(maxsize=64)
def dose_with_fish(temperature: float, most_tan: float, most_nitrite: float) -> float:
    """Ammonia nitrogen that fish may make a day from the first day on, while bacteria grow and
    :data:`EXCHANGED` of the water is made fresh each day.

    Parameters
    ----------
    temperature : float
        Of the water, [°C]
    most_tan, most_nitrite : float
        Nitrogen that the fish stand of each, [g/m³]

    Returns
    -------
    float
        Nitrogen a day with few bacteria at the beginning, [g/m³]
    """
    limits = (most_tan, most_nitrite)

    def stands(dose: float) -> bool:
        _, levels = _followed(temperature, dose, min(_SEED), _FOLLOWED, exchanged=EXCHANGED)
        return all(float(levels[k].max()) <= limits[k] for k in (0, 1))

    return greatest(stands, 0.0, DOSE, _HALVINGS)


def _followed(
    temperature: float, dose: float, seed: float, days: float, *, exchanged: float = 0.0
) -> tuple[Floats, Floats]:
    """Days, and ammonia, nitrite, nitrate and both kinds of bacteria. Where water is exchanged,
    fish go on making what they make, however high it stands."""
    fast = _THETA ** (temperature - 20.0)

    def rates(_: float, y: Floats) -> Floats:

        tan, nitrite, _nitrate, one, two = np.maximum(y, 0.0)
        first = _AIRED * fast * _GROWS[0] * tan / (_HALF + tan) * one
        second = _AIRED * fast * _GROWS[1] * nitrite / (_HALF + nitrite) * two
        # The dose fades out over a tenth, so that the equations stay smooth.
        given = dose
        for level, stop in ((tan, _STOP_TAN), (nitrite, _STOP_NITRITE)) if not exchanged else ():
            given *= min(max((stop - level) / (0.1 * stop), 0.0), 1.0)
        return np.array(
            [
                given - first / _YIELD[0] - exchanged * tan,
                first / _YIELD[0] - second / _YIELD[1] - exchanged * nitrite,
                second / _YIELD[1],
                first - fast * _DIES * one,
                second - fast * _DIES * two,
            ]
        )

    from scipy.integrate import solve_ivp  # noqa: PLC0415 - slow to load

    times = np.linspace(0.0, days, int(4 * days) + 1)
    found = solve_ivp(
        rates, (0.0, days), [0.0, 0.0, 0.0, seed, seed], "LSODA", times, rtol=1e-8, atol=1e-9
    )
    return times, found.y


def _ready(times: Floats, levels: Floats) -> float | None:
    """First day, after the peaks, on which both are low and stay so."""
    high = (levels[0] > CLEAR) | (levels[1] > CLEAR)
    last = int(np.flatnonzero(high)[-1]) if high.any() else -1
    if last + 1 >= times.size or (times[last + 1] < _WEEK_OLD and not high.any()):
        return None
    return float(times[last + 1])
