"""Many pieces from few stock lengths: patterns that are cut alike, one more as long as it helps.

Column generation (Gilmore and Gomory 1961): a linear programme over the patterns known so far
prices each length, and a knapsack finds the pattern that is worth the most at these prices.
"""

import math
import time
from collections import Counter
from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

__all__ = ["packed_by_patterns"]

Ints = NDArray[np.int64]

_HAIR = 1e-7  # by which a pattern must be worth more than a stock length
_ROUNDS = 400  # of one more pattern


@lru_cache(maxsize=64)
def packed_by_patterns(
    sizes: tuple[int, ...], room: int, seconds: float
) -> tuple[tuple[tuple[int, ...], ...], int]:
    """Pieces by the stock length that each is cut from.

    Parameters
    ----------
    sizes : tuple of int
        Of the pieces, each with its cut, the longest first, [mm]
    room : int
        Of a stock length, with a cut more, [mm]
    seconds : float
        That either half of it may take, [s]

    Returns
    -------
    (tuple of tuple of int, int)
        Numbers of the pieces, stock by stock, none where nothing was found in time; and how few
        stock lengths are proven to be needed, 0 where the time did not do. Kept, since page, list
        and file ask for the same
    """
    from scipy.optimize import Bounds, LinearConstraint, milp  # noqa: PLC0415 - slow to load

    wanted = Counter(sizes)
    lengths = np.array(sorted(wanted, reverse=True), dtype=np.int64)
    counts = np.array([wanted[int(length)] for length in lengths], dtype=np.int64)
    patterns, bound = _patterns(lengths, counts, room, seconds)
    found = milp(
        np.ones(len(patterns)),
        integrality=np.ones(len(patterns)),
        bounds=Bounds(0.0, np.inf),
        constraints=LinearConstraint(np.array(patterns).T, counts, np.inf),
        options={"time_limit": seconds},
    )
    if found.x is None:
        return (), bound
    waiting: dict[int, list[int]] = {}
    for number, size in enumerate(sizes):
        waiting.setdefault(size, []).append(number)
    stocks = []
    for pattern, times in zip(patterns, np.rint(found.x).astype(int).tolist(), strict=True):
        for _ in range(times):
            row = [
                waiting[length].pop()
                for length, count in zip(lengths.tolist(), pattern.tolist(), strict=True)
                for _ in range(min(count, len(waiting[length])))
            ]
            if row:
                stocks.append(tuple(row))
    return tuple(stocks), bound


def _patterns(lengths: Ints, counts: Ints, room: int, seconds: float) -> tuple[list[Ints], int]:
    """Patterns that are worth having, and how few stock lengths their linear programme asks for."""
    from scipy.optimize import linprog  # noqa: PLC0415 - slow to load

    patterns = [
        np.where(np.arange(len(lengths)) == k, min(room // length, count), 0)
        for k, (length, count) in enumerate(zip(lengths.tolist(), counts.tolist(), strict=True))
    ]
    ends = time.monotonic() + seconds
    for _ in range(_ROUNDS):
        found = linprog(
            np.ones(len(patterns)), A_ub=-np.array(patterns).T, b_ub=-counts, method="highs"
        )
        prices = -found.ineqlin.marginals
        best, worth = _best(lengths, counts, prices, room)
        if worth <= 1.0 + _HAIR:
            return patterns, math.ceil(found.fun - 1e-6)
        patterns.append(best)
        if time.monotonic() > ends:
            break
    return patterns, 0


def _best(lengths: Ints, counts: Ints, prices: Sequence[float], room: int) -> tuple[Ints, float]:
    """The pattern that is worth the most, and what it is worth: a knapsack, exact."""
    worth = np.zeros(room + 1)
    taken: list[tuple[int, int, NDArray[np.bool_]]] = []
    for k, (length, count, price) in enumerate(zip(lengths, counts, prices, strict=True)):
        left, lot = int(min(count, room // length)), 1
        while left > 0 and price > 0.0:
            lot = min(lot, left)  # lots of 1, 2, 4 … make up every number
            size = lot * int(length)
            if size > room:
                break
            tried = worth[:-size] + lot * price
            is_better = tried > worth[size:] + 1e-12
            worth[size:] = np.where(is_better, tried, worth[size:])
            taken.append((k, lot, is_better))
            left, lot = left - lot, 2 * lot
    pattern, at = np.zeros(len(lengths), dtype=np.int64), room
    for k, lot, is_better in reversed(taken):
        size = lot * int(lengths[k])
        if at >= size and is_better[at - size]:
            pattern[k] += lot
            at -= size
    return pattern, float(worth[room])
