"""Pieces of pipe cut from stock lengths, with as few of these as can be."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bathys.build.patterns import packed_by_patterns

__all__ = ["KERF", "STOCK", "BadStock", "Packing", "Piece", "Stock", "cut_list"]

KERF = 0.003
"""That a cut of a fine saw takes (common practice) [m]."""

STOCK = (0.5, 12.0)
"""Shortest and longest length that pipe is sold in [m]."""

_MILLIMETRES = 1000.0
_MOST_PIECES = 24  # that are packed piece by piece; more are packed by patterns
_SECONDS = 0.6  # that the exact packing may take


class BadStock(ValueError):
    """A stock length that nothing can be cut from."""


@dataclass(frozen=True, slots=True)
class Piece:
    """A straight piece of pipe.

    Attributes
    ----------
    name : str
        What it is for
    length : float
        Length, [m]
    """

    name: str
    length: float


@dataclass(frozen=True, slots=True)
class Stock:
    """One stock length and what is cut from it.

    Attributes
    ----------
    pieces : tuple of Piece
        The longest first
    left : float
        What is left of it, [m]
    """

    pieces: tuple[Piece, ...]
    left: float


@dataclass(frozen=True, slots=True)
class Packing:
    """All pieces cut from stock lengths.

    Attributes
    ----------
    stocks : tuple of Stock
        Each stock length that is bought
    least : int
        So many it takes at least
    couplers : int
        To join pieces that are longer than a stock length
    """

    stocks: tuple[Stock, ...]
    least: int
    couplers: int

    @property
    def is_least(self) -> bool:
        """Whether no fewer stock lengths would do."""
        return len(self.stocks) <= self.least


def cut_list(pieces: Sequence[Piece], stock: float, kerf: float) -> Packing:
    """Cut pieces from stock lengths.

    Parameters
    ----------
    pieces : sequence of Piece
        What is needed
    stock : float
        Length of what is bought, [m]
    kerf : float
        That each cut takes, [m]

    Returns
    -------
    Packing
        To the millimetre, pieces rounded up. A piece longer than a stock length is joined of
        whole ones and a rest. It is the best there is, or says by how much it may not be

    Raises
    ------
    BadStock
        If a stock length is no longer than a cut
    """
    whole, cut = round(stock * _MILLIMETRES), round(kerf * _MILLIMETRES)
    if whole <= cut or cut < 0:
        raise BadStock("A stock length must be longer than a cut.")
    short, couplers = list[tuple[str, int]](), 0
    for piece in pieces:
        left = math.ceil(piece.length * _MILLIMETRES - 1e-6)
        while left > whole:
            short.append((piece.name, whole))
            left, couplers = left - whole, couplers + 1
        if left > 0:
            short.append((piece.name, left))
    short.sort(key=lambda p: -p[1])
    # With the kerf on both, each piece takes its own cut and a stock has room for one more.
    sizes = [length + cut for _, length in short]
    bins, room = _longest_first(sizes, whole + cut), whole + cut
    least = _least(sizes, room)
    if len(bins) > least and len(sizes) <= _MOST_PIECES:
        found, least = _exact(tuple(sizes), room, len(bins), least)
        bins = [list(row) for row in found] or bins
    elif len(bins) > least:
        found, proven = packed_by_patterns(tuple(sizes), room, _SECONDS)
        least = max(least, proven)
        if found and len(found) < len(bins):
            bins = [sorted(row) for row in found]
    stocks = tuple(
        Stock(
            tuple(Piece(short[i][0], short[i][1] / _MILLIMETRES) for i in row),
            max(room - sum(sizes[i] for i in row), 0) / _MILLIMETRES,
        )
        for row in bins
    )
    return Packing(stocks, least, couplers)


def _least(sizes: Sequence[int], room: int) -> int:
    """So many stocks it takes at least: large pieces cannot share one, and small ones fill what is
    beside them (Martello and Toth 1990, bound L2)."""
    least = 0
    for small in {0, *(s for s in sizes if 2 * s <= room)}:
        alone = sum(s > room - small for s in sizes)
        large = [s for s in sizes if 2 * s > room and s <= room - small]
        rest = sum(s for s in sizes if small <= s and 2 * s <= room)
        beside = len(large) * room - sum(large)
        least = max(least, alone + len(large) + max(math.ceil((rest - beside) / room), 0))
    return least


def _longest_first(sizes: Sequence[int], room: int) -> list[list[int]]:
    """Each piece into the first stock that has room for it."""
    bins, free = list[list[int]](), list[int]()
    for i, size in enumerate(sizes):
        place = next((b for b, left in enumerate(free) if left >= size), None)
        if place is None:
            bins.append([i])
            free.append(room - size)
        else:
            bins[place].append(i)
            free[place] -= size
    return bins


@lru_cache(maxsize=64)
def _exact(
    sizes: tuple[int, ...], room: int, most: int, least: int
) -> tuple[tuple[tuple[int, ...], ...], int]:
    """Fewer stocks than so many, by integer programming, and how few are proven; none if it finds
    no fewer in time. Kept, since page, list and file ask for the same."""
    from scipy.optimize import Bounds, LinearConstraint, milp  # noqa: PLC0415 - slow to load

    count = len(sizes)
    # x[i, b]: piece i from stock b; y[b]: stock b is bought.
    variables = count * most + most
    cost = np.concatenate([np.zeros(count * most), np.ones(most)])
    once = np.zeros((count, variables))
    fits = np.zeros((most, variables))
    for i in range(count):
        once[i, i * most : (i + 1) * most] = 1.0
        fits[:, i * most : (i + 1) * most] += np.eye(most) * sizes[i]
    fits[:, count * most :] = -room * np.eye(most)
    order = np.zeros((most - 1, variables))
    for b in range(most - 1):  # stocks are alike: the first ones are used first
        order[b, count * most + b], order[b, count * most + b + 1] = -1.0, 1.0
    upper = np.ones(variables)
    for i in range(min(count, most)):
        upper[i * most + i + 1 : (i + 1) * most] = 0.0
    found = milp(
        cost,
        integrality=np.ones(variables),
        bounds=Bounds(np.zeros(variables), upper),
        constraints=[
            LinearConstraint(once, 1.0, 1.0),
            LinearConstraint(fits, -np.inf, 0.0),
            LinearConstraint(order, -np.inf, 0.0),
        ],
        options={"time_limit": _SECONDS},
    )
    bound = found.mip_dual_bound if found.mip_dual_bound is not None else 0.0
    least = max(least, math.ceil(bound - 1e-6))
    if found.x is None:
        return (), least
    taken = found.x[: count * most].reshape(count, most) > 0.5
    bins = (tuple(i for i in range(count) if taken[i, b]) for b in range(most))
    packed = tuple(row for row in bins if row)
    return (packed if len(packed) < most else ()), least
