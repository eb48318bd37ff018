"""A plan compiled for the time simulation: nodes that store, lines between them, siphons."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bathys.network import GravityBank, GravityLine, Line, NetworkLink, Piece, gravity_lines, solve
from bathys.network.drains import brim_lines, rest_height
from bathys.network.layout import Layout, PressureNetwork
from bathys.network.runs import fouled_bore
from bathys.parts.fittings import STOPPED_PUMP_LOSS
from bathys.physics.openings import rim_head
from bathys.physics.siphon import BREAK_SHARE_PLAIN, start_flow
from bathys.plan.model import Plan, Pump, SolidsLift
from bathys.simulation.bell import BellSiphonModel
from bathys.vessels import Storage, storage_of

__all__ = ["Latch", "NotSimulated", "System", "compile_system"]

Floats = NDArray[np.float64]

OUTSIDE = "outside"
_LEAST_AREA = 0.002  # of a junction, which stores what stands in the pipes about it [m²]
_TABLE_POINTS = 17
_DEEP = 0.3  # depth of a junction below its invert, so that it never runs dry [m]


class NotSimulated(ValueError):
    """A layout that the simulation does not follow; its message says why."""


@dataclass(frozen=True, slots=True)
class Latch:
    """A closed crest: spills over it until it starts to siphon, then runs full until air gets in.

    Attributes
    ----------
    id, name : str
        Of the siphon or the unvented lift
    vessel : str
        What it drains
    start_level : float
        Level at which it starts, over the datum, [m]
    intake_level : float
        Level at which air gets in, [m]
    break_share : float
        Share of its full flow at the intake that may still come while it breaks, [-]
    spill, full : GravityLine
        What it carries in either state
    is_meant : bool
        Whether it is built to siphon
    """

    id: str
    name: str
    vessel: str
    start_level: float
    intake_level: float
    break_share: float
    spill: GravityLine
    full: GravityLine
    is_meant: bool


@dataclass(frozen=True)
class System:
    """Everything the simulation needs of a plan.

    Attributes
    ----------
    layout : Layout
        The plan compiled
    nodes : tuple of str
        Vessels first, then gravity junctions; the outside comes last and is not among them
    lines : tuple of GravityLine
        All lines, a latch's two among them
    latches : tuple of Latch
        Siphons, meant or not
    storages : dict of Storage
        By vessel
    """

    layout: Layout
    nodes: tuple[str, ...]
    lines: tuple[GravityLine, ...]
    latches: tuple[Latch, ...]
    storages: dict[str, Storage]

    @property
    def plan(self) -> Plan:
        """The plan."""
        return self.layout.plan

    def floor(self, node: str) -> float:
        """Where a node's storage begins, over the datum [m]."""
        vessel = self.plan.part(node)
        if vessel is not None and node in self.storages:
            return float(vessel.floor_height)
        return min(k.crest for k in self.lines if k.start == node) - _DEEP

    def rest_volumes(self) -> Floats:
        """Water of every node with all pumps off and all drained back [m³]; none outside."""
        volumes = []
        for node in self.nodes:
            if node in self.storages:
                depth = rest_height(self.layout, self.plan.vessel(node))
                volumes.append(self.storages[node].volume_at(depth))
            else:
                volumes.append(_DEEP * self._pipe_area(node))
        return np.array([*volumes, 0.0])

    def _pipe_area(self, node: str) -> float:
        runs = [r for r in self.plan.runs if node in (r.start, r.end)]
        return max(sum(0.5 * fouled_bore(r) * r.level_length for r in runs), _LEAST_AREA)

    def vessel_arrays(self) -> tuple[Any, ...]:
        """Storage of all nodes in flat arrays: where each begins, its heights, volumes, areas."""
        start, marks, held, areas = [0], [], [], []
        for node in self.nodes:
            if node in self.storages:
                storage = self.storages[node]
                heights = storage.heights.tolist()
                held += [storage.volume_at(h) for h in heights]
                areas += storage.areas.tolist()
            else:
                heights = [0.0]
                held.append(0.0)
                areas.append(self._pipe_area(node))
            marks += heights
            start.append(len(marks))
        floors = np.array([self.floor(n) for n in self.nodes])
        return np.array(start), np.array(marks), np.array(held), np.array(areas), floors

    def line_arrays(self) -> tuple[tuple[Any, Any], tuple[Any, ...]]:
        """Where lines begin and end, and their laws."""
        place = {n: i for i, n in enumerate(self.nodes)}
        outside = len(self.nodes)
        begins = np.array([place[k.start] for k in self.lines], dtype=np.int64)
        ends = np.array([place.get(k.end or "", outside) for k in self.lines], dtype=np.int64)
        return (begins, ends), GravityBank(self.lines).laws

    def latch_arrays(self, modes: Mapping[str, int]) -> tuple[Any, ...]:
        """States of the latches, and which lines are theirs."""
        place = {n: i for i, n in enumerate(self.nodes)}
        rows = {k.id: i for i, k in enumerate(self.lines)}
        taps = np.full(len(self.lines), -1, dtype=np.int64)
        for number, latch in enumerate(self.latches):
            taps[rows[latch.spill.id]] = taps[rows[latch.full.id]] = number
        return (
            np.array([modes[x.id] for x in self.latches], dtype=np.int64),
            np.array([rows[x.full.id] for x in self.latches], dtype=np.int64),
            np.array([rows[x.spill.id] for x in self.latches], dtype=np.int64),
            np.array([place[x.vessel] for x in self.latches], dtype=np.int64), taps,
        )  # fmt: skip

    def pumped_arrays(
        self, running: frozenset[str], levels: Mapping[str, float]
    ) -> tuple[Any, ...]:
        """Flow of every outlet under pressure against the level its pump stands in, all else as
        it is; stopped pumps are pieces of pipe."""
        place = {n: i for i, n in enumerate(self.nodes)}
        network = PressureNetwork(self.layout)
        rows: list[tuple[int, int, Floats, float, float, float]] = []
        for source, outlets in self.sources().items():
            vessel = self.plan.vessel(source)
            step = vessel.shape.height / (_TABLE_POINTS - 1)
            table = np.zeros((len(outlets), _TABLE_POINTS))
            flows = None
            for column in range(_TABLE_POINTS):
                here = {**levels, source: vessel.floor_height + column * step}
                flows = solve(self._with_stopped(network.at(here), running), flows).flows
                table[:, column] = [flows[run] for run, _ in outlets]
            inlets = [p.inlet_height for p in self.plan.pumps
                      if p.id in running and p.stands_in == source]  # fmt: skip
            inlet = vessel.floor_height + min(inlets, default=0.0)
            rows += [
                (place[source], place[end], table[k], vessel.floor_height, step, inlet)
                for k, (_, end) in enumerate(outlets)
            ]
        columns = list(zip(*rows, strict=True)) if rows else [()] * 6
        tables = np.array(columns[2]) if rows else np.zeros((0, _TABLE_POINTS))
        return (
            np.array(columns[0], dtype=np.int64), np.array(columns[1], dtype=np.int64), tables,
            np.array(columns[3], dtype=float), np.array(columns[4], dtype=float),
            np.array(columns[5], dtype=float),
        )  # fmt: skip

    def _with_stopped(self, network: Any, running: frozenset[str]) -> Any:
        links = tuple(
            k if k.pump is None or k.id in running else self._stopped(k) for k in network.links
        )
        return replace(network, links=links)

    def _stopped(self, link: NetworkLink) -> NetworkLink:
        riser = self.plan.run_from(f"{link.id}.out")
        bore = fouled_bore(riser) if riser is not None else 0.02
        piece = Piece("fitting", "stopped pump", bore, loss=STOPPED_PUMP_LOSS)
        line = Line([piece], self.layout.water.kinematic_viscosity)
        return replace(link, pump=None, line=line)

    def sources(self) -> dict[str, list[tuple[str, str]]]:
        """By the vessel its pumps stand in: each line under pressure that ends in a vessel, and
        that vessel.

        Raises
        ------
        NotSimulated
            If pumps in several vessels are tied to one line
        """
        owner: dict[str, str] = {}
        found: dict[str, list[tuple[str, str]]] = {}
        for pump in self.plan.pumps:
            waiting, seen = [f"{pump.id}.out"], {f"{pump.id}.out"}
            while waiting:
                place = waiting.pop()
                for run in (*self.plan.runs_from(place), *self.plan.runs_to(place)):
                    known = owner.setdefault(run.id, pump.stands_in)
                    if known != pump.stands_in:
                        raise NotSimulated(
                            f"{run.name} is fed by pumps in two vessels; that is not followed "
                            "through time yet."
                        )
                    ends = {p for p in (run.start, run.end) if self.plan.group_of(p) == "junctions"}
                    waiting += sorted(ends - seen)
                    seen |= ends
        for run in self.layout.pressure_runs:
            if self.plan.port(run.end) is not None and run.id in owner:
                pair = (run.id, run.end.partition(".")[0])
                found.setdefault(owner[run.id], []).append(pair)
        return found

    def returns(self) -> list[tuple[str, float]]:
        """Vessel and height of each outlet under pressure [m]: the pumps' flows change where the
        water comes over it."""
        return [
            (r.end.partition(".")[0], self.plan.elevation(r.end) or 0.0)
            for r in self.layout.pressure_runs
            if self.plan.port(r.end) is not None
        ]

    def pump(self, id_: str) -> Pump:
        """A pump of the plan."""
        pump = self.plan.part(id_)
        assert isinstance(pump, Pump)  # noqa: S101 - ids come from the plan's pumps
        return pump


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
    latches = _latches(layout)
    twofold = {x.spill.id.partition("~")[0] for x in latches}
    lines = [k for k in gravity_lines(layout) if k.id not in twofold]
    lines += [k for x in latches for k in (x.spill, x.full)]
    lines += brim_lines(layout)
    nodes = {v.id: None for v in plan.vessels}
    for line in lines:
        nodes.setdefault(line.start)
        if line.end is not None:
            nodes.setdefault(line.end)
    storages = {v.id: storage_of(plan, v) for v in plan.vessels}
    system = System(layout, tuple(nodes), tuple(lines), tuple(latches), storages)
    system.sources()
    return system


