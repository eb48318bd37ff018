"""One transport model for whatever the water carries: mean flows between mixed vessels, and what
each of them adds, holds back and loses.

Nothing here knows what is carried. A constituent is told by its sources, by the share that is held
back on the way into each place, and by the rate at which it goes by itself.
"""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from threading import Lock

import numpy as np
from cachetools import LRUCache, cached
from numpy.typing import NDArray

from bathys.quality.flow_nets import FlowNet, Leg

__all__ = [
    "Carried",
    "Constituent",
    "FlowNet",
    "Leg",
    "carried_through",
    "steady",
    "steady_with_uptake",
]

Floats = NDArray[np.float64]

_STILL = 1e-12  # flow that carries nothing [m³/s]


@dataclass(frozen=True)
class Constituent:
    """Something that water carries.

    Attributes
    ----------
    name : str
        Its name
    sources : mapping of str to float
        What is added to a place, [g/s]
    held : mapping of str to float
        Share held back of what comes into a place or goes through a leg, by its name, [-]
    decay : mapping of str to float
        Rate at which it goes in a place by itself, [1/s]
    outside : float
        Concentration of what comes from outside, [g/m³]
    """

    name: str
    sources: Mapping[str, float] = field(default_factory=dict)
    held: Mapping[str, float] = field(default_factory=dict)
    decay: Mapping[str, float] = field(default_factory=dict)
    outside: float = 0.0


@dataclass(frozen=True)
class Carried:
    """What becomes of a constituent.

    Attributes
    ----------
    name : str
        Its name
    concentrations : dict of str to float
        In each place, [g/m³]; infinite where nothing takes away what is added
    held : dict of str to float
        What each place or leg holds back, [g/s]
    decays : dict of str to float
        What goes by itself in each place, [g/s]
    leaves : float
        What leaves with the water, [g/s]
    climbs : float
        What stays in the water for good and makes it climb, [g/s]
    """

    name: str
    concentrations: dict[str, float]
    held: dict[str, float]
    decays: dict[str, float]
    leaves: float
    climbs: float


class _Frame:
    """A net's flows as matrices, once for all that is carried."""

    def __init__(self, net: FlowNet) -> None:
        self.net = net
        self.starts = np.array([leg.start for leg in net.legs], dtype=np.int64)
        self.ends = np.array([leg.end for leg in net.legs], dtype=np.int64)
        self.flows = np.array([leg.flow for leg in net.legs])
        self.leaving = net.leaving
        self.parts = net.parts
        self.number = {place: n for n, place in enumerate(net.places)}
        self.leg = {leg.id: k for k, leg in enumerate(net.legs)}
        count = len(net.places)
        self.out = self.ends < 0
        self.fresh = (self.starts < 0) & ~self.out
        self.has_fresh, self.has_out = bool(self.fresh.any()), bool(self.out.any())
        self.inner = (self.starts >= 0) & ~self.out
        self.cells = self.ends[self.inner] * count + self.starts[self.inner]
        self.plain = self._matrix(self.flows)
        self._passes: tuple[Constituent | None, tuple[Floats, Floats]] = (None, (self.flows,) * 2)

    def passes(self, of: Constituent) -> tuple[Floats, Floats]:
        """What gets through each leg, and of that into the place it ends in [-]; kept, since it is
        asked for before and after a constituent is solved for."""
        kept = self._passes
        if kept[0] is not of:  # read once: other threads may ask as well
            kept = self._passes = (of, self._passing(of))
        return kept[1]

    def _passing(self, of: Constituent) -> tuple[Floats, Floats]:
        on_way, into = np.ones(len(self.flows)), np.ones(len(self.net.places))
        for name, share in of.held.items():
            if name in self.number:
                into[self.number[name]] -= share
            elif name in self.leg:
                on_way[self.leg[name]] -= share
        return on_way, np.where(self.ends >= 0, into[self.ends], 1.0)

    def _matrix(self, brings: Floats) -> Floats:
        """Balances of the places, where each leg brings so much of what it takes [m³/s]."""
        count = len(self.net.places)
        carried = np.bincount(self.cells, weights=brings[self.inner], minlength=count * count)
        matrix: Floats = np.diag(self.leaving.astype(float)) - carried.reshape(count, count)
        return matrix

    def system(self, of: Constituent) -> tuple[Floats, Floats]:
        """Matrix and right side of the places' balances, [m³/s] and [g/s]."""
        net, count = self.net, len(self.net.places)
        brings, matrix = self.flows, self.plain.copy()
        if of.held:
            on_way, into = self.passes(of)
            brings = on_way * into * self.flows
            matrix = self._matrix(brings)
        right = np.zeros(count)
        if self.has_fresh and of.outside:
            weights = brings[self.fresh] * of.outside
            right += np.bincount(self.ends[self.fresh], weights=weights, minlength=count)
        for place, rate in of.decay.items():
            n = self.number[place]
            matrix[n, n] += rate * net.volumes[n]
        for place, source in of.sources.items():
            right[self.number[place]] += source
        return matrix, right


