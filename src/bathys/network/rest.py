"""Where all water stands with every pump off.

A vessel filled by hand holds what was poured in, as far as its ways out let it: what lies over a
crest runs on to where it would run, and vessels that a pipe joins under water stand level. A vessel
that nobody fills stands where its ways out leave it. No water is lost on the way.
"""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from bathys import halving
from bathys.network.layout import Layout
from bathys.network.runs import fouled_bore, holds_back
from bathys.plan.pipes import Run
from bathys.plan.places import part_id
from bathys.plan.topology import lowest_hump
from bathys.plan.way_out import Siphon, WayOut
from bathys.vessels import Storage, storage_of

__all__ = ["AtRest", "at_rest", "crest_of", "joins_level"]

_SAME = 1e-9  # levels this close are one [m]
_LEAST = 1e-9  # less water than this is none [m³]
_ROUNDS = 400
_HALVINGS = 60


@dataclass(frozen=True, slots=True)
class AtRest:
    """Where all water stands with every pump off.

    Attributes
    ----------
    levels : dict
        Level of each vessel over the datum, [m]
    ran_on : dict
        By vessel filled by hand, what was poured in beyond its crest and ran on, [m³]
    spilled : dict
        By vessel, what of that ran over its rim, [m³]
    discharged : dict
        By outfall, what of that left the system there, [m³]
    """

    levels: dict[str, float]
    ran_on: dict[str, float]
    spilled: dict[str, float]
    discharged: dict[str, float]


@dataclass(frozen=True, slots=True)
class _Way:
    """A way out of a vessel: the level over which water leaves by it, and where it comes to."""

    sill: float
    target: str


def crest_of(layout: Layout, run: Run) -> float:
    """Level over the datum below which a gravity run carries nothing [m].

    Parameters
    ----------
    layout : Layout
        The plan compiled
    run : Run
        The run

    Returns
    -------
    float
        The level, [m]
    """
    begin = layout.plan.elevation(run.start)
    if begin is not None:
        return begin - 0.5 * fouled_bore(run)
    source: WayOut = layout.plan.part(run.source)
    return layout.plan.vessel(source.stands_in).floor_height + source.spills_from


def _is_link(layout: Layout, run: Run) -> bool:
    """Whether water may go through a gravity run either way: open, from wall to wall."""
    plan = layout.plan
    return (
        run.id not in layout.pressure
        and not layout.lines[run.id].shut
        and not holds_back(run)
        and plan.port(run.start) is not None
        and plan.port(run.end) is not None
    )


def joins_level(layout: Layout, run: Run, levels: Mapping[str, float]) -> bool:
    """Whether a run keeps two vessels at one level, given where they stand at rest.

    Parameters
    ----------
    layout : Layout
        The plan compiled
    run : Run
        One of its runs
    levels : mapping
        Level of each vessel with every pump off, [m]

    Returns
    -------
    bool
        Whether it is an open pipe from wall to wall, below the water on either side, and a vessel
        that is filled by hand stands at one of its ends
    """
    if not _is_link(layout, run):
        return False
    ends = [run.source, run.target]
    sill = max(_invert(layout, run, place) for place in (run.start, run.end))
    one, two = (levels[e] for e in ends)
    filled = any(layout.plan.vessel(e).water_depth is not None for e in ends)
    return filled and abs(one - two) < 1e-6 and one > sill


def _invert(layout: Layout, run: Run, place: str) -> float:
    return (layout.plan.elevation(place) or 0.0) - 0.5 * fouled_bore(run)


def _rest_crest(layout: Layout, run: Run) -> float:
    """Level to which a run drains a vessel with no pump running."""
    source = layout.plan.part(run.source)
    if not isinstance(source, WayOut):
        return max(crest_of(layout, run), _invert(layout, run, run.end))
    low = layout.plan.vessel(source.stands_in).floor_height + source.drains_to
    return low if isinstance(source, Siphon) else max(low, _invert(layout, run, run.end))


def _ends_of(layout: Layout, run: Run) -> list[tuple[float, str]]:
    """The vessels that water in a gravity run may come to, with the highest point on the way."""
    plan = layout.plan

    def ends(place: str) -> bool:
        return plan.group_of(part_id(place)) == "vessels" or plan.is_outfall(part_id(place))

    def onward(place: str) -> Iterator[tuple[str, float]]:
        for further in () if ends(place) else plan.runs_from(place):
            if further.id not in layout.pressure and not layout.lines[further.id].shut:
                yield further.end, _invert(layout, further, further.end)

    found: dict[str, float] = {}
    for place, high in lowest_hump(run.end, _invert(layout, run, run.end), onward).items():
        if ends(place):
            found[part_id(place)] = min(high, found.get(part_id(place), math.inf))
    return [(high, vessel) for vessel, high in found.items()]


def _ways_out(layout: Layout) -> dict[str, list[_Way]]:
    ways: dict[str, list[_Way]] = {v.id: [] for v in layout.plan.vessels}
    for vessel in layout.plan.vessels:
        for run in layout.drained_by(vessel.id):
            if layout.lines[run.id].shut:
                continue
            is_siphon = layout.plan.group_of(run.source) == "siphons"
            for high, target in _ends_of(layout, run):
                # Once a siphon runs it draws over any hump to where air gets in, unless that lies
                # over the vessel.
                sill = _rest_crest(layout, run)
                is_drawn = is_siphon and high < vessel.floor_height + vessel.shape.height
                ways[vessel.id].append(_Way(sill if is_drawn else max(sill, high), target))
            if _is_link(layout, run):
                sill = max(_invert(layout, run, p) for p in (run.start, run.end))
                ways[run.target].append(_Way(sill, vessel.id))
    # What lies as high as a vessel's rim lets nothing out: the water goes over the rim first.
    rims = {v.id: v.floor_height + v.shape.height for v in layout.plan.vessels}
    return {v: [w for w in out if w.sill < rims[v]] for v, out in ways.items()}


