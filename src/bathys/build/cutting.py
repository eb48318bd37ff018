"""Pieces of pipe cut from stock lengths, with as few of these as can be."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp

__all__ = ["KERF", "STOCK", "BadStock", "Packing", "Piece", "Stock", "cut_list"]

KERF = 0.003
"""That a cut of a fine saw takes (common practice) [m]."""

STOCK = (0.5, 12.0)
"""Shortest and longest length that pipe is sold in [m]."""

_MILLIMETRES = 1000.0
_MOST_PIECES = 24  # that are packed exactly; more are packed longest first
_SECONDS = 2.0  # that the exact packing may take


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
        whole ones and a rest. Up to 24 pieces it is the best there is, or says by how much it may
        not be

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
    least = math.ceil(sum(sizes) / room) if sizes else 0
    if len(bins) > least and len(sizes) <= _MOST_PIECES:
        bins, least = _exact(sizes, room, bins, least)
    stocks = tuple(
        Stock(
            tuple(Piece(short[i][0], short[i][1] / _MILLIMETRES) for i in row),
            max(room - sum(sizes[i] for i in row), 0) / _MILLIMETRES,
        )
        for row in bins
    )
    return Packing(stocks, least, couplers)


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


def _exact(
    sizes: Sequence[int], room: int, known: list[list[int]], least: int
) -> tuple[list[list[int]], int]:
    """The fewest stocks by integer programming, and how few are proven; the known packing if it
    finds none better in time."""
    count, most = len(sizes), len(known)
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
        return known, least
    taken = found.x[: count * most].reshape(count, most) > 0.5
    bins = [[i for i in range(count) if taken[i, b]] for b in range(most)]
    bins = [row for row in bins if row]
    return (bins if len(bins) < len(known) else known), least
