"""A line: pieces in series, each losing head on its own bore."""

import math
from collections.abc import Sequence
from functools import cached_property
from typing import Literal, NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.compiling import njit_borrowing
from bathys.physics import GRAVITY, area_of
from bathys.physics.friction import head_and_slope
from bathys.physics.porous import head_through

__all__ = ["PIECE_FIGURES", "Line", "Piece", "PieceKind", "piece_loss"]

Floats = NDArray[np.float64]
PieceKind = Literal["friction", "fitting", "valve", "strainer", "filter", "opening", "velocity"]

PIECE_FIGURES = 6
"""Figures of a piece that loses head by a law of its own: bore, length and roughness of a pipe,
[m]; head over flow, [s/m²], over flow squared, [s²/m⁵], and the most of it, [m], of a filter."""

_MOST_STEPS = 60
_HEAD_TOLERANCE = 1e-9  # [m]; a nanometre of water is far below the 1e-6 asked of a balance


class Piece(NamedTuple):
    """A stretch of pipe, or something that costs velocity heads.

    Attributes
    ----------
    kind : str
        What its loss counts as in a head budget
    label : str
        Its name for people
    area_bore : float
        Diameter of the circle with its flow area, [m]
    loss : float
        K on that area, [-]
    length : float
        Length of straight pipe, 0 for a fitting, [m]
    roughness : float
        Absolute roughness of the pipe, [m]
    linear, squared : float
        Head of a filter over flow, [s/m²], and over flow squared, [s²/m⁵]
    most : float
        Head from which on water goes past a filter, [m]
    """

    kind: PieceKind
    label: str
    area_bore: float
    loss: float = 0.0
    length: float = 0.0
    roughness: float = 0.0
    linear: float = 0.0
    squared: float = 0.0
    most: float = math.inf

    @property
    def has_law(self) -> bool:
        """Whether its loss is another one than K on its area."""
        return self.length > 0.0 or self.linear > 0.0 or self.squared > 0.0

    @property
    def figures(self) -> tuple[float, ...]:
        """What its own law is worked out from; see :data:`PIECE_FIGURES`."""
        return (
            self.area_bore,
            self.length,
            self.roughness,
            self.linear,
            self.squared,
            self.most,
        )

    @property
    def area(self) -> float:
        """Flow area [m²]."""
        return area_of(self.area_bore)


@njit_borrowing
def piece_loss(flow: float, k: int, rows: Floats, viscosity: float) -> tuple[float, float]:
    """What one piece with a law of its own loses.

    Parameters
    ----------
    flow : float
        Flow, either sign, [m³/s]
    k : int
        Number of the piece
    rows : array
        Figures of the pieces, shape (pieces, PIECE_FIGURES), [SI]
    viscosity : float
        Kinematic viscosity, [m²/s]

    Returns
    -------
    (float, float)
        Head lost, signed like the flow, [m], and its slope, [s/m²]
    """
    if rows[k, 1] > 0.0:
        return head_and_slope(flow, rows[k, 0], rows[k, 1], rows[k, 2], viscosity)
    return head_through(flow, rows[k, 3], rows[k, 4], rows[k, 5])


@njit(cache=True)
def _flows_at(heads: Floats, minor: float, rows: Floats, viscosity: float) -> Floats:
    """Flow that each head drives; not a number where it did not settle."""
    found = np.zeros_like(heads)
    known, known_flow = 0.0, 0.0
    for i in range(heads.size):
        wanted = heads[i]
        if wanted <= 0.0:
            continue
        low, high = 0.0, np.inf
        # Heads mostly come in a row, and each root is as good as the root of the last.
        flow = (
            known_flow * np.sqrt(wanted / known)
            if known > 0.0
            else (np.sqrt(wanted / max(minor, 1e-3)) + 1e-12)
        )
        found[i] = np.nan
        for _ in range(_MOST_STEPS):
            lost, slope = minor * flow * flow, 2.0 * minor * flow
            for k in range(rows.shape[0]):
                one, rate = piece_loss(flow, k, rows, viscosity)
                lost += one
                slope += rate
            excess = lost - wanted
            if abs(excess) < _HEAD_TOLERANCE:
                found[i] = known_flow = flow
                known = wanted
                break
            if excess > 0.0:
                high = min(high, flow)
            else:
                low = max(low, flow)
            step = flow - excess / slope
            if low < step < high:
                flow = step
            else:
                flow = 2.0 * flow if np.isinf(high) else 0.5 * (low + high)
    return found


