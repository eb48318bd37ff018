"""What of a plan runs full under a pump's head, and what runs down by itself."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from bathys.network.lines import Line
from bathys.network.pumped_network import Network, NetworkLink
from bathys.network.runs import (
    curve_of_pump,
    fouled_bore,
    holds_back,
    line_of_run,
    start_height,
    stops_backflow,
)
from bathys.physics.water import Water
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.topology import tied_together

__all__ = [
    "FILM",
    "Layout",
    "PressureNetwork",
    "end_node",
    "layout_of",
    "mouth_node",
    "pressure_network",
]


FILM = 1e-5
"""A mouth under no more water than this is bare: a vessel that was drawn down to it never quite
gets there [m]."""


@dataclass(frozen=True, eq=False)  # one is itself alone, so that what is made of it can be kept
class Layout:
    """A plan compiled for its balance.

    Attributes
    ----------
    plan : Plan
        The plan
    water : Water
        Its water
    lines : dict of Line
        What each run loses, by id
    pressure : frozenset of str
        Runs that a pump keeps full, and whatever is tied to them
    gravity : tuple of str
        All other runs
    """

    plan: Plan
    water: Water
    lines: dict[str, Line]
    pressure: frozenset[str]
    gravity: tuple[str, ...]

    @property
    def pressure_runs(self) -> Iterator[Run]:
        """Runs under a pump's head, in the plan's order."""
        return (r for r in self.plan.runs if r.id in self.pressure)

    @cached_property
    def falling_back(self) -> frozenset[str]:
        """Runs under pressure whose water falls back through a stopped pump: all that no check
        valve and no shut valve on the way from it holds."""
        if not any(holds_back(r) or self.lines[r.id].shut for r in self.pressure_runs):
            return self.pressure
        tied = tied_together(
            self.plan,
            (p.leads_from for p in self.plan.pumps),
            lambda run: not (holds_back(run) or self.lines[run.id].shut),
        )
        return frozenset(r.id for r in tied.runs)

    def drained_by(self, vessel: str) -> list[Run]:
        """Gravity runs that begin in a vessel: at its ports, outlets and siphons."""
        return self._drains.get(vessel, [])

    @cached_property
    def _drains(self) -> dict[str, list[Run]]:
        found: dict[str, list[Run]] = {}
        for id_ in self.gravity:
            run = self.plan.part(id_)
            source = self.plan.owner_of(run.start)
            if source is not None:
                found.setdefault(source, []).append(run)
        return found


def layout_of(plan: Plan, water: Water) -> Layout:
    """Compile a plan.

    Parameters
    ----------
    plan : Plan
        The plan
    water : Water
        Its water

    Returns
    -------
    Layout
        Its runs as lines, and which of them a pump keeps full
    """
    lines = {r.id: line_of_run(plan, r, water.kinematic_viscosity) for r in plan.runs}
    pressure = {r.id for r in tied_together(plan, (p.leads_from for p in plan.pumps)).runs}
    gravity = tuple(r.id for r in plan.runs if r.id not in pressure)
    return Layout(plan, water, lines, frozenset(pressure), gravity)


def end_node(run: Run) -> str:
    """The node where a run under pressure ends in a vessel.

    Parameters
    ----------
    run : Run
        The run

    Returns
    -------
    str
        Name of the node
    """
    return f"{run.id}.end"


def mouth_node(run: Run) -> str:
    """The node where a run under pressure begins at a vessel's wall.

    Parameters
    ----------
    run : Run
        The run

    Returns
    -------
    str
        Name of the node
    """
    return f"{run.id}.mouth"


@dataclass(frozen=True, slots=True)
class _End:
    """Where a run under pressure meets a vessel."""

    node: str
    vessel: str
    """Empty for an outfall."""
    height: float
    is_outlet: bool


class PressureNetwork:
    """The runs under pressure of one plan, to be solved at many levels.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    """

    def __init__(self, layout: Layout) -> None:
        plan = layout.plan
        self._pumps = [
            (
                f"{p.id}.in",
                p.stands_in,
                NetworkLink(p.id, f"{p.id}.in", p.leads_from, pump=curve_of_pump(p)),
            )
            for p in plan.pumps
        ]
        self._runs: list[tuple[Run, NetworkLink, NetworkLink, _End | None, _End | None]] = []
        for run in layout.pressure_runs:
            mouth, outlet = self._mouth(plan, run), self._outlet(plan, run)
            start = mouth.node if mouth else run.start
            end = outlet.node if outlet else run.end
            line = layout.lines[run.id]
            free = NetworkLink(run.id, start, end, line=line, one_way=True)
            both = free if stops_backflow(run) else NetworkLink(run.id, start, end, line=line)
            self._runs.append((run, free, both, mouth, outlet))
        self._kept: dict[tuple[str, ...], tuple[NetworkLink, ...]] = {}
        self._felt = (
            *((vessel, -math.inf) for _, vessel, _ in self._pumps),
            *(
                (end.vessel, end.height)
                for _, _, _, *ends in self._runs
                for end in ends
                if end is not None and end.vessel
            ),
        )
        """Vessels whose level is felt, and from which height on."""

    @staticmethod
    def _outlet(plan: Plan, run: Run) -> _End | None:
        if plan.is_outfall(run.end):
            return _End(end_node(run), "", plan.elevation(run.end) or 0.0, True)
        if plan.port(run.end) is None:
            return None
        height = plan.elevation(run.end) or 0.0
        return _End(end_node(run), run.target, height, True)

    @staticmethod
    def _mouth(plan: Plan, run: Run) -> _End | None:
        """A vessel tied into a pumped line gives water while its level covers the mouth."""
        if plan.port(run.start) is None:
            return None
        height = start_height(plan, run) - 0.5 * fouled_bore(run)
        return _End(mouth_node(run), run.source, height, False)

    def at(
        self, levels: Mapping[str, float], demands: Mapping[str, float] | None = None
    ) -> Network:
        """The network between vessels at these levels [m].

        ``demands`` names runs that end in a vessel and are to carry just this flow [m³/s]: they
        are left out, and what they carry is taken away where they begin.
        """
        taken = demands or {}
        heads = {source: levels[vessel] for source, vessel, _ in self._pumps}
        free_runs: list[str] = []
        away: dict[str, float] = {}
        for run, free, both, mouth, outlet in self._runs:
            if run.id in taken:
                away[run.start] = away.get(run.start, 0.0) + taken[run.id]
                continue
            is_jet = False
            for end in (mouth, outlet):
                if end is not None:
                    level = levels[end.vessel] if end.vessel else -math.inf
                    heads[end.node] = max(end.height, level)
                    # A jet in the air carries nothing back.
                    is_jet = is_jet or (end.is_outlet and level <= end.height + FILM)
            if is_jet and free is not both:
                free_runs.append(run.id)
        return Network(self._links(tuple(free_runs), tuple(taken)), heads, away)

    def moved(self, before: Mapping[str, float], after: Mapping[str, float]) -> float:
        """How far the head moved most that the pumped runs lie between, from these levels to
        those [m]."""
        most = 0.0
        for vessel, height in self._felt:
            one, two = before[vessel], after[vessel]
            if one != two:
                most = max(most, abs(max(height, two) - max(height, one)))
        return most

    def _links(self, free_runs: tuple[str, ...], taken: tuple[str, ...]) -> tuple[NetworkLink, ...]:
        """The links with these runs ending in the air; the same tuple for the same runs, so that
        a solver knows them again."""
        key = (*free_runs, "", *taken)
        if key not in self._kept:
            jets = set(free_runs)
            runs = [
                free if run.id in jets else both
                for run, free, both, _, _ in self._runs
                if run.id not in taken
            ]
            self._kept[key] = (*(link for _, _, link in self._pumps), *runs)
        return self._kept[key]


def pressure_network(
    layout: Layout, levels: Mapping[str, float], demands: Mapping[str, float] | None = None
) -> Network:
    """The runs under pressure, between vessels whose levels are known, for a single solve.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    levels : mapping
        Level of each vessel over the datum, [m]
    demands : mapping, optional
        Runs that end in a vessel and are to carry just this flow, [m³/s]

    Returns
    -------
    Network
        Links named after their runs and pumps
    """
    return PressureNetwork(layout).at(levels, demands)
