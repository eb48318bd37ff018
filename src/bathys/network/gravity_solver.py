"""Levels that settle: every vessel passes on what it gets.

Newton's method on all flows and levels of the gravity lines at once. A line that would carry
water uphill is out of the balance until its upstream level reaches what it needs.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from bathys.network.gravity import GravityLine, GravityLineArrays
from bathys.network.gravity_laws import level_at
from bathys.network.gravity_newton import driven, newton_run
from bathys.network.pumped_network import NotSolved

__all__ = ["GravitySolution", "Inflow", "flows_at_levels", "solve_gravity"]

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class GravitySolution:
    """Flows and levels that hold.

    Attributes
    ----------
    flows : dict
        By line, [m³/s]
    levels : dict
        By node, known ones included, [m]
    steps : int
        Newton steps taken
    """

    flows: dict[str, float]
    levels: dict[str, float]
    steps: int


@dataclass(frozen=True, slots=True)
class Inflow:
    """What comes to a node from elsewhere.

    Attributes
    ----------
    flow : float
        Flow, below 0 for what is taken, [m³/s]
    rate : float
        How much less comes for each metre the node's level rises, [m²/s]
    level : float
        Level at which the flow holds, [m]
    least : float
        Level below which nothing can be taken: a pump's inlet, a port's mouth, [m]
    felt : dict
        How much less comes for each metre that another node's level rises, by that node, [m²/s]
    """

    flow: float
    rate: float = 0.0
    level: float = 0.0
    least: float = -np.inf
    felt: Mapping[str, float] = field(default_factory=dict)


_NOTHING = Inflow(0.0)


def solve_gravity(
    lines: Sequence[GravityLine],
    inflows: Mapping[str, Inflow],
    known: Mapping[str, float],
    first: Mapping[str, float],
    bank: GravityLineArrays | None = None,
    warm: Mapping[str, float] | None = None,
) -> GravitySolution:
    """Settle gravity lines.

    Parameters
    ----------
    lines : sequence of GravityLine
        The lines
    inflows : mapping
        What comes to each node from elsewhere
    known : mapping
        Levels that are given, [m]
    first : mapping
        Level of every other node to start from, [m]
    bank : GravityLineArrays, optional
        The lines' laws, if they stand already
    warm : mapping, optional
        Flows that held at levels close by, to start from, [m³/s]

    Returns
    -------
    GravitySolution
        Flows and levels

    Raises
    ------
    NotSolved
        If they do not settle
    """
    if not lines:
        return GravitySolution({}, {**first, **known}, 0)
    laws = bank or GravityLineArrays(lines)
    for turn, pace in enumerate(_PACES, start=1):
        try:
            periodic = _GravitySolver(lines, inflows, known, first, laws)
            return periodic.run(pace, warm if turn == 1 else None)
        except NotSolved:
            if turn == len(_PACES):
                raise
        except np.linalg.LinAlgError:
            if turn == len(_PACES):
                raise NotSolved("the levels have no answer; some vessel has no way out") from None
    raise AssertionError("unreachable")


@dataclass(frozen=True, slots=True)
class _Pace:
    """How levels are held back on their way, as if each vessel took its time to fill.

    The first way holds nothing back until the flows have not settled for long; the others hold
    from the start, ever more gently, and take more steps.
    """

    patience: int
    first: float  # [m²/s]
    less: float
    steps: int


_PACES = (
    _Pace(30, 0.05, 0.75, 90),
    _Pace(0, 0.3, 0.9, 300),
    _Pace(0, 3.0, 0.96, 900),
    _Pace(0, 3.0, 0.985, 2500),
)


def flows_at_levels(line: GravityLine, levels: Floats, down: float) -> Floats:
    """Flow through one gravity line at levels upstream of it.

    Parameters
    ----------
    line : GravityLine
        The line
    levels : array
        Levels upstream over the datum, shape (levels,), [m]
    down : float
        Level downstream, [m]

    Returns
    -------
    array
        Flows, to within a thousandth, shape (levels,), [m³/s]
    """
    bank = GravityLineArrays([line] * levels.size)
    below = np.full(levels.size, down)
    return np.asarray(driven(levels, below, bank.threshold(below), *bank.laws))


class _GravitySolver:
    def __init__(
        self,
        lines: Sequence[GravityLine],
        inflows: Mapping[str, Inflow],
        known: Mapping[str, float],
        first: Mapping[str, float],
        bank: GravityLineArrays,
    ) -> None:
        self.lines, self.bank, self.known = lines, bank, known
        self.nodes = [n for n in first if n not in known]
        place = {n: i for i, n in enumerate(self.nodes)}
        self.count = len(self.nodes)
        self.starts, self.ends = bank.ends_at(tuple(self.nodes))
        self.start_level = np.array([known.get(k.start, 0.0) for k in lines])
        self.end_level = np.array([known.get(k.end or "", -np.inf) for k in lines])
        rows = [inflows.get(n, _NOTHING) for n in self.nodes]
        flow, rate, level, least = (
            np.array([(r.flow, r.rate, r.level, r.least) for r in rows]).reshape(-1, 4).T.copy()
        )
        self.inflow, self.least = flow, least
        felt = [
            (i, place[n], r)
            for i, row in enumerate(rows)
            for n, r in row.felt.items()
            if n in place
        ]
        ones, twos = (np.array([f[k] for f in felt], dtype=np.int64) for k in (0, 1))
        pairs = (ones, twos, np.array([f[2] for f in felt], dtype=np.float64))
        self.inflows = (flow, rate, level, least, pairs)
        self.levels = np.array([first[n] for n in self.nodes], dtype=np.float64)

    def _down(self) -> Floats:
        return np.where(
            self.ends < self.count, np.append(self.levels, 0.0)[self.ends], self.end_level
        )

    def _lowest(self) -> Floats:
        """Level below which nothing draws a node: of its mouth and its lines' crests."""
        crests = np.full(self.count + 1, np.inf)
        np.minimum.at(crests, self.starts, self.bank.crest)
        mouths = np.where(np.isfinite(self.least), self.least, np.inf)
        return np.asarray(np.minimum(np.minimum(mouths, crests[:-1]), self.levels))

    def _in_water_order(self) -> list[int]:
        """Nodes so that each comes after those that feed it; a ring is cut at its highest."""
        usual = [i for i, k in enumerate(self.lines) if k.is_usual and self.starts[i] < self.count]
        feeds = [0] * (self.count + 1)
        for row in usual:
            feeds[self.ends[row]] += 1
        leaving: dict[int, list[int]] = {}
        for row in usual:
            leaving.setdefault(int(self.starts[row]), []).append(row)
        left = sorted(range(self.count), key=lambda n: (feeds[n], -self.levels[n]))
        order: list[int] = []
        done: set[int] = set()
        while left:
            node = next((n for n in left if feeds[n] == 0), left[0])
            left.remove(node)
            order.append(node)
            done.add(node)
            for row in leaving.get(node, ()):
                feeds[self.ends[row]] -= 1
        return order

    def _first_guess(self) -> Floats:
        """Route all inflow down the lines, node by node as the water runs, and let each level
        be what its line needs, from the lowest up. Where several lines leave a node, the one that
        needs least alone sets the level, and the others take their share of it."""
        carried: dict[int, list[int]] = {}
        for row, line in enumerate(self.lines):
            if self.starts[row] < self.count and line.is_usual:
                carried.setdefault(int(self.starts[row]), []).append(row)
        brims = {
            int(self.starts[i]): i
            for i, k in enumerate(self.lines)
            if k.inlet == "brim" and self.starts[i] < self.count
        }
        crests = self.bank.crest.tolist()
        tops = {node: crests[row] for node, row in brims.items()}
        # A junction has no rim; no water stands higher in it than the highest of all rims.
        highest = max(tops.values(), default=np.inf)
        order = self._in_water_order()
        flows = self._routed(order, carried)
        if brims:
            need, _, _ = self.bank.need(flows, np.full(len(self.lines), -np.inf))
            alone = need.tolist()
            if any(
                flows[row] > 0.0 and alone[row] > tops.get(node, highest)
                for node, rows in carried.items()
                for row in rows
            ):
                flows = self._routed(order, carried, brims, highest)
        rank = {node: i for i, node in enumerate(order)}
        upwards = sorted(carried, key=lambda n: -rank[n])
        runs = flows > 0.0
        for _ in range(2):  # once for the inlets, once more for what stands downstream
            need = self.bank.need(flows, self._down())[0].tolist()
            for node in upwards:
                rows = [r for r in carried[node] if runs[r]]
                if rows:
                    top = need[brims[node]] if node in brims else highest
                    self.levels[node] = min(max(need[r] for r in rows), top)
        return flows

    def _routed(
        self,
        order: Sequence[int],
        carried: Mapping[int, list[int]],
        brims: Mapping[int, int] | None = None,
        highest: float = np.inf,
    ) -> Floats:
        """All inflow down the lines; with ``brims``, less what runs over rims on its way."""
        flows = np.zeros(len(self.lines))
        amount = [*self.inflow.tolist(), 0.0]
        for node in order:
            rows = carried.get(node, [])
            if not rows or amount[node] <= 0.0:
                continue
            if len(rows) > 1:
                flows[rows] = amount[node] * self._shares(rows, amount[node])
            else:
                flows[rows[0]] = amount[node]
            if brims:
                self._spill(flows, rows, brims.get(node), highest, amount[node])
            for row in rows:
                amount[self.ends[row]] += float(flows[row])
        return flows

    def _spill(
        self, flows: Floats, rows: list[int], brim: int | None, highest: float, amount: float
    ) -> None:
        """Let what a vessel's lines do not pass with it full to its rim run over that: a valve all
        but shut would else ask for a level of hundreds of metres. A junction has no rim; no water
        stands higher in it than the highest of all rims."""
        top = highest if brim is None else float(self.bank.crest[brim])
        if all(level_at(flows[r], -np.inf, r, *self.bank.laws) <= top for r in rows):
            return
        full, down = np.full(len(self.lines), top), np.full(len(self.lines), -np.inf)
        most = driven(full, down, self.bank.threshold(down), *self.bank.laws)[rows]
        if most.sum() < amount and np.any(flows[rows] > most):
            flows[rows] = np.minimum(flows[rows], most)
            if brim is not None:
                flows[brim] = amount - flows[rows].sum()

    def _shares(self, rows: list[int], amount: float) -> Floats:
        """About how a flow is shared among the lines that leave one node."""
        alone = np.zeros(len(self.lines))
        alone[rows] = amount
        down = np.full(len(self.lines), -np.inf)
        level = float(np.min(self.bank.need(alone, down)[0][rows]))
        up = np.full(len(self.lines), level)
        taken = driven(up, down, self.bank.threshold(down), *self.bank.laws)[rows]
        total = float(taken.sum())
        return taken / total if total > 0.0 else np.full(len(rows), 1.0 / len(rows))

    def run(self, pace: _Pace, warm: Mapping[str, float] | None = None) -> GravitySolution:
        """Newton's method from a first guess, or from flows that held just before."""
        lowest = self._lowest()
        held = warm or {}
        flows = np.array([held.get(k.id, 0.0) for k in self.lines])
        flows = flows if warm else self._first_guess()
        steps, flows, self.levels, off = newton_run(
            (self.starts, self.ends, self.start_level, self.end_level),
            self.inflows,
            lowest,
            (pace.patience, pace.first, pace.less, pace.steps),
            self.bank.begins,
            flows,
            self.levels,
            self.bank.laws,
        )
        if steps > pace.steps:
            raise NotSolved(
                f"the levels did not settle in {pace.steps} steps; the worst line is "
                f"{self.lines[int(np.argmax(np.abs(off)))].id}"
            )
        return self._answer(flows, steps)

    def _answer(self, flows: Floats, steps: int) -> GravitySolution:
        levels = {**self.known, **dict(zip(self.nodes, map(float, self.levels), strict=True))}
        carried = {k.id: float(q) for k, q in zip(self.lines, flows, strict=True)}
        return GravitySolution(carried, levels, steps)
