"""A fair comparison of two parts: whether what they gave differs by more than chance, and what else
is not equal between them."""

import math
import statistics
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Any

import numpy as np

from bathys.evaluation import Evaluation
from bathys.fieldlog.logged import Logged

__all__ = [
    "TRIAL_MEASURES",
    "Comparison",
    "Condition",
    "TrialMeasure",
    "compare",
    "conditions_of",
    "replicates_needed",
    "samples_of",
    "welch",
]

_SURE = 0.05  # of chance, below which a difference is told [-]
_FEWEST = 3  # of either, from which anything is told
_ALL_WAYS = 20_000  # up to so many ways of dealing them out, each is tried
_DRAWN = 20_000  # else so many are drawn
_Z_SURE, _Z_POWER = 1.959964, 0.841621  # of a normal: 5 % on both sides, 80 %


@dataclass(frozen=True, slots=True)
class TrialMeasure:
    """What two parts are compared by.

    Attributes
    ----------
    key, title : str
        Its name in the data, and for people
    quantity : str
        What it is, as a key of the units
    kind : str
        Key of the kind of entry it is read from
    value : callable
        From what an entry says to the figure, [SI]; None where it says nothing of it
    """

    key: str
    title: str
    quantity: str
    kind: str
    value: Callable[[Mapping[str, Any]], float | None]


def _plain(field: str) -> Callable[[Mapping[str, Any]], float | None]:
    return lambda values: float(values[field]) if values.get(field) is not None else None


def _each(values: Mapping[str, Any]) -> float | None:
    mass, count = values.get("mass"), values.get("count")
    return float(mass) / float(count) if mass is not None and count else None


TRIAL_MEASURES: dict[str, TrialMeasure] = {
    measure.key: measure
    for measure in (
        TrialMeasure("harvest", "Weight of a harvest", "mass", "harvest", _plain("mass")),
        TrialMeasure("head", "Weight of a head", "mass", "harvest", _each),
        TrialMeasure("fish", "Weight of a fish", "mass", "netted", _each),
        TrialMeasure("eaten", "Seconds until feed is eaten", "time", "feed", _plain("eaten")),
    )
}
"""By their names."""


@dataclass(frozen=True, slots=True)
class Comparison:
    """Two sets of measurements beside each other.

    Attributes
    ----------
    counts : (int, int)
        How many there are of each
    means, spreads : (float, float)
        Their means and standard deviations, [any]
    low, high : float
        Between what the second's mean lies over the first's, to 95 %, [as these]
    welch, permuted : float
        How often chance alone gives as much, by Welch's t and by dealing them out anew, [-]
    is_paired : bool
        Whether they were taken in pairs on the same days
    """

    counts: tuple[int, int]
    means: tuple[float, float]
    spreads: tuple[float, float]
    low: float
    high: float
    welch: float
    permuted: float
    is_paired: bool

    @property
    def is_told(self) -> bool:
        """Whether they differ by more than chance, by the t test and so by the interval."""
        return self.welch < _SURE

    @property
    def is_doubted(self) -> bool:
        """Whether dealing them out anew does not bear that out: there are too few of them."""
        return self.is_told and self.permuted >= _SURE


def samples_of(
    entries: Sequence[Logged], part: str, measure: str, since: float
) -> list[tuple[int, float]]:
    """What was measured of a part.

    Parameters
    ----------
    entries : sequence of Logged
        The log
    part : str
        Id of the part
    measure : str
        A key of :data:`TRIAL_MEASURES`
    since : float
        Only what is no older, [d]

    Returns
    -------
    list of (int, float)
        How many days ago, and the figure, [SI]; the oldest first
    """
    about = TRIAL_MEASURES[measure]
    found = [
        (round(e.age), value)
        for e in entries
        if e.kind == about.kind
        and e.part == part
        and e.age <= since
        and (value := about.value(e.values)) is not None
    ]
    return sorted(found, key=lambda row: -row[0])