@cached(LRUCache(maxsize=32), key=id, lock=Lock())
def _kept_frame(net: FlowNet) -> tuple[FlowNet, _Frame]:
    """Kept with its net, so that no other can have its identity: much is carried by one net."""
    return net, _Frame(net)


def _frame_of(net: FlowNet) -> _Frame:
    return _kept_frame(net)[1]


_LOOSE = 1e-9  # share of a loop's flow below which nothing is taken out of it


def steady(net: FlowNet, constituents: Sequence[Constituent]) -> tuple[Carried, ...]:
    """What becomes of each constituent in the long run.

    Parameters
    ----------
    net : FlowNet
        Places and flows
    constituents : sequence of Constituent
        What is carried

    Returns
    -------
    tuple of Carried
        In their order. In a loop that nothing leaves, concentrations are infinite where something
        is added, and ``climbs`` tells how much
    """
    return tuple(_steady_all(_frame_of(net), constituents)) if constituents else ()


def _steady_all(frame: _Frame, constituents: Sequence[Constituent]) -> Iterator[Carried]:
    """All of them at once, part by part of the net: a solution of many small systems together takes
    hardly longer than that of one."""
    systems = [frame.system(c) for c in constituents]
    matrices, rights = (np.array(s) for s in zip(*systems, strict=True))
    levels, climbs = np.zeros_like(rights), np.zeros(len(rights))
    for part in frame.parts:
        rest = np.where(np.isfinite(levels), levels, 0.0)
        rest[:, part] = 0.0
        loads = rights[:, part] - (matrices[:, part] @ rest[:, :, None])[:, :, 0]
        blocks = matrices[np.ix_(range(len(rights)), part, part)]
        greatest = np.diagonal(blocks, axis1=1, axis2=2).max(axis=1)
        # What leaves a closed loop is the sum of its columns: none of it, if nothing holds it back.
        closed = blocks.sum(axis=1).max(axis=1) <= _LOOSE * greatest
        if len(part) == 1:
            closed |= greatest <= _STILL
        added = loads.sum(axis=1)
        ends = np.where(closed & (added > 0.0), np.inf, 0.0)
        levels[np.ix_(closed, part)] = ends[closed][:, None]
        climbs += np.where(closed, added, 0.0)
        if not closed.all():
            found = np.linalg.solve(blocks[~closed], loads[~closed][:, :, None])
            levels[np.ix_(~closed, part)] = found[:, :, 0]
    for of, level, climb in zip(constituents, levels, climbs.tolist(), strict=True):
        told = _told(frame, of, level, climb)
        off = _share_lost(frame, of, told)
        yield told if off == 0.0 else _told(frame, of, level / (1.0 - off), climb)


def _share_lost(frame: _Frame, of: Constituent, told: Carried) -> float:
    """Share of what is added that rounding has lost or made: where next to nothing is taken out of
    a fast loop, what a place holds is the small difference of two great flows [-]."""
    fresh = (frame.flows[frame.fresh] * of.outside).tolist() if frame.has_fresh else ()
    added = math.fsum([*of.sources.values(), *fresh, -told.climbs])
    ends = math.fsum([*told.held.values(), *told.decays.values(), told.leaves])
    off = 1.0 - ends / added if added > 0.0 else 0.0
    return off if _HAIR < abs(off) < _ROUNDING else 0.0


_HAIR, _ROUNDING = 1e-12, 1e-6  # less is nothing; more is no rounding, and is left to be seen


def _loads(matrix: Floats, right: Floats, levels: Floats, part: list[int]) -> Floats:
    """What is added to each place of a part, what comes from the parts before with it [g/s]. None
    of those is without end: what lets water out comes to rest."""
    rest = np.where(np.isfinite(levels), levels, 0.0)
    rest[part] = 0.0
    loads: Floats = right[part] - matrix[part] @ rest
    return loads


_MANY = 1e5  # a concentration that is as good as without end [g/m³]
_MOST_STEPS = 80
_CLOSE = 1e-9  # of the greatest concentration, between two of Newton's steps


