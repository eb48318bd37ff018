"""All pumped branches together, by the global gradient method.

Todini, E. & Pilati, S. (1988), "A gradient algorithm for the analysis of pipe networks", in
Computer Applications in Water Supply, vol. 1, Wiley (memory): Newton's method on every link's
energy and every junction's continuity at once, with the flows eliminated so that each step is
one symmetric linear system in the junction heads.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bathys.network.line_arrays import LineArrays
from bathys.network.pumped_network import Network, NetworkLink, NotSolved, Solution

__all__ = ["Solver", "solve"]

Floats = NDArray[np.float64]
Places = NDArray[np.int64]

CONTINUITY_TOLERANCE = 1e-9
"""Greatest imbalance left at a junction [m³/s]."""
ENERGY_TOLERANCE = 1e-7
"""Greatest imbalance left along a link [m]."""
_TRICKLE_TOLERANCE = 2e-9  # left where water as good as stands still [m³/s]
_STILL, _STILL_SLOPE = 1e-6, 1.0  # such as in a level ring: less flow [m³/s], some slope [s/m²]
_MOST_STEPS = 100
_SLOPE_FLOOR = 1e-3  # [s/m²]; a link of minor losses alone is flat at no flow
_FIRST_FLOW = 1e-4  # [m³/s]; any sane start leads to the same answer
_MOST_SWITCHES = 60


@njit(cache=True)
def _matrix(starts: Places, ends: Places, weights: Floats, count: int) -> Floats:
    full = np.zeros((count + 1, count + 1))
    for k in range(starts.size):
        one, two, w = starts[k], ends[k], weights[k]
        full[one, one] += w
        full[two, two] += w
        full[one, two] -= w
        full[two, one] -= w
    return full[:-1, :-1].copy()


@njit(cache=True)
def _residuals(
    starts: Places,
    ends: Places,
    known: Floats,
    demand: Floats,
    lost: Floats,
    slope: Floats,
    flows: Floats,
    heads: Floats,
) -> tuple[float, float, float]:
    """Greatest imbalance along any link [m] and at any junction [m³/s], and the greatest flow that
    a link which as good as stands still has yet to change by [m³/s]."""
    away = np.append(demand, 0.0)
    energy = trickle = 0.0
    for k in range(starts.size):
        away[starts[k]] += flows[k]
        away[ends[k]] -= flows[k]
        drop = known[k] + heads[starts[k]] - heads[ends[k]]
        left = abs(lost[k] - drop)
        energy = max(energy, left)
        if abs(flows[k]) < _STILL and slope[k] >= _STILL_SLOPE:
            trickle = max(trickle, left / slope[k])
    continuity = 0.0
    for j in range(demand.size):
        continuity = max(continuity, abs(away[j]))
    return energy, continuity, trickle


@njit(cache=True)
def _newton(
    starts: Places,
    ends: Places,
    known: Floats,
    demand: Floats,
    lost: Floats,
    slope: Floats,
    flows: Floats,
    share: float,
) -> tuple[Floats, Floats]:
    """One step: the flows and the heads after it, those of the spare row last and 0."""
    count = demand.size
    weights = 1.0 / slope
    drive = np.zeros(count + 1)
    for k in range(starts.size):
        by = weights[k] * (lost[k] - known[k]) - flows[k]
        drive[starts[k]] += by
        drive[ends[k]] -= by
    heads = np.zeros(count + 1)
    if count:
        matrix = _matrix(starts, ends, weights, count)
        heads[:-1] = np.linalg.solve(matrix, drive[:-1] - demand)
    after = np.empty_like(flows)
    for k in range(starts.size):
        drop = known[k] + heads[starts[k]] - heads[ends[k]]
        after[k] = flows[k] + share * weights[k] * (drop - lost[k])
    return after, heads


class _Structure:
    """One set of open links, apart from the heads it lies between."""

    def __init__(self, network: Network, gone: frozenset[str]) -> None:
        self.idle = _idle_links(network, gone)
        self.links = [k for k in network.links if k.id not in gone and k.id not in self.idle]
        names = {n for k in self.links for n in (k.start, k.end)}
        self.junctions = sorted(names - network.known_heads.keys())
        place = {n: i for i, n in enumerate(self.junctions)}
        # Nodes of known head fall on one spare row at the end, which is cut off.
        spare = len(self.junctions)
        self.starts = np.array([place.get(k.start, spare) for k in self.links], dtype=np.int64)
        self.ends = np.array([place.get(k.end, spare) for k in self.links], dtype=np.int64)
        self.is_line = np.array([k.line is not None for k in self.links], dtype=bool)
        self.bank = LineArrays([k.line for k in self.links if k.line is not None])
        self.pumps = [(i, k.pump) for i, k in enumerate(self.links) if k.pump is not None]

    def losses(self, flows: Floats) -> tuple[Floats, Floats]:
        lost, slope = np.empty_like(flows), np.empty_like(flows)
        line_lost, line_slope = self.bank.loss(flows[self.is_line])
        lost[self.is_line] = line_lost
        slope[self.is_line] = np.maximum(line_slope, _SLOPE_FLOOR)
        for row, pump in self.pumps:
            head, fall = pump.head(float(flows[row]))
            lost[row], slope[row] = -head, -fall
        return lost, slope

    def run(self, network: Network, flows: Floats) -> tuple[Floats, Floats, int, float, float]:
        """Flows and junction heads, steps taken, and the two residuals."""
        heads_of, demands = network.known_heads, network.demands
        known = np.array(
            [heads_of.get(k.start, 0.0) - heads_of.get(k.end, 0.0) for k in self.links]
        )
        demand = np.array([demands.get(n, 0.0) for n in self.junctions])
        heads: Floats = np.zeros(len(self.junctions) + 1)
        place = (self.starts, self.ends, known, demand)
        for step in range(1, _MOST_STEPS + 1):
            lost, slope = self.losses(flows)
            if step > 1:
                energy, continuity, trickle = _residuals(*place, lost, slope, flows, heads)
                is_even = energy < ENERGY_TOLERANCE and continuity < CONTINUITY_TOLERANCE
                if is_even and trickle < _TRICKLE_TOLERANCE:
                    return flows, heads[:-1], step, energy, continuity
            # A step cut in half now and then breaks the rare two-step dance over a kink.
            share = 0.5 if step % 15 == 0 else 1.0
            try:
                flows, heads = _newton(*place, lost, slope, flows, share)
            except np.linalg.LinAlgError:
                raise NotSolved("the pumped runs have no one answer") from None
        worst = self.links[
            int(np.argmax(np.abs(lost - known - heads[self.starts] + heads[self.ends])))
        ]
        raise NotSolved(
            f"the flows did not settle in {_MOST_STEPS} steps; the worst link is {worst.id}"
        )


def _is_shut(link: NetworkLink) -> bool:
    return link.line is not None and link.line.shut


class Solver:
    """Balances networks that share their links, as one plan's at many levels do."""

    def __init__(self) -> None:
        self._kept: dict[tuple[int, frozenset[str]], tuple[Network, _Structure]] = {}
        self._shut: dict[int, tuple[tuple[NetworkLink, ...], frozenset[str]]] = {}

    def _shut_of(self, network: Network) -> frozenset[str]:
        links = network.links
        if self._shut.get(id(links), (None,))[0] is not links:
            self._shut[id(links)] = (links, frozenset(k.id for k in links if _is_shut(k)))
        return self._shut[id(links)][1]

    def _structure(self, network: Network, gone: frozenset[str]) -> _Structure:
        # Networks of the same tuple of links, with heads known at the same nodes, are alike.
        key = (id(network.links), gone)
        kept = self._kept.get(key)
        if (
            kept is None
            or kept[0].known_heads.keys() != network.known_heads.keys()
            or kept[0].demands.keys() != network.demands.keys()
        ):
            kept = self._kept[key] = (network, _Structure(network, gone))
        return kept[1]

    def solve(self, network: Network, first_flows: Mapping[str, float] | None = None) -> Solution:
        """Balance a network from first flows [m³/s]; see :func:`solve`."""
        start = first_flows or {}
        shut = self._shut_of(network)
        blocked: set[str] = set()
        for _ in range(_MOST_SWITCHES):
            structure = self._structure(network, shut | blocked)
            links = structure.links
            first = np.array([start.get(k.id) or _FIRST_FLOW for k in links])
            flows, heads, steps, energy, continuity = (
                structure.run(network, first) if links else (first, np.zeros(0), 0, 0.0, 0.0)
            )
            found = dict(network.known_heads)
            found.update(dict(zip(structure.junctions, heads.tolist(), strict=True)))
            _add_still_heads(network, structure.idle, found)
            carried = dict(zip((k.id for k in links), flows.tolist(), strict=True))
            backwards = {k.id for k in links if k.one_way and carried[k.id] < -CONTINUITY_TOLERANCE}
            wrongly = set() if backwards else _driven_forward(network, blocked, found)
            if not backwards and not wrongly:
                every = {**dict.fromkeys((k.id for k in network.links), 0.0), **carried}
                return Solution(every, found, frozenset(blocked), steps, energy, continuity)
            blocked = (blocked | backwards) - wrongly
        raise NotSolved("the one-way links did not settle on which of them carry water")

    def outlet_rates(
        self, network: Network, solution: Solution, outlets: Sequence[str]
    ) -> dict[tuple[str, str], float]:
        """How much less each link brings to the known head it ends or begins at for each metre
        that this head, or that of another of the links, rises.

        Parameters
        ----------
        network : Network
            A network
        solution : Solution
            Its balance
        outlets : sequence of str
            Links that end, or begin, at a known head

        Returns
        -------
        dict
            By link and the link whose head rises, [m²/s]; links that carry nothing, and pairs that
            do not feel each other, left out

        Notes
        -----
        From the last step's linear system: dQᵢ/dHₖ = wᵢ wₖ (Aᵀ W A)⁻¹ᵢₖ, and less wᵢ for the link's
        own; w the links' weights, i and k the junctions at their other ends.
        """
        rates: dict[tuple[str, str], float] = {}
        if not outlets:
            return rates
        shut = self._shut_of(network)
        structure = self._structure(network, shut | solution.blocked)
        asked = set(outlets)
        wanted = [(i, k) for i, k in enumerate(structure.links) if k.id in asked]
        if not wanted:
            return rates
        flows = np.array([solution.flows[k.id] for k in structure.links])
        weights = 1.0 / structure.losses(flows)[1]
        count = len(structure.junctions)
        inverse: NDArray[Any] = np.zeros((1, 1))
        if count:
            inverse = np.linalg.inv(_matrix(structure.starts, structure.ends, weights, count))
        junctions = np.minimum(structure.starts, structure.ends)
        for row, link in wanted:
            one, own = junctions[row], weights[row]
            share = own * inverse[one, one] if one < count else 0.0
            rates[link.id, link.id] = float(own * max(1.0 - share, 0.0))
            for other, felt in wanted:
                two = junctions[other]
                if other != row and one < count and two < count:
                    rates[link.id, felt.id] = float(-own * weights[other] * inverse[one, two])
        return rates


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
    return Solver().solve(network, first_flows)


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


def _idle_links(network: Network, gone: frozenset[str]) -> set[str]:
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
