"""A plan compiled for its balance: all that stays as it is while flows and levels are sought."""

from threading import Lock

from cachetools import LRUCache, cached

from bathys.network.drains import BRIM, brim_lines, gravity_lines
from bathys.network.gravity import GravityLineArrays
from bathys.network.in_drains import WaterInDrains
from bathys.network.layout import Layout, PressureNetwork, layout_of
from bathys.network.loops import closing_vessels
from bathys.network.rest import at_rest, joins_level
from bathys.network.runs import fouled_bore
from bathys.network.solving import Solver
from bathys.physics.water import Water
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.places import part_id
from bathys.plan.pumps import Pump
from bathys.plan.topology import reached, tied_together
from bathys.vessels import Storage, joined, storage_of

__all__ = ["Compiled", "compiled"]


class Compiled:
    """What of a plan's balance stays as it is while flows and levels are sought.

    Parameters
    ----------
    layout : Layout
        The plan's runs as lines

    Attributes
    ----------
    at_rest : AtRest
        Where all water stands with every pump off
    storages, floors, rest : dict
        By vessel: its storage, the height of its floor, and its level with every pump off, [m]
    lines, bank : list of GravityLine, GravityLineArrays
        Gravity lines, rims of vessels included
    closing : dict
        By vessel, the one that takes up what its loop's other vessels hold
    beside : dict
        By closing vessel, the others of its loop
    fixed : dict
        Levels a balance begins with where no gravity line sets them, [m]
    pressure, solver : PressureNetwork, Solver
        The pumped runs
    feeds : dict
        The pump whose time counts for a run, where only one is tied to it
    ends : list of tuple
        Where pumped runs meet a vessel: run, vessel, 1 where it ends there and -1 where it begins
    outlets : list of tuple
        Open pumped runs that end in a vessel: run, vessel, height of the end, [m]
    mouths : dict
        By vessel that is tied into a pumped line, the level at which it gives no more, [m]
    idle : frozenset of str
        Pumps whose float the water never reaches
    siphons : dict
        Water of each siphon bed at its intake and at its rim, [m³]
    pipes : dict
        By loop, water of the pumped runs that falls back, [m³]
    in_drains : WaterInDrains
        Water on its way
    twins : dict
        By closing vessel, those that a pipe keeps at its level
    shared : dict
        By closing vessel, the storage of it and its twins together
    totals : dict
        By closing vessel, all the water of its loop at rest, [m³]
    """

    def __init__(self, layout: Layout) -> None:
        self.layout, self.plan = layout, layout.plan
        self.storages: dict[str, Storage] = {
            v.id: storage_of(self.plan, v) for v in self.plan.vessels
        }
        self.floors = {v.id: v.floor_height for v in self.plan.vessels}
        self.at_rest = at_rest(layout)
        self.rest = self.at_rest.levels
        self.lines = [*gravity_lines(layout), *brim_lines(layout)]
        self.closing = closing_vessels(layout)
        self.beside: dict[str, list[str]] = {c: [] for c in set(self.closing.values())}
        for vessel, closer in self.closing.items():
            if vessel != closer:
                self.beside[closer].append(vessel)
        self.fixed = self._fixed_levels()
        self.lines = [k for k in self.lines if not (k.inlet == "brim" and k.start in self.fixed)]
        self.bank = GravityLineArrays(self.lines)
        self.pressure, self.solver = PressureNetwork(layout), Solver()
        self.feeds = self._feeding_pumps()
        self.ends = [
            (r.id, part_id(place), sign)
            for r in layout.pressure_runs
            for place, sign in ((r.end, 1.0), (r.start, -1.0))
            if self.plan.port(place) is not None
        ]
        self.outlets = [
            (r.id, r.target, self.plan.elevation(r.end) or 0.0)
            for r in layout.pressure_runs
            if self.plan.port(r.end) is not None and not layout.lines[r.id].shut
        ]
        self.mouths = {
            r.source: (self.plan.elevation(r.start) or 0.0) - 0.5 * fouled_bore(r)
            for r in layout.pressure_runs
            if self.plan.port(r.start) is not None and not layout.lines[r.id].shut
        }
        self.idle = frozenset(
            p.id for p in self.plan.pumps if p.band is not None and not self._starts(p)
        )
        self.siphons = self._siphon_volumes()
        self.pipes = self._pipe_volume()
        self.in_drains = WaterInDrains(layout, self._loop_of)
        self.twins = self._twins()
        self.shared = {
            c: joined([(self.storages[v], self.floors[v] - self.floors[c]) for v in (c, *twins)])
            for c, twins in self.twins.items()
        }
        self.totals = {
            c: sum(self.volume(v, self.rest[v]) for v, own in self.closing.items() if own == c)
            for c in set(self.closing.values())
        }

    def _fixed_levels(self) -> dict[str, float]:
        fixed = {v: self.rest[v] for v in set(self.closing.values())}
        for pump in self.plan.pumps:
            if pump.band is not None:
                floor = self.plan.vessel(pump.stands_in).floor_height
                fixed[pump.stands_in] = floor + pump.band.middle
            elif not self._has_drain(pump.stands_in):
                fixed.setdefault(pump.stands_in, self.rest[pump.stands_in])
        return fixed

    def _has_drain(self, vessel: str) -> bool:
        """Whether a gravity line would carry away what is too much in a vessel."""
        return any(k.start == vessel and not k.id.endswith(BRIM) for k in self.lines)

    def _starts(self, pump: Pump) -> bool:
        """Whether a float can start its pump: the water stands so high at rest, or another pump
        sends some there."""
        if pump.band is None:
            return True
        stands = self.rest[pump.stands_in] - self.floors[pump.stands_in]
        return stands >= pump.band.starts - 1e-6 or pump.stands_in in self._reached_without(pump)

    def _reached_without(self, pump: Pump) -> set[str]:
        """Vessels that water from outside or from the other pumps may come to."""
        first = [p.leads_from for p in self.plan.pumps if p.id != pump.id]
        starts = pump.band.starts if pump.band is not None else 0.0
        first += [
            t.stands_in
            for t in self.plan.top_ups
            if t.stands_in != pump.stands_in or t.level >= starts - 1e-6
        ]
        first += [m.target for m in self.plan.moves if m.target is not None]

        def node(place: str) -> str:
            vessel = part_id(place)
            return vessel if self.plan.group_of(vessel) == "vessels" else place

        def onward(here: str) -> list[str]:
            return [
                node(r.end)
                for r in self.plan.runs
                if not self.layout.lines[r.id].shut
                and here in (r.start, self.plan.owner_of(r.start))
                # A pump's vessel gives nothing by the pump's outlet.
                and (self.plan.group_of(r.source) != "pumps" or r.start == here)
            ]

        return set(reached(map(node, first), onward))

    def _siphon_volumes(self) -> dict[str, tuple[float, float]]:
        return {
            s.stands_in: (
                float(self.storages[s.stands_in].volume(s.intake_height)),
                float(self.storages[s.stands_in].volume(s.spills_from)),
            )
            for s in self.plan.siphons
            if self.plan.run_of(s) is not None
        }

    def _pipe_volume(self) -> dict[str, float]:
        held: dict[str, float] = {}
        for run in self.layout.pressure_runs:
            if run.id in self.layout.falling_back:
                loop = self._loop_of(run)
                held[loop] = held.get(loop, 0.0) + self.layout.lines[run.id].volume
        return held

    def _loop_of(self, run: Run) -> str:
        for place in (run.end, run.start):
            vessel = self.plan.owner_of(place)
            if vessel in self.closing:
                return self.closing[vessel]
        return next(iter(self.closing.values()), "")

    def _feeding_pumps(self) -> dict[str, str]:
        if len(self.plan.pumps) == 1:
            return dict.fromkeys(self.layout.pressure, self.plan.pumps[0].id)
        feeds: dict[str, str] = {}
        for pump in self.plan.pumps:
            tied = tied_together(self.plan, [pump.leads_from])
            if len(tied.pumps) == 1:
                feeds.update((run.id, pump.id) for run in tied.runs)
        return feeds

    def _twins(self) -> dict[str, list[str]]:
        twins: dict[str, list[str]] = {c: [] for c in set(self.closing.values())}
        for run in self.plan.runs:
            if not joins_level(self.layout, run, self.rest):
                continue
            ends = [run.source, run.target]
            for one, two in (ends, ends[::-1]):
                if one in twins and two not in (one, *twins[one]):
                    twins[one].append(two)
        return twins

    def volume(self, vessel: str, level: float) -> float:
        """Water in a vessel [m³] at a level over the datum [m]."""
        return self.storages[vessel].volume_at(level - self.floors[vessel])


def _same(plan: Plan, water: Water) -> tuple[int, Water]:
    return id(plan), water  # an id is another plan's only once its own is kept no more


@cached(LRUCache(maxsize=8), key=_same, lock=Lock())
def compiled(plan: Plan, water: Water) -> Compiled:
    """A plan compiled for its balance; the last few are kept, since one plan is balanced running,
    in the mean of its timers, and again for what is asked about it.

    Parameters
    ----------
    plan : Plan
        The plan
    water : Water
        Its water

    Returns
    -------
    Compiled
        All of it that no flow or level changes
    """
    return Compiled(layout_of(plan, water))