def welch(first: Sequence[float], second: Sequence[float]) -> tuple[float, float, float]:
    """Welch's t test of two means with spreads of their own.

    t = (x̄₂ − x̄₁)/√(s₁²/n₁ + s₂²/n₂), its degrees of freedom by Welch and Satterthwaite;
    B. L. Welch, Biometrika 34 (1947).

    Parameters
    ----------
    first, second : sequence of float
        At least two of each, [any]; one of them at least must vary

    Returns
    -------
    (float, float, float)
        t, the degrees of freedom, and how often chance alone gives as much, [-]
    """
    # By its formula: the library's own takes a part that does not vary for a loss of digits.
    one, two = (statistics.variance(rows) / len(rows) for rows in (first, second))
    t = (statistics.fmean(second) - statistics.fmean(first)) / math.sqrt(one + two)
    share = one / (one + two)  # squares of small spreads would be nothing
    freedom = 1.0 / (share**2 / (len(first) - 1.0) + (1.0 - share) ** 2 / (len(second) - 1.0))
    return t, freedom, _two_sided(t, freedom)


def compare(
    first: Sequence[tuple[int, float]], second: Sequence[tuple[int, float]]
) -> Comparison | None:
    """Two sets of measurements held against each other.

    Where each of the first has one of the second on the same day or the next, they are compared
    pair by pair: then weather and season weigh on both alike.

    Parameters
    ----------
    first, second : sequence of (int, float)
        How many days ago, [d], and the figure, [any]

    Returns
    -------
    Comparison or None
        None where either has fewer than three, or neither varies
    """
    if min(len(first), len(second)) < _FEWEST:
        return None
    one, two = [v for _, v in first], [v for _, v in second]
    pairs = _pairs(first, second)
    spreads = (statistics.stdev(one), statistics.stdev(two))
    means = (statistics.fmean(one), statistics.fmean(two))
    if pairs is not None:
        gaps = [b - a for a, b in pairs]
        spread = statistics.stdev(gaps)
        if spread <= 0.0:
            return None
        t = statistics.fmean(gaps) / (spread / math.sqrt(len(gaps)))
        freedom, error = len(gaps) - 1.0, spread / math.sqrt(len(gaps))
        chance, permuted = _two_sided(t, freedom), _signs(gaps)
    else:
        error = math.sqrt(spreads[0] ** 2 / len(one) + spreads[1] ** 2 / len(two))
        if error <= 0.0:
            return None
        _, freedom, chance = welch(one, two)
        permuted = _dealt(one, two)
    reach, gap = _quantile(freedom) * error, means[1] - means[0]
    return Comparison(
        (len(one), len(two)),
        means,
        spreads,
        gap - reach,
        gap + reach,
        chance,
        permuted,
        pairs is not None,
    )


def _pairs(
    first: Sequence[tuple[int, float]], second: Sequence[tuple[int, float]]
) -> list[tuple[float, float]] | None:
    """Both day by day, where each has its fellow."""
    if len(first) != len(second):
        return None
    if any(abs(a - b) > 1 for (a, _), (b, _) in zip(first, second, strict=True)):
        return None
    return [(a, b) for (_, a), (_, b) in zip(first, second, strict=True)]


def _two_sided(t: float, freedom: float) -> float:
    from scipy.stats import t as student  # noqa: PLC0415 - loads slowly, and few ask

    return float(2.0 * student.sf(abs(t), freedom))


def _quantile(freedom: float) -> float:
    from scipy.stats import t as student  # noqa: PLC0415 - loads slowly, and few ask

    return float(student.ppf(1.0 - 0.5 * _SURE, freedom))


def _dealt(one: Sequence[float], two: Sequence[float]) -> float:
    """How often dealing all of them out anew parts the means as far: each way, or many drawn."""
    all_ = np.array([*one, *two])
    seen, total = abs(statistics.fmean(two) - statistics.fmean(one)), all_.sum()
    count = len(one)
    if math.comb(len(all_), count) <= _ALL_WAYS:
        sums = np.array([all_[list(c)].sum() for c in combinations(range(len(all_)), count)])
    else:
        draw = np.random.default_rng(1)
        sums = np.array([draw.permutation(all_)[:count].sum() for _ in range(_DRAWN)])
    gaps = np.abs((total - sums) / len(two) - sums / count)
    return float(np.mean(gaps >= seen * (1.0 - 1e-9)))