def _latches(layout: Layout) -> list[Latch]:
    plan, found = layout.plan, []
    plain = {k.id: k for k in gravity_lines(layout)}
    for siphon in plan.siphons:
        tail = plan.run_from(f"{siphon.id}.tail")
        if tail is None or tail.id not in plain:
            continue
        bell = BellSiphonModel(plan, siphon, tail, layout.water.kinematic_viscosity)
        old = plain[tail.id]
        spill = GravityLine(f"{tail.id}~spill", old.start, old.end, "rim", old.crest, bell.bore)
        full = GravityLine(f"{tail.id}~full", old.start, old.end, "full", -1e6, bell.bore,
                           outlet=bell.outlet, line=bell.line)  # fmt: skip
        found.append(Latch(
            siphon.id, siphon.name, siphon.stands_in, bell.floor + bell.priming_level,
            bell.floor + bell.intake, bell.break_share.value, spill, full, is_meant=True,
        ))  # fmt: skip
    for outlet in plan.outlets:
        run = plan.run_from(f"{outlet.id}.out")
        if isinstance(outlet, SolidsLift) and not outlet.vented and run and run.id in plain:
            found.append(_closed_lift(layout, outlet, plain[run.id]))
    return found


def _closed_lift(layout: Layout, lift: SolidsLift, old: GravityLine) -> Latch:
    """A lift without its open tee: it latches once its pipe cannot vent itself."""
    assert old.line is not None and old.lift is not None  # noqa: S101 - a lift has both
    floor = layout.plan.vessel(lift.stands_in).floor_height
    spill = replace(old, id=f"{old.id}~spill")
    whole = Line([*old.lift.pieces, *old.line.pieces], old.line.viscosity)
    full = GravityLine(f"{old.id}~full", old.start, old.end, "full", -1e6, old.bore,
                       outlet=old.outlet, line=whole)  # fmt: skip
    begins = old.crest + rim_head(start_flow(old.bore), old.bore)
    return Latch(
        lift.id, lift.name, layout.plan.owner_of(f"{lift.id}.out") or lift.stands_in, begins,
        floor + lift.intake_height, BREAK_SHARE_PLAIN.value, spill, full, is_meant=False,
    )  # fmt: skip
