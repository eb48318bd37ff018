"""The steady balance.

Public: :func:`balance` (a whole plan: every flow and level), :class:`Network` and :func:`solve`
(pumped branches by the gradient method), :class:`GravityLineArrays` (what gravity lines need),
:class:`Line` and its pieces (what a run loses), :func:`line_of_run` (from a plan).
"""

from bathys.network.balance import balance
from bathys.network.balanced import Balance
from bathys.network.drains import gravity_lines
from bathys.network.gravity import GravityLine, GravityLineArrays
from bathys.network.lines import Line, Piece, PieceKind
from bathys.network.pumped_network import Network, NetworkLink, NotSolved, Solution
from bathys.network.runs import curve_of_pump, holds_back, line_of_run, run_length, stops_backflow
from bathys.network.solving import solve

__all__ = [
    "Balance",
    "GravityLine",
    "GravityLineArrays",
    "Line",
    "Network",
    "NetworkLink",
    "NotSolved",
    "Piece",
    "PieceKind",
    "Solution",
    "balance",
    "curve_of_pump",
    "gravity_lines",
    "holds_back",
    "line_of_run",
    "run_length",
    "solve",
    "stops_backflow",
]