class _Resting:
    def __init__(self, layout: Layout) -> None:
        plan = layout.plan
        self.plan, self.ways = plan, _ways_out(layout)
        self.storages: dict[str, Storage] = {v.id: storage_of(plan, v) for v in plan.vessels}
        self.floors = {v.id: float(v.floor_height) for v in plan.vessels}
        self.levels = {
            v.id: v.floor_height + v.water_depth if v.water_depth is not None else math.inf
            for v in plan.vessels
        }
        self.ran_on: dict[str, float] = {}
        self.spilled: dict[str, float] = {}
        self.discharged: dict[str, float] = {}

    def _held(self, vessel: str, level: float) -> float:
        return self.storages[vessel].volume_at(level - self.floors[vessel])

    def _lowest_way(self, vessel: str) -> tuple[float, _Way] | None:
        """The level that the lowest way out leaves a vessel at, and that way."""
        options = [
            (max(w.sill, self.levels.get(w.target, -math.inf)), w)
            for w in self.ways[vessel]
            if w.target != vessel
        ]
        return min(options, key=lambda o: o[0], default=None)

    def _where_nobody_fills(self) -> None:
        """Such vessels have been full once and have drained; one without a way out is empty."""
        for vessel in self.plan.vessels:
            if vessel.water_depth is None and not self.ways[vessel.id]:
                self.levels[vessel.id] = self.floors[vessel.id]
        for _ in range(len(self.levels) + 1):
            moved = False
            for vessel in self.plan.vessels:
                way = self._lowest_way(vessel.id)
                if vessel.water_depth is None and way is not None:
                    moved = moved or way[0] < self.levels[vessel.id]
                    self.levels[vessel.id] = min(self.levels[vessel.id], way[0])
            if not moved:
                break
        for id_, level in self.levels.items():
            # What is not known yet drains to what drains back to it.
            sill = min((w.sill for w in self.ways[id_]), default=self.floors[id_])
            top = self.floors[id_] + self.storages[id_].rim
            self.levels[id_] = max(sill if math.isinf(level) else level, self.floors[id_])
            if self.plan.vessel(id_).water_depth is None:
                self.levels[id_] = min(self.levels[id_], top)

    def _pass_on(self, vessel: str, level: float, way: _Way) -> None:
        """Let what stands over a way out run on, or even out with where it leads."""
        target = way.target
        excess = self._held(vessel, self.levels[vessel]) - self._held(vessel, level)
        if target not in self.levels:
            self._add(vessel, -excess)
            self.ran_on[vessel] = self.ran_on.get(vessel, 0.0) + excess
            self.discharged[target] = self.discharged.get(target, 0.0) + excess
            return
        if self.levels[target] < way.sill - _SAME:
            # What fits below the sill runs over it; the rest is shared the next time round.
            room = self._held(target, way.sill) - self._held(target, self.levels[target])
            amount = min(excess, max(room, _LEAST))
        else:
            amount = self._evening(vessel, target, level)
        self._add(vessel, -amount)
        self._add(target, amount)
        self.ran_on[vessel] = self.ran_on.get(vessel, 0.0) + amount
        rim = self.floors[target] + self.storages[target].rim
        onward = self._lowest_way(target)
        # What a lower way out takes on as it comes never gets to the rim.
        if self.levels[target] > rim + _SAME and (onward is None or onward[0] >= rim - _SAME):
            lost = self._held(target, self.levels[target]) - self._held(target, rim)
            self.spilled[target] = self.spilled.get(target, 0.0) + lost
            self.levels[target] = rim

    def _add(self, vessel: str, amount: float) -> None:
        held = self._held(vessel, self.levels[vessel]) + amount
        self.levels[vessel] = self.floors[vessel] + self.storages[vessel].level_at(held)

    def _evening(self, vessel: str, target: str, least: float) -> float:
        """What must pass from the higher to the lower of two vessels for both to stand level."""
        high, low = self.levels[vessel], self.levels[target]
        both = self._held(vessel, high) + self._held(target, low)
        level = halving.least(
            lambda z: self._held(vessel, z) + self._held(target, z) >= both,
            max(least, low),
            high,
            _HALVINGS,
        )
        return self._held(vessel, high) - self._held(vessel, level)

    def run(self) -> AtRest:
        self._where_nobody_fills()
        for _ in range(_ROUNDS):
            moved = False
            for vessel in self.levels:
                found = self._lowest_way(vessel)
                if found is None or self.levels[vessel] <= found[0] + _SAME:
                    continue
                excess = self._held(vessel, self.levels[vessel]) - self._held(vessel, found[0])
                if excess > _LEAST:
                    moved = True
                    self._pass_on(vessel, *found)
            if not moved:
                break
        filled = {v.id for v in self.plan.vessels if v.water_depth is not None}
        return AtRest(
            self.levels,
            {v: w for v, w in self.ran_on.items() if v in filled},
            self.spilled,
            self.discharged,
        )


def at_rest(layout: Layout) -> AtRest:
    """Where all water of a plan stands with every pump off.

    Parameters
    ----------
    layout : Layout
        The plan compiled

    Returns
    -------
    AtRest
        Levels, and what ran on or over a rim on the way there

    Notes
    -----
    Vessel by vessel, what stands over its lowest way out passes to where that leads, until nothing
    moves; round pairs that stand level this halves what is left each time.
    """
    return _Resting(layout).run()
