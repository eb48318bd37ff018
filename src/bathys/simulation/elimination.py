"""Elimination along a plan's own structure: what touches what is known before any number is.

Nodes are taken in the order of how few others they touch, so that the sump, which touches all,
comes last and hardly anything is filled in.
"""

from collections.abc import Iterable
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing

__all__ = ["Structure", "clear", "factor", "solve", "structure_of"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]


class Structure(NamedTuple):
    """Which entries of a matrix may differ from 0.

    Attributes
    ----------
    order : array
        Nodes in the order of their elimination, shape (nodes,)
    near : array
        Of each node, those still there that it touches when its turn comes, shape (nodes, nodes)
    counts : array
        How many they are, shape (nodes,)
    """

    order: Places
    near: Places
    counts: Places


def structure_of(count: int, links: Iterable[tuple[int, int]]) -> Structure:
    """Order of elimination by least degree, and what it fills in.

    Parameters
    ----------
    count : int
        How many nodes there are
    links : iterable of (int, int)
        Pairs of nodes that feel each other

    Returns
    -------
    Structure
        For :func:`factor` and :func:`solve`
    """
    touched: list[set[int]] = [set() for _ in range(count)]
    for one, two in links:
        if one != two:
            touched[one].add(two)
            touched[two].add(one)
    left, order = set(range(count)), []
    near, counts = np.zeros((count, count), dtype=np.int64), np.zeros(count, dtype=np.int64)
    while left:
        node = min(left, key=lambda n: (len(touched[n]), n))
        left.discard(node)
        order.append(node)
        own = sorted(touched[node])
        near[node, : len(own)], counts[node] = own, len(own)
        for other in own:
            touched[other] |= set(own) - {other}
            touched[other].discard(node)
    return Structure(np.array(order, dtype=np.int64), near, counts)


@njit_borrowing
def clear(matrix: Floats, near: Places, counts: Places) -> None:
    """Set every entry that may differ from 0 to 0.

    Parameters
    ----------
    matrix : array
        The matrix, shape (nodes, nodes), [-]
    near : array of int
        Of each node, those still there when its turn comes, shape (nodes, nodes)
    counts : array of int
        How many those are, shape (nodes,)
    """
    for k in range(counts.size):
        matrix[k, k] = 0.0
        for z in range(counts[k]):
            matrix[k, near[k, z]] = 0.0
            matrix[near[k, z], k] = 0.0


@njit_borrowing
def factor(
    jacobian: Floats, step: float, matrix: Floats, order: Places, near: Places, counts: Places
) -> None:
    """LU of I - step J into ``matrix``, the diagonal turned over. No pivots: each column's
    diagonal outweighs the rest, since what leaves one node enters another.

    Parameters
    ----------
    jacobian : array
        How each node's rate moves with what each node holds, shape (nodes, nodes), [1/s]
    step : float
        Length of the step, weighted, [s]
    matrix : array
        The matrix, shape (nodes, nodes), [-]
    order : array of int
        Nodes in the order of their elimination, shape (nodes,)
    near : array of int
        Of each node, those still there when its turn comes, shape (nodes, nodes)
    counts : array of int
        How many those are, shape (nodes,)
    """
    for k in range(counts.size):
        matrix[k, k] = 1.0 - step * jacobian[k, k]
        for z in range(counts[k]):
            j = near[k, z]
            matrix[k, j] = -step * jacobian[k, j]
            matrix[j, k] = -step * jacobian[j, k]
    for place in range(order.size):
        k = order[place]
        over = 1.0 / matrix[k, k]
        matrix[k, k] = over
        for z in range(counts[k]):
            i = near[k, z]
            share = matrix[i, k]
            if share != 0.0:
                share *= over
                matrix[i, k] = share
                for y in range(counts[k]):
                    j = near[k, y]
                    matrix[i, j] -= share * matrix[k, j]


@njit_borrowing
def solve(matrix: Floats, right: Floats, order: Places, near: Places, counts: Places) -> None:
    """Solve in place with a matrix from :func:`factor`; ``right`` may be longer than it.

    Parameters
    ----------
    matrix : array
        The matrix, shape (nodes, nodes), [-]
    right : array
        Right side, then the solution, shape (nodes or more,), [m³/s]
    order : array of int
        Nodes in the order of their elimination, shape (nodes,)
    near : array of int
        Of each node, those still there when its turn comes, shape (nodes, nodes)
    counts : array of int
        How many those are, shape (nodes,)
    """
    for place in range(order.size):
        k = order[place]
        known = right[k]
        if known != 0.0:
            for z in range(counts[k]):
                right[near[k, z]] -= matrix[near[k, z], k] * known
    for place in range(order.size - 1, -1, -1):
        k = order[place]
        known = right[k]
        for z in range(counts[k]):
            known -= matrix[k, near[k, z]] * right[near[k, z]]
        right[k] = known * matrix[k, k]
