"""Many lines at once: the same losses as :class:`Line`, in flat arrays, for the solvers."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bathys.network.lines import Line
from bathys.physics.friction import friction_head

__all__ = ["LineBank"]

Floats = NDArray[np.float64]


class LineBank:
    """Losses of several lines, each at its own flow.

    Parameters
    ----------
    lines : sequence of Line
        All with the same water
    """

    def __init__(self, lines: Sequence[Line]) -> None:
        self.count = len(lines)
        self._viscosity = lines[0].viscosity if lines else 1.0
        self._minor = np.array([line.minor for line in lines])
        rows = [(i, p) for i, line in enumerate(lines) for p in line.pieces if p.length > 0.0]
        self._owner = np.array([i for i, _ in rows], dtype=np.intp)
        self._bores = np.array([p.area_bore for _, p in rows])
        self._lengths = np.array([p.length for _, p in rows])
        self._roughness = np.array([p.roughness for _, p in rows])

    def loss(self, flow: Floats) -> tuple[Floats, Floats]:
        """Head lost [m], signed like the flow, and its slope [s/m²], for one flow a line [m³/s]."""
        size = np.abs(flow)
        head, slope = self._minor * flow * size, 2.0 * self._minor * size
        if self._owner.size:
            pipe_head, pipe_slope = friction_head(
                flow[self._owner], self._bores, self._lengths, self._roughness, self._viscosity
            )
            head = head + np.bincount(self._owner, pipe_head, self.count)
            slope = slope + np.bincount(self._owner, pipe_slope, self.count)
        return head, slope
