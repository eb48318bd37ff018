"""What pumps deliver through time: tables of flow against the level each pump draws from.

Pumps that share a line are solved together and tabled apart from the rest. Where they end in one
place, only the difference of two levels counts and one table holds for all. Else a table holds
while the other levels stay about where they were: a return under water answers by its slope until
its level has moved too far, and then a new table is made.
"""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from bathys.network import Line, Network, NetworkLink, Piece
from bathys.network.layout import FILM, Layout, PressureNetwork
from bathys.network.pumped_network import Solution
from bathys.network.runs import fouled_bore
from bathys.network.solving import Solver
from bathys.parts.fittings import STOPPED_PUMP_LOSS
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.plan.topology import tied_together
from bathys.simulation.compiled import END, Pumped

__all__ = ["PumpGroup", "PumpedTables", "Return", "reach_of"]

Floats = NDArray[np.float64]

_TABLE_STEPS = 16  # over the height of the source
_UNDER = 0.05  # an end alone is tabled with so much water over it [m]
_AROUND = tuple(s * d for d in (0.0, 3e-4, 2e-3, 1e-2, 4e-2) for s in (-1.0, 1.0))
"""Steps of level about where a return under water turns round [m]."""
_RETABLE = 0.05  # change of a drowned return's level that wants a new table [m]
_NEARER, _LEAST_RETABLE = 0.3, 1e-3  # or this share of how far it is from its source's level [m]
_USED_AGAIN = 0.5  # share of that within which an older table serves [-]
_MOST_KEPT = 64  # tables [-]


@dataclass(frozen=True, slots=True)
class Return:
    """Where a run under pressure ends, or begins, in a vessel.

    Attributes
    ----------
    run, vessel : str
        The run and the vessel; none, for an outfall
    mouth : float
        Elevation at which its end bares, [m]
    sign : float
        1 where the run ends in the vessel, -1 where it begins there
    """

    run: str
    vessel: str
    mouth: float
    sign: float = 1.0
    is_suction: bool = False
    """Whether a pump draws there: it does not mind how near the other levels are."""


def is_under(end: Return, levels: Mapping[str, float]) -> bool:
    """Whether a return ends under water."""
    return bool(end.vessel) and levels[end.vessel] > end.mouth + FILM


@dataclass(frozen=True)
class PumpGroup:
    """Pumps that share a line.

    Attributes
    ----------
    source : str
        The vessel of the first pump, whose level is tabled
    pumps : tuple of Pump
        The pumps
    returns : tuple of Return
        Where their runs end, and where those pumps draw that stand in another vessel
    links : frozenset of str
        Their runs and the pumps themselves
    pipe_volume : float
        Water in the runs that falls back when they all stop, [m³]
    """

    source: str
    pumps: tuple[Pump, ...]
    returns: tuple[Return, ...]
    links: frozenset[str]
    pipe_volume: float


def reach_of(end: Return, group: PumpGroup, table_levels: Mapping[str, float]) -> float:
    """How far the level over a return under water may move before the slope that a table answers
    by no longer serves.

    Parameters
    ----------
    end : Return
        The return
    group : PumpGroup
        Whose it is
    table_levels : mapping of str to float
        Levels that the table was made at, [m]

    Returns
    -------
    float
        Up or down, [m]
    """
    if len(group.returns) < 2 or end.vessel == group.source or end.is_suction:
        return _RETABLE
    # Near where it turns round a flow goes with the root of the levels' difference, and the nearer
    # they are, the sooner its slope is wrong.
    level = table_levels[end.vessel]
    apart = abs(level - table_levels.get(group.source, level))
    return min(max(_NEARER * apart, _LEAST_RETABLE), _RETABLE)


def _padded(row: Floats, wide: int) -> Floats:
    """A row of a table made as long as the longest, going on beyond its end."""
    more = wide - row.size
    if not more:
        return row
    step = row[-1] - row[-2]
    return np.concatenate([row, row[-1] + step * np.arange(1, more + 1)])


