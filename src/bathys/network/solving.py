"""All pumped branches together, by the global gradient method.

Todini, E. & Pilati, S. (1988), "A gradient algorithm for the analysis of pipe networks", in
Computer Applications in Water Supply, vol. 1, Wiley (memory): Newton's method on every link's
energy and every junction's continuity at once, with the flows eliminated so that each step is
one symmetric linear system in the junction heads.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from bathys.network.bank import LineBank
from bathys.network.lines import Line
from bathys.physics.pump_curve import PumpCurve

__all__ = ["Network", "NetworkLink", "NotSolved", "Solution", "outlet_rates", "solve"]

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


class _Balance:
    """One set of open links being solved."""

    def __init__(self, network: Network, open_links: Sequence[NetworkLink]) -> None:
        self.links = open_links
        names = {n for k in open_links for n in (k.start, k.end)}
        self.junctions = sorted(names - network.known_heads.keys())
        place = {n: i for i, n in enumerate(self.junctions)}
        known = network.known_heads
        # Junctions outside the balance fall on one spare row at the end, which is cut off.
        spare = len(self.junctions)
        self.starts = np.array([place.get(k.start, spare) for k in open_links], dtype=np.intp)
        self.ends = np.array([place.get(k.end, spare) for k in open_links], dtype=np.intp)
        self.known = np.array([known.get(k.start, 0.0) - known.get(k.end, 0.0) for k in open_links])
        self.demand = np.array([network.demands.get(n, 0.0) for n in self.junctions])
        self.is_line = np.array([k.line is not None for k in open_links], dtype=bool)
        self.bank = LineBank([k.line for k in open_links if k.line is not None])
        self.pumps = [(i, k.pump) for i, k in enumerate(open_links) if k.pump is not None]

    def losses(self, flows: Floats) -> tuple[Floats, Floats]:
        lost, slope = np.zeros_like(flows), np.zeros_like(flows)
        line_lost, line_slope = self.bank.loss(flows[self.is_line])
        lost[self.is_line] = line_lost
        slope[self.is_line] = np.maximum(line_slope, _SLOPE_FLOOR)
        for row, pump in self.pumps:
            head, fall = pump.head(float(flows[row]))
            lost[row], slope[row] = -head, -fall
        return lost, slope

    def _drop(self, heads: Floats) -> Floats:
        """Head at the start less head at the end of each link [m]."""
        padded = np.append(heads, 0.0)
        return np.asarray(self.known + padded[self.starts] - padded[self.ends])

    def _into(self, amounts: Floats) -> Floats:
        """What each link carries away from its start and to its end, summed by junction."""
        count = len(self.junctions) + 1
        away = np.bincount(self.starts, amounts, count) - np.bincount(self.ends, amounts, count)
        return np.asarray(away[:-1])

    def matrix(self, weights: Floats) -> Floats:
        count = len(self.junctions) + 1
        flat = np.concatenate([
            self.starts * count + self.starts, self.ends * count + self.ends,
            self.starts * count + self.ends, self.ends * count + self.starts,
        ])  # fmt: skip
        values = np.concatenate([weights, weights, -weights, -weights])
        full = np.bincount(flat, values, count * count).reshape(count, count)
        return np.asarray(full[:-1, :-1])

    def run(self, flows: Floats) -> tuple[Floats, Floats, int, float, float]:
        """Flows and junction heads, steps taken, and the two residuals."""
        heads: Floats = np.zeros(len(self.junctions))
        for step in range(1, _MOST_STEPS + 1):
            lost, slope = self.losses(flows)
            if step > 1:
                energy = float(np.max(np.abs(lost - self._drop(heads))))
                continuity = float(np.max(np.abs(self._into(flows) + self.demand), initial=0.0))
                if energy < ENERGY_TOLERANCE and continuity < CONTINUITY_TOLERANCE:
                    return flows, heads, step, energy, continuity
            inverse = 1.0 / slope
            if self.junctions:
                drive = self._into(inverse * (lost - self.known) - flows) - self.demand
                heads = np.asarray(np.linalg.solve(self.matrix(inverse), drive))
            change = inverse * (self._drop(heads) - lost)
            # A step cut in half now and then breaks the rare two-step dance over a kink.
            flows = flows + change * (0.5 if step % 15 == 0 else 1.0)
        worst = self.links[int(np.argmax(np.abs(lost - self._drop(heads))))]
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


def outlet_rates(network: Network, solution: Solution, outlets: Sequence[str]) -> dict[str, float]:
    """How much less each outlet carries for each metre that its own end rises.

    Parameters
    ----------
    network : Network
        A network
    solution : Solution
        Its balance
    outlets : sequence of str
        Links that end at a known head

    Returns
    -------
    dict
        By link, [m²/s]; 0 for links that carry nothing

    Notes
    -----
    From the last step's linear system: dQ/dH = w (w (Aᵀ W A)⁻¹ⱼⱼ − 1), w the link's own weight and
    j the junction it begins at.
    """
    if not outlets:
        return {}
    gone = {k.id for k in network.links if _is_shut(k)} | solution.blocked
    gone |= _idle_links(network, gone)
    balance = _Balance(network, [k for k in network.links if k.id not in gone])
    rates = dict.fromkeys(outlets, 0.0)
    wanted = [(i, k) for i, k in enumerate(balance.links) if k.id in rates]
    if not wanted:
        return rates
    flows = np.array([solution.flows[k.id] for k in balance.links])
    weights = 1.0 / balance.losses(flows)[1]
    inverse = np.diag(np.linalg.inv(balance.matrix(weights))) if balance.junctions else np.zeros(1)
    for row, link in wanted:
        start = balance.starts[row]
        own = weights[row] * inverse[start] if start < len(balance.junctions) else 0.0
        rates[link.id] = float(weights[row] * max(1.0 - own, 0.0))
    return rates


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
        held = network.known_heads.keys() | network.demands.keys()
        loose = {n for n, d in degree.items() if d == 1 and n not in held}
        found = {k.id for k in left if k.id not in idle and {k.start, k.end} & loose}
        if not found:
            return idle
        idle |= found
