"""Pumped links between nodes, and a balance of them."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from bathys.network.lines import Line
from bathys.physics.pump_curve import PumpCurve

__all__ = ["Network", "NetworkLink", "NotSolved", "Solution"]


class NotSolved(ArithmeticError):
    """The balance did not settle. Says which link was worst and what was tried."""


@dataclass(frozen=True, slots=True)
class NetworkLink:
    """A line or a pump between two nodes.

    Attributes
    ----------
    id : str
        Its name
    start, end : str
        Nodes it joins, in the direction of positive flow
    line : Line or None
        What it loses, none for a pump
    pump : PumpCurve or None
        What it adds, none for a line
    one_way : bool
        Whether it cannot carry water backwards: an outlet in the air, or a check valve
    """

    id: str
    start: str
    end: str
    line: Line | None = None
    pump: PumpCurve | None = None
    one_way: bool = False


@dataclass(frozen=True, slots=True)
class Network:
    """Links, and the nodes whose head is known.

    Attributes
    ----------
    links : tuple of NetworkLink
        All links
    known_heads : mapping
        Head of each vessel and outlet node, [m]; every other node is a junction
    demands : mapping
        Flow taken away at junctions, [m³/s]
    """

    links: tuple[NetworkLink, ...]
    known_heads: Mapping[str, float]
    demands: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Solution:
    """A balance that settled.

    Attributes
    ----------
    flows : dict
        Flow of each link, [m³/s]
    heads : dict
        Head of each node, [m]
    blocked : frozenset of str
        One-way links that carry nothing since the water would run backwards
    steps : int
        Newton steps taken
    energy_residual, continuity_residual : float
        What is left of the imbalance, [m] and [m³/s]
    """

    flows: dict[str, float]
    heads: dict[str, float]
    blocked: frozenset[str]
    steps: int
    energy_residual: float
    continuity_residual: float
