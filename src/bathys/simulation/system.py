"""A plan compiled for the time simulation: nodes that store, lines between them, siphons."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathys.network import GravityLine, GravityLineArrays, gravity_lines
from bathys.network.drains import BRIM, brim_lines
from bathys.network.layout import Layout
from bathys.network.rest import at_rest
from bathys.network.runs import fouled_bore
from bathys.plan.model import Plan
from bathys.simulation.compiled import LAYER, NODE, SIPHON, Compiled
from bathys.simulation.elimination import structure_of
from bathys.simulation.latch import Latch
from bathys.simulation.line_tables import line_tables
from bathys.simulation.pumped import PumpedTables
from bathys.simulation.siphon_states import latches_of
from bathys.vessels import Storage, storage_of

__all__ = ["System", "compile_system"]

Floats = NDArray[np.float64]

_LEAST_AREA = 0.002  # of a junction, which stores what stands in the pipes about it [m²]
_HIGHER = 3.0  # no level stands so far over the highest rim [m]
_DEEP = 0.3  # depth of a junction below its invert, so that it never runs dry [m]


@dataclass(frozen=True)
class System:
    """Everything the simulation needs of a plan.

    Attributes
    ----------
    layout : Layout
        The plan compiled
    nodes : tuple of str
        Vessels first, then gravity junctions. Sinks, which are not among them, come after: what
        runs over the rim of each vessel, what fills the pumped runs, and last the outside
    lines : tuple of GravityLine
        All lines, a latch's two among them
    latches : tuple of Latch
        Siphons, meant or not, and other ways out with two states
    storages : dict of Storage
        By vessel
    pumps : PumpedTables
        What the pumps deliver
    """

    layout: Layout
    nodes: tuple[str, ...]
    lines: tuple[GravityLine, ...]
    latches: tuple[Latch, ...]
    storages: dict[str, Storage]
    pumps: PumpedTables

    @property
    def plan(self) -> Plan:
        """The plan."""
        return self.layout.plan

    @property
    def sinks(self) -> int:
        """How many sinks there are."""
        return len(self.plan.vessels) + 2

    def floor(self, node: str) -> float:
        """Where a node's storage begins, over the datum [m]."""
        vessel = self.plan.part(node)
        if vessel is not None and node in self.storages:
            return float(vessel.floor_height)
        crests = [k.crest for k in self.lines if k.start == node]
        return min(crests, default=float(vessel.height) if vessel is not None else 0.0) - _DEEP

    def rest_volumes(self) -> Floats:
        """Water of every node with all pumps off and all drained back [m³]; none in the sinks."""
        volumes, rest = [], at_rest(self.layout).levels
        for node in self.nodes:
            if node in self.storages:
                depth = rest[node] - self.plan.vessel(node).floor_height
                volumes.append(self.storages[node].volume_at(depth))
            else:
                volumes.append(_DEEP * self._pipe_area(node))
        return np.array([*volumes, *[0.0] * self.sinks])

    def _pipe_area(self, node: str) -> float:
        runs = [r for r in self.plan.runs if node in (r.start, r.end)]
        return max(sum(0.5 * fouled_bore(r) * r.level_length for r in runs), _LEAST_AREA)

    def compiled(self) -> Compiled:
        """The plan as the compiled core reads it."""
        place = {n: i for i, n in enumerate(self.nodes)}
        nodes, layers = self._storage_arrays()
        ends, laws = self._line_ends(place)
        highest = _HIGHER + max(v.floor_height + v.shape.height for v in self.plan.vessels)
        lines = line_tables(ends, laws, highest)
        rows = {k.id: i for i, k in enumerate(self.lines)}
        siphons = np.zeros(len(self.latches), dtype=SIPHON)
        for number, latch in enumerate(self.latches):
            full, spill = rows[latch.full.id], rows[latch.spill.id]
            lines.lines["siphon"][[full, spill]] = number
            siphons[number] = (
                full,
                spill,
                place[latch.vessel],
                latch.start_level,
                latch.intake_level,
                latch.break_share,
                0,
            )
        links = [(int(a), int(b)) for a, b in zip(*ends[:2], strict=True) if b < len(self.nodes)]
        links += [
            (place[g.source], place[r.vessel])
            for g in self.pumps.groups
            for r in g.returns
            if r.vessel
        ]
        links += [
            (place[m.source], place[m.target]) for m in self.plan.moves if m.source and m.target
        ]
        for top_up in self.plan.top_ups:
            if top_up.draws_from is not None:
                # Its flow hangs on both levels.
                own, other = place[top_up.stands_in], place[top_up.draws_from]
                links += [(other, own), (own, other)]
        structure = structure_of(len(self.nodes), links)
        return Compiled(nodes, layers, siphons, lines, laws, structure)

    def _storage_arrays(self) -> tuple[Any, Any]:
        nodes = np.zeros(len(self.nodes), dtype=NODE)
        layers: list[tuple[float, float, float]] = []
        for number, node in enumerate(self.nodes):
            first = len(layers)
            if node in self.storages:
                storage = self.storages[node]
                for height, area in zip(storage.heights.tolist(), storage.areas, strict=True):
                    layers.append((storage.volume_at(height), height, 1.0 / area))
            else:
                layers.append((0.0, 0.0, 1.0 / self._pipe_area(node)))
            nodes[number] = (first, len(layers), self.floor(node))
        return nodes, np.array(layers, dtype=LAYER)

    def _line_ends(self, place: Mapping[str, int]) -> tuple[tuple[Any, Any, Any], tuple[Any, ...]]:
        """Where lines begin and end and the level below which each is dry, and their laws."""
        rims = {v.id + BRIM: len(self.nodes) + i for i, v in enumerate(self.plan.vessels)}
        begins = np.array([place[k.start] for k in self.lines], dtype=np.int64)
        # What goes over a rim comes to that rim's sink, what leaves by an outfall to the outside.
        outside = len(self.nodes) + self.sinks - 1
        ends = np.array(
            [rims.get(k.id, outside) if k.end is None else place[k.end] for k in self.lines],
            dtype=np.int64,
        )
        bank = GravityLineArrays(self.lines)
        still, nowhere = np.zeros(len(self.lines)), np.full(len(self.lines), -np.inf)
        dry = bank.need(still, nowhere)[0] if self.lines else still
        return (begins, ends, dry), bank.laws


def compile_system(layout: Layout) -> System:
    """Compile a plan for the simulation.

    Parameters
    ----------
    layout : Layout
        The plan compiled for its balance

    Returns
    -------
    System
        Nodes, lines and latches

    Raises
    ------
    NotSimulated
        If the layout is not followed
    """
    plan = layout.plan
    latches = latches_of(layout)
    twofold = {x.spill.id.partition("~")[0] for x in latches}
    lines = [k for k in gravity_lines(layout) if k.id not in twofold]
    lines += [k for x in latches for k in (x.spill, x.full)]
    lines += brim_lines(layout, into_others=True)
    nodes = {v.id: None for v in plan.vessels}
    for line in lines:
        nodes.setdefault(line.start)
        if line.end is not None:
            nodes.setdefault(line.end)
    storages = {v.id: storage_of(plan, v) for v in plan.vessels}
    return System(
        layout, tuple(nodes), tuple(lines), tuple(latches), storages, PumpedTables(layout)
    )
