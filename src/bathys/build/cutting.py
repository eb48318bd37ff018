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
_MOST_OFFCUTS = 40  # that are looked at, the longest of them
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
    """All pieces cut from offcuts at hand and from stock lengths.

    Attributes
    ----------
    offcuts : tuple of Stock
        Each offcut that something is cut from
    stocks : tuple of Stock
        Each stock length that is bought
    least : int
        So many it takes at least
    couplers : int
        To join pieces that are longer than a stock length
    """

    offcuts: tuple[Stock, ...]
    stocks: tuple[Stock, ...]
    least: int
    couplers: int

    @property
    def is_least(self) -> bool:
        """Whether no fewer stock lengths would do."""
        return len(self.stocks) <= self.least


def cut_list(
    pieces: Sequence[Piece], stock: float, kerf: float, offcuts: Sequence[float] = ()
) -> Packing:
    """Cut pieces from offcuts at hand and from stock lengths.

    Parameters
    ----------
    pieces : sequence of Piece
        What is needed
    stock : float
        Length of what is bought, [m]
    kerf : float
        That each cut takes, [m]
    offcuts : sequence of float
        Lengths that are at hand already, [m]

    Returns
    -------
    Packing
        To the millimetre, pieces rounded up and offcuts down. A piece longer than a stock length
        is joined of whole ones and a rest. It is the best there is, or says by how much it may
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
    sizes = tuple(length + cut for _, length in short)
    rooms = tuple(sorted(int(x * _MILLIMETRES + 1e-6) + cut for x in offcuts)[-_MOST_OFFCUTS:])
    rooms = tuple(room for room in rooms if sizes and room >= sizes[-1])
    room = whole + cut
    at_hand, bins, least = (
        _with_offcuts(sizes, rooms, room) if rooms else ([], *_bought(sizes, room))
    )

    def cut_from(row: Sequence[int], room: int) -> Stock:
        taken = tuple(Piece(short[i][0], short[i][1] / _MILLIMETRES) for i in row)
        return Stock(taken, max(room - sum(sizes[i] for i in row), 0) / _MILLIMETRES)

    return Packing(
        tuple(cut_from(row, rooms[b]) for b, row in enumerate(at_hand) if row),
        tuple(cut_from(row, room) for row in bins),
        least,
        couplers,
    )


def _bought(sizes: tuple[int, ...], room: int) -> tuple[list[list[int]], int]:
    """Pieces by the stock lengths they are cut from, and how few of these are proven."""
    bins, least = _longest_first(sizes, room), _least(sizes, room)
    if len(bins) > least and len(sizes) <= _MOST_PIECES:
        found, least = _exact(sizes, (), room, len(bins), least)
        return [list(row) for row in found] or bins, least
    if len(bins) > least:
        packed, proven = packed_by_patterns(sizes, room, _SECONDS)
        least = max(least, proven)
        if packed and len(packed) < len(bins):
            return [sorted(row) for row in packed], least
    return bins, least


def _with_offcuts(
    sizes: tuple[int, ...], rooms: tuple[int, ...], room: int
) -> tuple[list[list[int]], list[list[int]], int]:
    """Pieces by the offcuts and by the stock lengths they are cut from, and how few of these it
    takes at least. Offcuts are filled as full as they go, the shortest first; where that is not
    proven to buy least, few pieces are packed exactly."""
    rest, at_hand = list(range(len(sizes))), list[list[int]]()
    for offcut in rooms:
        row = _fullest([sizes[i] for i in rest], offcut)
        at_hand.append([rest[n] for n in row])
        rest = [i for n, i in enumerate(rest) if n not in set(row)]
    found, _ = _bought(tuple(sizes[i] for i in rest), room)
    bins = [[rest[n] for n in row] for row in found]
    longer = [s for s in sizes if s > rooms[-1]]
    over = sum(sizes) - sum(rooms)
    least = max(_least(longer, room), math.ceil(over / room), 0)
    if len(bins) > least and len(sizes) <= _MOST_PIECES:
        exact, least = _exact(sizes, rooms, room, len(bins), least)
        if exact:
            return (
                [list(r) for r in exact[: len(rooms)]],
                [list(r) for r in exact[len(rooms) :]],
                least,
            )
    return at_hand, bins, least


def _fullest(sizes: Sequence[int], room: int) -> list[int]:
    """Pieces that fill a length as full as it goes."""
    last = np.full(room + 1, -1)  # piece with which each total is first reached
    last[0] = len(sizes)
    for n, size in enumerate(sizes):
        if size <= room:
            new = (last[: room + 1 - size] >= 0) & (last[size:] < 0)
            last[size:][new] = n
    total, row = int(np.flatnonzero(last >= 0)[-1]), list[int]()
    while total:
        row.append(int(last[total]))
        total -= sizes[row[-1]]
    return row[::-1]


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
    sizes: tuple[int, ...], offcuts: tuple[int, ...], room: int, most: int, least: int
) -> tuple[tuple[tuple[int, ...], ...], int]:
    """Fewer stocks than so many, by integer programming, and how few are proven; none if it finds
    no fewer in time. The offcuts come first, whether or not they are used. Kept, since page, list
    and file ask for the same."""
    from scipy.optimize import Bounds, LinearConstraint, milp  # noqa: PLC0415 - slow to load

    count, bins = len(sizes), len(offcuts) + most
    # x[i, b]: piece i from bin b; y[b]: stock b is bought.
    x_count = count * bins
    variables = x_count + most
    cost = np.concatenate([np.zeros(x_count), np.ones(most)])
    once = np.zeros((count, variables))
    fits = np.zeros((bins, variables))
    for i in range(count):
        once[i, i * bins : (i + 1) * bins] = 1.0
        fits[:, i * bins : (i + 1) * bins] += np.eye(bins) * sizes[i]
    fits[len(offcuts) :, x_count:] = -room * np.eye(most)
    holds = np.concatenate([np.array(offcuts, dtype=float), np.zeros(most)])
    order = np.zeros((most - 1, variables))
    for b in range(most - 1):  # stocks are alike: the first ones are used first
        order[b, x_count + b], order[b, x_count + b + 1] = -1.0, 1.0
    upper = np.ones(variables)
    for i in range(min(count, most)):
        upper[i * bins + len(offcuts) + i + 1 : (i + 1) * bins] = 0.0
    found = milp(
        cost,
        integrality=np.ones(variables),
        bounds=Bounds(np.zeros(variables), upper),
        constraints=[
            LinearConstraint(once, 1.0, 1.0),
            LinearConstraint(fits, -np.inf, holds),
            LinearConstraint(order, -np.inf, 0.0),
        ],
        options={"time_limit": _SECONDS},
    )
    bound = found.mip_dual_bound if found.mip_dual_bound is not None else 0.0
    least = max(least, math.ceil(bound - 1e-6))
    if found.x is None:
        return (), least
    taken = found.x[:x_count].reshape(count, bins) > 0.5
    rows = [tuple(i for i in range(count) if taken[i, b]) for b in range(bins)]
    bought = [row for row in rows[len(offcuts) :] if row]
    return ((*rows[: len(offcuts)], *bought) if len(bought) < most else ()), least