class PumpedTables:
    """Tables of one plan's pumps.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    """

    def __init__(self, layout: Layout) -> None:
        self.layout, self.plan = layout, layout.plan
        self._network, self._solver = PressureNetwork(layout), Solver()
        self._links: dict[tuple[int, int, frozenset[str]], tuple[NetworkLink, ...]] = {}
        self._made: dict[frozenset[str], list[tuple[Pumped, Mapping[str, float]]]] = {}
        self.groups = self._find_groups()

    @property
    def returns(self) -> list[Return]:
        """Every end of a run under pressure, in the order of the tables."""
        return [r for g in self.groups for r in g.returns]

    def _find_groups(self) -> list[PumpGroup]:
        waiting, groups = list(self.plan.pumps), []
        while waiting:
            tied = tied_together(self.plan, [waiting[0].leads_from])
            pumps, runs = tied.pumps, {r.id for r in tied.runs}
            waiting = [p for p in waiting if p not in pumps]
            source = pumps[0].stands_in
            returns = tuple(
                e for r in self.layout.pressure_runs if r.id in runs for e in self._ends_of(r)
            )
            # A pump in another vessel draws there as a mouth of the line would.
            returns += tuple(
                Return(p.id, p.stands_in, self._inlet_of(p), -1.0, is_suction=True)
                for p in pumps
                if p.stands_in != source
            )
            links = frozenset(runs | {p.id for p in pumps})
            falls = sum(
                self.layout.lines[r.id].volume
                for r in self.layout.pressure_runs
                if r.id in runs and r.id in self.layout.falling_back
            )
            groups.append(PumpGroup(source, pumps, returns, links, falls))
        return groups

    def _inlet_of(self, pump: Pump) -> float:
        """Elevation of a pump's inlet [m]."""
        return float(self.plan.vessel(pump.stands_in).floor_height + pump.inlet_height)

    def _ends_of(self, run: Run) -> Iterator[Return]:
        if self.plan.port(run.end) is not None:
            yield Return(run.id, run.target, self.plan.elevation(run.end) or 0.0)
        elif self.plan.is_outfall(run.end):
            yield Return(run.id, "", self.plan.elevation(run.end) or 0.0)
        if self.plan.port(run.start) is not None:
            mouth = (self.plan.elevation(run.start) or 0.0) - 0.5 * fouled_bore(run)
            yield Return(run.id, run.source, mouth, -1.0)

    def _network_of(
        self, number: int, running: frozenset[str], levels: Mapping[str, float]
    ) -> Network:
        """One group's own network; a pump that stands still is a piece of pipe."""
        group, whole = self.groups[number], self._network.at(levels)
        key = (id(whole.links), number, running & group.links)
        if key not in self._links:
            own = (k for k in whole.links if k.id in group.links)
            self._links[key] = tuple(
                k if k.pump is None or k.id in running else self._stopped(k) for k in own
            )
        return Network(self._links[key], whole.known_heads)

    def _stopped(self, link: NetworkLink) -> NetworkLink:
        riser = self.plan.run_from(link.end)
        bore = fouled_bore(riser) if riser is not None else 0.02
        piece = Piece("fitting", "stopped pump", bore, loss=STOPPED_PUMP_LOSS)
        line = Line([piece], self.layout.water.kinematic_viscosity)
        return replace(link, pump=None, line=line)

    @staticmethod
    def is_alone(group: PumpGroup) -> bool:
        """Whether pumps bring their water to one other vessel and nowhere else, so that only the
        difference of two levels counts: that of the source, and that of the vessel or, in the air,
        of the mouth."""
        end = group.returns[0] if len(group.returns) == 1 else None
        return end is not None and end.sign > 0.0 and end.vessel not in ("", group.source)

    def arrays(
        self, running: frozenset[str], levels: Mapping[str, float], place: Mapping[str, int]
    ) -> tuple[Pumped, Mapping[str, float]]:
        """The tables as the compiled core takes them, and the levels [m] they are made at: those
        given, or such as are near enough to them."""
        made = self._made.get(running, [])
        for table, at in reversed(made):  # a pump that starts again finds its table made
            if self._serves(at, levels):
                return table, at
        new = self._make(running, levels, place), dict(levels)
        self._made[running] = [*made[1 - _MOST_KEPT :], new]  # others may be reading the old list
        return new

    def _serves(self, at: Mapping[str, float], levels: Mapping[str, float]) -> bool:
        """Whether a table made at some levels serves at others: what stands over a mouth is felt,
        and must be about the same."""
        for group in self.groups:
            if self.is_alone(group):
                continue
            for end in group.returns:
                if not end.vessel:
                    continue
                if is_under(end, at) is not is_under(end, levels):
                    return False
                moved = abs(at[end.vessel] - levels[end.vessel])
                reach = min(reach_of(end, group, at), reach_of(end, group, levels))
                if is_under(end, at) and moved > _USED_AGAIN * reach:
                    return False
        return True

    def _make(
        self, running: frozenset[str], levels: Mapping[str, float], place: Mapping[str, int]
    ) -> Pumped:
        ends: list[tuple[int, int, bool, float, float, float, float]] = []
        curves: list[tuple[Floats, Floats]] = []
        for number, group in enumerate(self.groups):
            is_alone = self.is_alone(group)
            known = {**levels, **{r.vessel: r.mouth + _UNDER for r in group.returns if is_alone}}
            grid = self._grid(group, known)
            table = np.zeros((len(group.returns), grid.size))
            found: Solution | None = None
            for column, level in enumerate(grid.tolist()):
                here = {**known, group.source: level}
                network = self._network_of(number, running, here)
                found = self._solver.solve(network, found.flows if found else None)
                table[:, column] = [r.sign * found.flows[r.run] for r in group.returns]
            answers = {} if is_alone else self._answers(number, running, known)
            own = [p for p in group.pumps if p.stands_in == group.source]
            inlets = [self._inlet_of(p) for p in own if p.id in running]
            inlet = min(inlets, default=self.plan.vessel(group.source).floor_height)
            for k, end in enumerate(group.returns):
                curves.append((grid, table[k]))
                ends.append(
                    (
                        place[group.source],
                        place.get(end.vessel, -1),
                        is_alone,
                        inlet,
                        end.mouth,
                        answers.get(end.run, 0.0),
                        known.get(end.vessel, 0.0),
                    )
                )
        wide = max((g.size for g, _ in curves), default=2)
        return Pumped(
            np.array(ends, dtype=END),
            np.array([_padded(g, wide) for g, _ in curves]).reshape(len(ends), wide),
            np.array([_padded(q, wide) for _, q in curves]).reshape(len(ends), wide),
        )

    def _grid(self, group: PumpGroup, levels: Mapping[str, float]) -> Floats:
        """Levels of the source to table: evenly over its height, and close together where a return
        under water turns round."""
        vessel = self.plan.vessel(group.source)
        height = vessel.shape.height
        low, high = vessel.floor_height, vessel.floor_height + height
        if self.is_alone(group):  # and over all that the vessel it ends in may add and take
            end = group.returns[0]
            target = self.plan.vessel(end.vessel)
            rise = target.floor_height + target.shape.height - levels[end.vessel]
            low, high = low - max(rise, 0.0), high + levels[end.vessel] - end.mouth
        steps = math.ceil((high - low) / height * _TABLE_STEPS)
        marks = set(np.linspace(low, high, steps + 1).tolist())
        for end in group.returns:
            level = levels.get(end.vessel, -np.inf)
            if level > end.mouth + FILM:
                marks |= {level + by for by in _AROUND if low < level + by < high}
        return np.array(sorted(marks))

    def _answers(
        self, number: int, running: frozenset[str], levels: Mapping[str, float]
    ) -> dict[str, float]:
        """How much less each return carries for each metre more over it; 0 in the air [m²/s]."""
        returns = self.groups[number].returns
        drowned = [r.run for r in returns if is_under(r, levels)]
        rates = dict.fromkeys((r.run for r in returns), 0.0)
        if drowned:
            network = self._network_of(number, running, levels)
            solution = self._solver.solve(network)
            told = self._solver.outlet_rates(network, solution, drowned)
            rates |= {run: told[run, run] for run in drowned if (run, run) in told}
        return rates

    def shares_lines(self, pump: str) -> bool:
        """Whether a pump shares its line with one in another vessel: once it draws air it stands
        still, so that the other's water is still told right."""
        group = next(g for g in self.groups if pump in g.links)
        return len({p.stands_in for p in group.pumps}) > 1