def steady_with_uptake(
    net: FlowNet, of: Constituent, most: Mapping[str, float], half: float
) -> tuple[Carried, dict[str, float]]:
    """What becomes of a constituent that places take up the slower the less there is of it
    (Monod): ``most C / (half + C)``.

    Parameters
    ----------
    net : FlowNet
        Places and flows
    of : Constituent
        What is carried; its own ``decay`` goes on beside
    most : mapping of str to float
        What each place takes up where there is plenty, [g/s]
    half : float
        Concentration at which it takes up half of that, [g/m³]

    Returns
    -------
    (Carried, dict of str to float)
        As :func:`steady`, and what each place takes up, [g/s]. Where more is added than all places
        together can take, concentrations are infinite

    Notes
    -----
    Newton's steps from the answer of the straight line through no concentration: uptake is concave,
    so each step stays below the root and none overshoots.
    """
    frame = _frame_of(net)
    matrix, right = frame.system(of)
    capacity = np.zeros(len(right))
    for place, rate in most.items():
        capacity[frame.number[place]] += rate
    levels, climbs = np.zeros(len(right)), 0.0
    taken = np.zeros(len(right))
    for part in frame.parts:
        loads = _loads(matrix, right, levels, part)
        found = _taken_up(matrix[np.ix_(part, part)], loads, capacity[part], half)
        if found is None:
            levels[part], taken[part] = np.inf, capacity[part]
            climbs += max(float(loads.sum() - capacity[part].sum()), 0.0)
        else:
            levels[part] = found
            taken[part] = capacity[part] * found / (half + found)
    return _told(frame, of, levels, climbs), {p: float(taken[frame.number[p]]) for p in most}


def _taken_up(block: Floats, loads: Floats, capacity: Floats, half: float) -> Floats | None:
    """Concentrations in one part [g/m³]; none where they have no end."""
    at = np.zeros(len(loads))
    if float(loads.max()) <= 0.0:
        return at
    for _ in range(_MOST_STEPS):
        takes = capacity * at / (half + at)
        slope = capacity * half / (half + at) ** 2
        try:
            step = np.linalg.solve(block + np.diag(slope), block @ at + takes - loads)
        except np.linalg.LinAlgError:
            return None
        at = np.maximum(at - step, 0.0)
        greatest = float(at.max())
        if greatest > _MANY or not np.isfinite(greatest):
            return None
        if float(np.abs(step).max()) <= _CLOSE * max(greatest, 1e-6):
            break
    return at


def _told(frame: _Frame, of: Constituent, levels: Floats, climbs: float) -> Carried:
    net = frame.net
    known = np.where(np.isfinite(levels), levels, 0.0)
    held: dict[str, float] = {}
    leaves = 0.0
    if of.held or frame.has_out:
        on_way, into = frame.passes(of)
        brings = frame.flows * np.where(frame.starts >= 0, known[frame.starts], of.outside)
        leaves = float((on_way * brings)[frame.out].sum())
    if of.held:
        kept = (on_way * (1.0 - into) * brings)[~frame.out]
        by_place = np.bincount(frame.ends[~frame.out], weights=kept, minlength=len(net.places))
        for name in of.held:
            if name in frame.number:
                held[name] = float(by_place[frame.number[name]])
            elif name in frame.leg:
                k = frame.leg[name]
                held[name] = float((1.0 - on_way[k]) * brings[k])
    decays = {
        place: rate * float(net.volumes[frame.number[place]] * known[frame.number[place]])
        for place, rate in of.decay.items()
    }
    told = dict(zip(net.places, levels.tolist(), strict=True))
    return Carried(of.name, told, held, decays, leaves, climbs)


def carried_through(
    net: FlowNet, of: Constituent, begins: Mapping[str, float], times: Sequence[float]
) -> dict[str, Floats]:
    """A constituent through time, the flows as they are in the mean.

    Parameters
    ----------
    net : FlowNet
        Places and flows
    of : Constituent
        What is carried
    begins : mapping of str to float
        Concentration in vessels at the first time, [g/m³]; none is 0
    times : sequence of float
        When it is told, rising, [s]

    Returns
    -------
    dict of array
        Concentration in each place that stores, shape (times,), [g/m³]

    Notes
    -----
    Joints only mix: they are taken out of the system (Schur complement), and scipy's BDF follows
    the vessels.
    """
    from scipy.integrate import solve_ivp  # noqa: PLC0415 - slow to load

    matrix, right = _frame_of(net).system(of)
    store = np.flatnonzero(net.volumes > 0.0)
    mix = np.flatnonzero((net.volumes <= 0.0) & (np.diag(matrix) > _STILL))
    inner = matrix[np.ix_(store, store)].copy()
    load = right[store].copy()
    if mix.size:
        joints = np.linalg.inv(matrix[np.ix_(mix, mix)])
        over = matrix[np.ix_(store, mix)] @ joints
        inner -= over @ matrix[np.ix_(mix, store)]
        load -= over @ right[mix]
    volumes = net.volumes[store]
    rates = -inner / volumes[:, None]
    gains = load / volumes
    first = np.array([begins.get(net.places[n], 0.0) for n in store])
    # BDF subtracts a row of differences that it has not filled yet, and never uses: whatever lies
    # in that memory may be no number.
    with np.errstate(invalid="ignore", over="ignore"):
        found = solve_ivp(
            lambda _, c: rates @ c + gains,
            (times[0], times[-1]),
            first,
            method="BDF",
            t_eval=list(times),
            jac=rates,
            rtol=1e-7,
            atol=1e-10,
        )
    if not np.isfinite(found.y).all():
        raise FloatingPointError("a constituent came to no number")
    return {net.places[n]: found.y[k] for k, n in enumerate(store)}
