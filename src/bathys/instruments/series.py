"""Readings of one instrument in their order."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

__all__ = ["Series"]

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Series:
    """Readings of one instrument.

    Attributes
    ----------
    times : array
        When, rising, shape (readings,), [s] of any clock
    values : array
        What was read, shape (readings,), [the engine's unit of the quantity]
    """

    times: Floats
    values: Floats

    def within(self, begin: float, end: float) -> "Series":
        """Those after one moment up to another.

        Parameters
        ----------
        begin, end : float
            The moments, [s]

        Returns
        -------
        Series
            A part of it; empty where nothing was read
        """
        first, last = np.searchsorted(self.times, (begin, end), side="right")
        return Series(self.times[first:last], self.values[first:last])

    def without_spikes(self) -> "Series":
        """Each reading the middle one of itself and its neighbours: one that fits nothing is gone.

        The first and the last are the middle one of themselves, the one beside them and the slope
        from there on (Tukey's end-point rule, Exploratory Data Analysis, 1977): what fits nothing
        may be the latest of all.

        Returns
        -------
        Series
            As many readings
        """
        if len(self) < 3:
            return self
        before, itself, after = self.values[:-2], self.values[1:-1], self.values[2:]
        low, high = np.minimum(before, itself), np.maximum(before, itself)
        inner = np.maximum(low, np.minimum(high, after))
        ends = [
            np.median([self.values[at], inner[at], 3.0 * inner[at] - 2.0 * inner[beside]])
            for at, beside in ((0, min(1, len(inner) - 1)), (-1, max(-2, -len(inner))))
        ]
        return Series(self.times, np.concatenate([ends[:1], inner, ends[1:]]))

    def __len__(self) -> int:
        return len(self.times)