def _signs(gaps: Sequence[float]) -> float:
    """How often turning pairs round at will gives a mean as far from nothing."""
    seen, count = abs(statistics.fmean(gaps)), len(gaps)
    if 2**count <= _ALL_WAYS:
        ways = np.array([[1 if n >> k & 1 else -1 for k in range(count)] for n in range(2**count)])
    else:
        ways = np.random.default_rng(1).choice([-1, 1], size=(_DRAWN, count))
    means = np.abs(ways @ np.array(gaps)) / count
    return float(np.mean(means >= seen * (1.0 - 1e-9)))


def replicates_needed(spread: float, difference: float) -> int:
    """How many measurements of either it takes to see a difference four times in five.

    n = 2 (z₀.₀₂₅ + z₀.₂)² (σ/δ)²; Snedecor and Cochran, Statistical Methods (memory).

    Parameters
    ----------
    spread : float
        Standard deviation of one measurement over its mean, [-]
    difference : float
        What is to be seen, over that mean, [-]

    Returns
    -------
    int
        At least three
    """
    return max(math.ceil(2.0 * ((_Z_SURE + _Z_POWER) * spread / difference) ** 2), _FEWEST)


@dataclass(frozen=True, slots=True)
class Condition:
    """Something that ought to be equal of two parts that are compared.

    Attributes
    ----------
    what, quantity : str
        What it is, and its quantity; empty for words
    first, second : float or str or None
        Of either, [SI]
    """

    what: str
    quantity: str
    first: float | str | None
    second: float | str | None

    @property
    def is_equal(self) -> bool:
        """Whether they are, to a twentieth."""
        if isinstance(self.first, float) and isinstance(self.second, float):
            return abs(self.first - self.second) <= 0.05 * max(abs(self.first), abs(self.second))
        return self.first == self.second


def conditions_of(
    first: tuple[Evaluation, str], second: tuple[Evaluation, str]
) -> tuple[Condition, ...]:
    """What ought to be equal of two parts, as their plans have it.

    Parameters
    ----------
    first, second : (Evaluation, str)
        The numbers of the plan, and the id of the part; both may be of one plan

    Returns
    -------
    tuple of Condition
        Of vessels what they are filled with, their size and flow; of fish their kind and number
    """
    one, two = (_told(found, part) for found, part in (first, second))
    return tuple(
        Condition(what, quantity, one.get((what, quantity)), two.get((what, quantity)))
        for what, quantity in dict.fromkeys([*one, *two])
    )


def _told(found: Evaluation, part: str) -> dict[tuple[str, str], float | str | None]:
    plan = found.plan
    thing: Any = plan.part(part)
    told: dict[tuple[str, str], float | str | None] = {}
    if part in found.vessels:
        result = found.vessels[part]
        told["Medium", ""] = thing.media.kind if thing.media is not None else "none"
        if thing.media is not None:
            told["Depth of medium", "length"] = float(thing.media.top - thing.media.bottom)
        told["Plan area", "surface"] = float(result.area)
        told["Water that passes", "flow"] = float(result.inflow)
        bed = found.bed(part)
        if bed is not None and bed.cycle.fill_time and bed.cycle.drain_time:
            told["From one siphon start to the next", "time"] = float(
                bed.cycle.fill_time + bed.cycle.drain_time
            )
    elif thing is not None and hasattr(thing, "species"):
        told["Fish", ""] = str(thing.species)
        told["How many", "count"] = float(thing.count)
        told["Protein in the feed", "percent"] = float(thing.protein)
    told["Water temperature", "temperature"] = float(plan.site.water_temperature)
    return told
