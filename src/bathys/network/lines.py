"""A line: pieces in series, each losing head on its own bore."""

import math
from collections.abc import Sequence
from functools import cached_property
from typing import Literal, NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.physics import GRAVITY, area_of
from bathys.physics.friction import head_and_slope

__all__ = ["Line", "Piece", "PieceKind"]

Floats = NDArray[np.float64]
PieceKind = Literal["friction", "fitting", "valve", "strainer", "opening", "velocity"]

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
    """

    kind: PieceKind
    label: str
    area_bore: float
    loss: float = 0.0
    length: float = 0.0
    roughness: float = 0.0

    @property
    def area(self) -> float:
        """Flow area [m²]."""
        return area_of(self.area_bore)


@njit(cache=True)
def _flows_at(
    heads: Floats,
    minor: float,
    bores: Floats,
    lengths: Floats,
    roughness: Floats,
    viscosity: float,
) -> Floats:
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
            for k in range(bores.size):
                one, rate = head_and_slope(flow, bores[k], lengths[k], roughness[k], viscosity)
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
    flows: Floats, minor: float, bores: Floats, lengths: Floats, roughness: Floats, viscosity: float
) -> tuple[Floats, Floats]:
    heads, slopes = np.zeros_like(flows), np.zeros_like(flows)
    for i in range(flows.size):
        for k in range(bores.size):
            head, slope = head_and_slope(flows[i], bores[k], lengths[k], roughness[k], viscosity)
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
            if piece.length > 0.0:
                pipes.append(piece)
        self.pipes = tuple(pipes)

    @cached_property
    def _pipe_arrays(self) -> tuple[Floats, Floats, Floats]:
        """Bores, lengths and roughness of its pipes [m]."""
        return (
            np.array([p.area_bore for p in self.pipes]),
            np.array([p.length for p in self.pipes]),
            np.array([p.roughness for p in self.pipes]),
        )

    def loss(self, flow: Floats) -> tuple[Floats, Floats]:
        """Head lost [m], signed like the flow, and its slope [s/m²], for flows [m³/s]."""
        flow = np.atleast_1d(np.asarray(flow, dtype=np.float64))
        head, slope = _losses_at(flow, self.minor, *self._pipe_arrays, self.viscosity)
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
        found: Floats = _flows_at(drive.ravel(), self.minor, *self._pipe_arrays, self.viscosity)
        if np.isnan(found).any():
            raise ArithmeticError(f"flow through {self.pieces[0].label} did not settle")
        return found.reshape(drive.shape)

    def losses_by_piece(self, flow: float) -> list[tuple[Piece, float]]:
        """Each piece with the head it loses [m] at a flow [m³/s]."""
        rows = []
        for piece in self.pieces:
            if piece.length > 0.0:
                lost, _ = head_and_slope(
                    flow, piece.area_bore, piece.length, piece.roughness, self.viscosity
                )
                rows.append((piece, float(lost)))
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
