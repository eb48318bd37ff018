"""The steady balance of full pipes.

Public: :class:`Line` and its pieces (what a run loses), :class:`Network` and :func:`solve`
(all pumped branches together by the gradient method), :func:`line_of_run` (from a plan).
"""

from bathys.network.lines import Line, Piece, PieceKind
from bathys.network.runs import curve_of_pump, line_of_run, run_length
from bathys.network.solving import Network, NetworkLink, NotSolved, Solution, solve

__all__ = [
    "Line", "Network", "NetworkLink", "NotSolved", "Piece", "PieceKind", "Solution",
    "curve_of_pump", "line_of_run", "run_length", "solve",
]  # fmt: skip
