"""All pumped branches together, by the global gradient method.

Todini, E. & Pilati, S. (1988), "A gradient algorithm for the analysis of pipe networks", in
Computer Applications in Water Supply, vol. 1, Wiley (memory): Newton's method on every link's
energy and every junction's continuity at once, with the flows eliminated so that each step is
one symmetric linear system in the junction heads.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bathys.network.lines import Line
from bathys.physics.pump_curve import PumpCurve

__all__ = ["Network", "NetworkLink", "NotSolved", "Solution", "solve"]

Floats = NDArray[np.float64]

CONTINUITY_TOLERANCE = 1e-9
"""Greatest imbalance left at a junction [m³/s]."""
ENERGY_TOLERANCE = 1e-7
"""Greatest imbalance left along a link [m]: tight enough to settle the trickle in a level ring."""
_MOST_STEPS = 100
_SLOPE_FLOOR = 1e-3  # [s/m²]; a link of minor losses alone is flat at no flow
_FIRST_FLOW = 1e-4  # [m³/s]; any sane start leads to the same answer
_MOST_SWITCHES = 60


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
    """

    links: tuple[NetworkLink, ...]
    known_heads: Mapping[str, float]


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


def _loss(link: NetworkLink, flow: float) -> tuple[float, float]:
    if link.pump is not None:
        head, slope = link.pump.head(flow)
        return -head, -slope
    assert link.line is not None  # noqa: S101 - a link is one or the other
    lost, slopes = link.line.loss(np.array([flow]))
    return float(lost[0]), max(float(slopes[0]), _SLOPE_FLOOR)


class _Balance:
    """One set of open links being solved."""

    def __init__(self, network: Network, open_links: Sequence[NetworkLink]) -> None:
        self.links = open_links
        names = sorted({n for k in open_links for n in (k.start, k.end)})
        self.junctions = [n for n in names if n not in network.known_heads]
        place = {n: i for i, n in enumerate(self.junctions)}
        count = len(open_links)
        self.incidence = np.zeros((count, len(self.junctions)))
        self.known = np.zeros(count)
        for row, link in enumerate(open_links):
            for node, sign in ((link.start, 1.0), (link.end, -1.0)):
                if node in place:
                    self.incidence[row, place[node]] += sign
                else:
                    self.known[row] += sign * network.known_heads[node]

    def run(self, flows: Floats) -> tuple[Floats, Floats, int, float, float]:
        """Flows and junction heads, steps taken, and the two residuals."""
        heads: Floats = np.zeros(len(self.junctions))
        for step in range(1, _MOST_STEPS + 1):
            losses = [_loss(k, float(q)) for k, q in zip(self.links, flows, strict=True)]
            lost = np.array([row[0] for row in losses])
            inverse = 1.0 / np.array([row[1] for row in losses])
            if step > 1:
                energy = float(np.max(np.abs(lost - self.known - self.incidence @ heads)))
                continuity = float(np.max(np.abs(self.incidence.T @ flows), initial=0.0))
                if energy < ENERGY_TOLERANCE and continuity < CONTINUITY_TOLERANCE:
                    return flows, heads, step, energy, continuity
            if self.junctions:
                matrix = self.incidence.T @ (inverse[:, None] * self.incidence)
                drive = self.incidence.T @ (inverse * (lost - self.known) - flows)
                heads = np.asarray(np.linalg.solve(matrix, drive), dtype=np.float64)
            change = inverse * (self.known + self.incidence @ heads - lost)
            # A step cut in half now and then breaks the rare two-step dance over a kink.
            flows = flows + change * (0.5 if step % 15 == 0 else 1.0)
        worst = self.links[int(np.argmax(np.abs(lost - self.known - self.incidence @ heads)))]
        raise NotSolved(
            f"the flows did not settle in {_MOST_STEPS} steps; the worst link is {worst.id}"
        )


def _is_shut(link: NetworkLink) -> bool:
    return link.line is not None and link.line.shut


def solve(network: Network, first_flows: Mapping[str, float] | None = None) -> Solution:
    """Balance a network.

    Parameters
    ----------
    network : Network
        Links and known heads
    first_flows : mapping, optional
        Flows to start from, [m³/s]

    Returns
    -------
    Solution
        Flows, heads, and what is left of the imbalance

    Raises
    ------
    NotSolved
        If the balance does not settle; no partial answer is given
    """
    start = first_flows or {}
    shut = {k.id for k in network.links if _is_shut(k)}
    blocked: set[str] = set()
    for _ in range(_MOST_SWITCHES):
        idle = _idle_links(network, shut | blocked)
        links = [k for k in network.links if k.id not in shut | blocked | idle]
        balance = _Balance(network, links)
        first = np.array([start.get(k.id) or _FIRST_FLOW for k in links])
        flows, heads, steps, energy, continuity = (
            balance.run(first) if links else (first, np.zeros(0), 0, 0.0, 0.0)
        )
        found = dict(network.known_heads)
        found.update(dict(zip(balance.junctions, map(float, heads), strict=True)))
        _add_still_heads(network, idle, found)
        one_way = [(k.id, float(q)) for k, q in zip(links, flows, strict=True) if k.one_way]
        backwards = {id_ for id_, flow in one_way if flow < -CONTINUITY_TOLERANCE}
        wrongly = set() if backwards else _driven_forward(network, blocked, found)
        if not backwards and not wrongly:
            carried = {k.id: 0.0 for k in network.links}
            carried.update({k.id: float(q) for k, q in zip(links, flows, strict=True)})
            return Solution(carried, found, frozenset(blocked), steps, energy, continuity)
        blocked = (blocked | backwards) - wrongly
    raise NotSolved("the one-way links did not settle on which of them carry water")


def _driven_forward(network: Network, blocked: set[str], heads: Mapping[str, float]) -> set[str]:
    """Blocked links whose ends would drive water forward after all."""
    return {
        k.id
        for k in network.links
        if k.id in blocked
        and k.start in heads
        and heads[k.start] > heads.get(k.end, np.inf) + ENERGY_TOLERANCE
    }


def _add_still_heads(network: Network, idle: set[str], heads: dict[str, float]) -> None:
    """Heads that stand at the ends of links in which nothing moves: a pump's is its shut-off."""
    waiting = [k for k in network.links if k.id in idle]
    while True:
        told = [k for k in waiting if (k.start in heads) != (k.end in heads)]
        if not told:
            return
        for link in told:
            lift = link.pump.head(0.0)[0] if link.pump is not None else 0.0
            if link.start in heads:
                heads.setdefault(link.end, heads[link.start] + lift)
            else:
                heads.setdefault(link.start, heads[link.end] - lift)


def _idle_links(network: Network, gone: set[str]) -> set[str]:
    """Links that can carry nothing: on the way to a dead end, or cut off from every known head."""
    left = [k for k in network.links if k.id not in gone]
    reached = set(network.known_heads)
    while True:
        more = {n for k in left for n in (k.start, k.end) if {k.start, k.end} & reached} - reached
        if not more:
            break
        reached |= more
    idle = {k.id for k in left if k.start not in reached}
    while True:
        degree = Counter(n for k in left if k.id not in idle for n in (k.start, k.end))
        loose = {n for n, d in degree.items() if d == 1 and n not in network.known_heads}
        found = {k.id for k in left if k.id not in idle and {k.start, k.end} & loose}
        if not found:
            return idle
        idle |= found
