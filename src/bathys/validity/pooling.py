"""Trials of several people taken together: how far what is measured lies off what is expected."""

import math
import statistics
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from operator import attrgetter
from typing import Literal

from scipy.stats import t

from bathys.validity.trials import TrialRow

__all__ = ["Pooled", "Verdict", "pool"]

Verdict = Literal["unsure", "off", "aside", "agrees"]
"""Too few people; beyond the band; within the band but beside its middle; about its middle."""

_FEWEST = 3  # people from whom an interval is told
_SURE = 0.95  # of the interval [-]


@dataclass(frozen=True, slots=True)
class Pooled:
    """Trials of one kind taken together.

    Attributes
    ----------
    trials, people : int
        How many there are, and of how many people
    within : int
        Those that lie where they are expected
    ratio : float
        Measured over the middle of what is expected, the mean over people, [-]
    low, high : float or None
        95 % interval of that mean, [-]; none where fewer than three people measured
    least, most : float
        The band of what is expected, over its middle, the mean over people, [-]
    """

    trials: int
    people: int
    within: int
    ratio: float
    low: float | None
    high: float | None
    least: float
    most: float

    @property
    def verdict(self) -> Verdict:
        """What it says of the expected figures."""
        if self.low is None or self.high is None:
            return "unsure"
        if self.high < self.least or self.low > self.most:
            return "off"
        return "agrees" if self.low <= 1.0 <= self.high else "aside"


def pool(trials: Mapping[str, Sequence[TrialRow]]) -> Pooled | None:
    """Take trials of one kind together.

    Each person counts once, with the mean of their trials: trials on one layout share its faults,
    and nobody outweighs others by repeating.

    Parameters
    ----------
    trials : mapping of str to sequence of TrialRow
        By who made them

    Returns
    -------
    Pooled or None
        None where there is none. The interval is Student's, of the means of people
    """
    own = [rows for rows in trials.values() if rows]
    if not own:
        return None
    means = [statistics.fmean(row.measured / row.middle for row in rows) for rows in own]
    ratio, low, high = statistics.fmean(means), None, None
    if len(means) >= _FEWEST:
        spread = statistics.stdev(means) / math.sqrt(len(means))
        reach = float(t.ppf(0.5 + 0.5 * _SURE, len(means) - 1)) * spread
        low, high = ratio - reach, ratio + reach
    least, most = (
        statistics.fmean(statistics.fmean(end(r) / r.middle for r in rows) for rows in own)
        for end in (attrgetter("low"), attrgetter("high"))
    )
    every = [row for rows in own for row in rows]
    within = sum(row.is_within for row in every)
    return Pooled(len(every), len(own), within, ratio, low, high, least, most)