@njit(cache=True)
def _losses_at(
    flows: Floats, minor: float, rows: Floats, viscosity: float
) -> tuple[Floats, Floats]:
    heads, slopes = np.zeros_like(flows), np.zeros_like(flows)
    for i in range(flows.size):
        for k in range(rows.shape[0]):
            head, slope = piece_loss(flows[i], k, rows, viscosity)
            heads[i] += head
            slopes[i] += slope
        heads[i] += minor * flows[i] * abs(flows[i])
        slopes[i] += 2.0 * minor * abs(flows[i])
    return heads, slopes


class Line:
    """Pieces in series.

    Parameters
    ----------
    pieces : sequence of Piece
        In the order of the water
    kinematic_viscosity : float
        Of the water, [m²/s]
    """

    def __init__(self, pieces: Sequence[Piece], kinematic_viscosity: float) -> None:
        self.pieces = tuple(pieces)
        self.viscosity = kinematic_viscosity
        self.shut = False
        self.minor = 0.0
        """Head lost but for friction, over the flow squared [s²/m⁵]."""
        self.fitting_loss = 0.0
        """K of mouth and fittings together, each on its own bore [-]."""
        pipes = []
        # One pass: a plan's every edit comes through here once a run.
        for piece in self.pieces:
            loss = piece.loss
            if math.isinf(loss):
                self.shut = True
                continue
            if loss:
                self.minor += loss / (2.0 * GRAVITY * area_of(piece.area_bore) ** 2)
                if piece.kind == "fitting":
                    self.fitting_loss += loss
            if piece.has_law:
                pipes.append(piece)
        self.pipes = tuple(pipes)
        """Its pipes and filters."""

    @cached_property
    def _rows(self) -> Floats:
        """Figures of its pipes and filters, shape (pieces, PIECE_FIGURES)."""
        return np.array([p.figures for p in self.pipes]).reshape(-1, PIECE_FIGURES)

    def loss(self, flow: Floats) -> tuple[Floats, Floats]:
        """Head lost [m], signed like the flow, and its slope [s/m²], for flows [m³/s]."""
        flow = np.atleast_1d(np.asarray(flow, dtype=np.float64))
        head, slope = _losses_at(flow, self.minor, self._rows, self.viscosity)
        return head, slope

    def flow(self, head: Floats | float) -> Floats:
        """Flow [m³/s] that a head [m] drives through; none for a head of 0 or less.

        Newton's method, from the flow at the head before; the loss is convex in the flow but for
        the straight line between laminar and turbulent, so each step is held to a bracket.

        Raises
        ------
        ArithmeticError
            If it does not settle, which has no known case
        """
        drive = np.atleast_1d(np.asarray(head, dtype=np.float64))
        if self.shut:
            return np.zeros_like(drive)
        found: Floats = _flows_at(drive.ravel(), self.minor, self._rows, self.viscosity)
        if np.isnan(found).any():
            raise ArithmeticError(f"flow through {self.pieces[0].label} did not settle")
        return found.reshape(drive.shape)

    def losses_by_piece(self, flow: float) -> list[tuple[Piece, float]]:
        """Each piece with the head it loses [m] at a flow [m³/s]."""
        rows = []
        for piece in self.pieces:
            if piece.has_law:
                figures = np.array([piece.figures])
                rows.append((piece, float(piece_loss(flow, 0, figures, self.viscosity)[0])))
            elif not math.isinf(piece.loss):
                speed = flow / piece.area
                rows.append((piece, piece.loss * speed * abs(speed) / (2.0 * GRAVITY)))
            else:
                rows.append((piece, 0.0))
        return rows

    @property
    def volume(self) -> float:
        """Water the pipes hold when full [m³]."""
        return sum(p.area * p.length for p in self.pipes)
