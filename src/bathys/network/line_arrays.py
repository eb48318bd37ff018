"""Many lines at once: the same losses as :class:`Line`, in flat arrays, for the solvers."""

from collections.abc import Sequence

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing
from bathys.network.lines import PIECE_FIGURES, Line, piece_loss

__all__ = ["LineArrays", "line_losses", "one_line_loss"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]


@njit_borrowing
def one_line_loss(
    flow: float, line: int, minor: Floats, first: Places, pipes: Floats, viscosity: float
) -> float:
    """Head lost in one line of a bank [m].

    Parameters
    ----------
    flow : float
        Flow, [m³/s]
    line : int
        Number of the line
    minor : array
        Head per squared flow lost in the fittings of each line, shape (lines,), [s²/m⁵]
    first : array of int
        Where the pipes of each line begin, shape (lines + 1,)
    pipes : array
        Figures of each pipe and filter, shape (pipes, PIECE_FIGURES), [SI]
    viscosity : float
        Kinematic viscosity, [m²/s]

    Returns
    -------
    float
        Head, [m]
    """
    head: float = minor[line] * flow * abs(flow)
    for k in range(first[line], first[line + 1]):
        head += piece_loss(flow, k, pipes, viscosity)[0]
    return head


@njit(cache=True)
def line_losses(
    flow: Floats, minor: Floats, first: Places, pipes: Floats, viscosity: float
) -> tuple[Floats, Floats]:
    """Head lost and its slope in each line; ``first`` says where its pipes begin in the arrays.

    Parameters
    ----------
    flow : array
        Flow of each line, shape (lines,), [m³/s]
    minor : array
        Head per squared flow lost in the fittings of each line, shape (lines,), [s²/m⁵]
    first : array of int
        Where the pipes of each line begin, shape (lines + 1,)
    pipes : array
        Figures of each pipe and filter, shape (pipes, PIECE_FIGURES), [SI]
    viscosity : float
        Kinematic viscosity, [m²/s]

    Returns
    -------
    (array, array)
        Heads, [m], and slopes, [s/m²], shape (lines,)
    """
    head, slope = np.empty_like(flow), np.empty_like(flow)
    for i in range(flow.size):
        size = abs(flow[i])
        head[i], slope[i] = minor[i] * flow[i] * size, 2.0 * minor[i] * size
        for k in range(first[i], first[i + 1]):
            lost, rate = piece_loss(flow[i], k, pipes, viscosity)
            head[i] += lost
            slope[i] += rate
    return head, slope


class LineArrays:
    """Losses of several lines, each at its own flow.

    Parameters
    ----------
    lines : sequence of Line
        All with the same water
    """

    def __init__(self, lines: Sequence[Line]) -> None:
        self.viscosity = lines[0].viscosity if lines else 1.0
        self.minor = np.array([line.minor for line in lines])
        pipes = [p for line in lines for p in line.pipes]
        self.first = np.concatenate([[0], np.cumsum([len(line.pipes) for line in lines])])
        self.first = self.first.astype(np.int64)
        self.pipes = np.array([p.figures for p in pipes]).reshape(-1, PIECE_FIGURES)

    def loss(self, flow: Floats) -> tuple[Floats, Floats]:
        """Head lost [m], signed like the flow, and its slope [s/m²], for one flow a line [m³/s]."""
        head, slope = line_losses(flow, self.minor, self.first, self.pipes, self.viscosity)
        return head, slope
