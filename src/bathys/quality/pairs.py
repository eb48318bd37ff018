"""Two loops apart: what fish water that is let down to the plants does to both over weeks."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from bathys.evaluation import Evaluation
from bathys.physics.carbonate import ph_of
from bathys.physics.nitrogen import ALKALINITY_FOR_NITROGEN, ALKALINITY_OF_UPTAKE
from bathys.quality.flows import flow_net
from bathys.quality.letting_down import let_down_by_clock
from bathys.quality.transport import Constituent, FlowNet, Leg, carried_through
from bathys.quality.uptake import HALF_UPTAKE, plant_uptake
from bathys.quality.water_result import WaterResult
from bathys.simulation import NotSimulated
from bathys.simulation.boundary_conditions import open_area

__all__ = [
    "PH_OF_FISH",
    "PH_OF_PLANTS",
    "WEEKS",
    "LoopCourse",
    "Pair",
    "PairCourse",
    "pair_course",
    "pair_of",
    "usual_let_down",
]

Floats = NDArray[np.float64]

PH_OF_FISH, PH_OF_PLANTS = (7.0, 8.0), (6.5, 6.8)
"""From and to which each loop's pH is held (common practice) [-]."""

WEEKS = (0, 1, 2, 4, 8, 12)
"""Weeks after which a pair is told."""

_DAY, _WEEK = 86400.0, 604800.0
_SALT = 1000.0  # put in the fish loop at the start [g/m³]
_USUAL = 0.1  # of the fish loop a week (assumed) [-]
_LEAST_ALKALINITY = 1.0  # under which bacteria stop and rot holds the rest (assumed) [g/m³]
_STEP = 1.0  # days in which the plants' uptake follows the nitrate they have


@dataclass(frozen=True)
class Pair:
    """Two loops that no water joins but what is let down.

    Attributes
    ----------
    carrier : str
        Id of the run or move that lets water down
    source, target : str
        Vessels it goes from and to
    fish, plants : tuple of str
        Vessels of the two loops
    planned : float
        What moves of the plan let down in the mean, 0 if none does, [m³/s]
    """

    carrier: str
    source: str
    target: str
    fish: tuple[str, ...]
    plants: tuple[str, ...]
    planned: float


@dataclass(frozen=True)
class LoopCourse:
    """One loop over the weeks.

    Attributes
    ----------
    volume : float
        Of its water, [m³]
    dries : float
        From its open surfaces by the site's evaporation, a week, [m³]
    nitrate : tuple of float
        After each of ``WEEKS``, as nitrogen, mean of its water, [g/m³]
    salt : tuple of float
        Of 1000 g/m³ put in the fish loop at the start, [g/m³]
    alkalinity : tuple of float
        As CaCO3, mean of its water after each of ``WEEKS`` with nothing given, [g/m³]
    ph : tuple of float
        After each of ``WEEKS``, with the carbon dioxide that it has now, [-]
    """

    volume: float
    dries: float
    nitrate: tuple[float, ...]
    salt: tuple[float, ...]
    alkalinity: tuple[float, ...]
    ph: tuple[float, ...]


@dataclass(frozen=True)
class PairCourse:
    """A pair over the weeks, with so much let down.

    Attributes
    ----------
    pair : Pair
        The loops
    let_down : float
        A week, [m³]
    fish, plants : LoopCourse
        The two loops
    made : float
        Nitrate nitrogen made in the fish loop a week, what is lost as gas taken off, [g]
    taken_up : float
        What the plants of the plant loop can take up a week, [g]
    in_the_end : float
        Nitrate that the fish loop comes to if nothing grows in it, [g/m³]
    drift : float
        So much the plant loop climbs a week in the end; below 0 it runs short, [g/m³]
    alkalinity_short : float
        As CaCO3, what the fish loop loses a week beyond what fresh water brings, [g]
    """

    pair: Pair
    let_down: float
    fish: LoopCourse
    plants: LoopCourse
    made: float
    taken_up: float
    in_the_end: float
    drift: float
    alkalinity_short: float

    @property
    def bleed(self) -> float:
        """What let out of the plant loop a week would stop its climb at the nitrate of the last of
        ``WEEKS``, 0 if it does not climb [m³]."""
        last = self.plants.nitrate[-1]
        return max(self.drift, 0.0) * self.plants.volume / last if last > 0.0 else 0.0

    @property
    def surplus(self) -> float:
        """What comes down a week beyond what dries from the plant loop, 0 if nothing [m³]."""
        return max(self.let_down - self.plants.dries, 0.0)


def _loops(net: FlowNet, without: frozenset[str]) -> list[frozenset[str]]:
    """Vessels that water goes round between, loop by loop."""
    legs = [g for g in net.legs if g.start >= 0 and g.end >= 0 and g.id not in without]
    count = len(net.places)
    joined = coo_array(
        (np.ones(len(legs)), ([g.start for g in legs], [g.end for g in legs])), (count, count)
    )
    _, labels = connected_components(joined, connection="strong")
    loops = []
    for label in dict.fromkeys(labels.tolist()):
        members = [n for n in range(count) if labels[n] == label and net.volumes[n] > 0.0]
        if len(members) > 1:
            loops.append(frozenset(net.places[n] for n in members))
    return loops


def pair_of(found: Evaluation) -> Pair | None:
    """The two loops of a plan, and what lets water down from the one with fish.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    Pair or None
        None unless one run or move leads from a loop with fish to another loop without
    """
    plan, net = found.plan, flow_net(found)
    clocked = frozenset(r.id for r in plan.runs if r.opens_by is not None)
    loops = _loops(net, clocked | {m.id for m in plan.moves})
    of = {vessel: loop for loop in loops for vessel in loop}
    tanks = {v.id for v in plan.vessels if v.use.keeps_fish}
    flows = {leg.id: leg.flow for leg in net.legs}
    ways = [(r.id, plan.owner_of(r.start), plan.owner_of(r.end)) for r in plan.runs]
    ways += [(m.id, m.source, m.target) for m in plan.moves]
    for carrier, source, target in ways:
        if source is None or target is None or source not in of or target not in of:
            continue
        fish, plants = of[source], of[target]
        if fish != plants and fish & tanks and not plants & tanks:
            order = [v.id for v in plan.vessels]
            return Pair(
                carrier,
                source,
                target,
                tuple(sorted(fish, key=order.index)),
                tuple(sorted(plants, key=order.index)),
                flows.get(carrier, 0.0),
            )
    return None


def usual_let_down(found: Evaluation, pair: Pair) -> float:
    """What the plan lets down a week by the clock; else a tenth of the fish loop.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    pair : Pair
        Its loops

    Returns
    -------
    float
        A week, [m³]
    """
    planned = pair.planned
    if pair.carrier in {r.id for r in found.plan.runs if r.opens_by is not None}:
        try:
            planned = let_down_by_clock(found.plan, pair.carrier)
        except NotSimulated:
            planned = 0.0
    return planned * _WEEK or _USUAL * sum(found.vessels[m].volume for m in pair.fish)


def pair_course(found: Evaluation, water: WaterResult, pair: Pair, let_down: float) -> PairCourse:
    """Nitrate and salt in both loops over twelve weeks, from clean water on.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    water : WaterResult
        What its water comes to
    pair : Pair
        The loops
    let_down : float
        What is let down a week, over 0, [m³]

    Returns
    -------
    PairCourse
        Both loops, and where they end

    Notes
    -----
    What is let down is made up by fresh water in the fish loop, spread over the week; in the plant
    loop plants and air take that water up and leave what it carries. All flows are means. In the
    end the fish loop stands at C = C_tap + S/L, whatever else; the plant loop drifts by
    (S − uptake)/V, however much is let down.
    """
    plan = found.plan
    net = _net_with(flow_net(found), pair, let_down / _WEEK)
    volumes = dict(zip(net.places, net.volumes.tolist(), strict=True))
    nitrified = sum(water.nitrified.values())
    stays = 1.0 - water.gas / nitrified if nitrified > 0.0 else 1.0
    made = {id_: stays * q / _DAY for id_, q in water.nitrified.items() if id_ in pair.fish}
    wants = plant_uptake(plan)
    nitrate = _nitrate(net, Constituent("nitrate", made, outside=plan.site.tap_nitrate), wants)
    times = [week * _WEEK for week in WEEKS]
    salt = carried_through(net, Constituent("salt"), dict.fromkeys(pair.fish, _SALT), times)

    alkaline = _alkalinity(found, water, pair, let_down)

    def loop(members: tuple[str, ...]) -> LoopCourse:
        whole = sum(volumes[m] for m in members)

        def mean(rows: Mapping[str, Sequence[float] | Floats]) -> tuple[float, ...]:
            return tuple(
                float(sum(volumes[m] * rows[m][k] for m in members) / whole)
                for k in range(len(WEEKS))
            )

        dries = plan.site.dries * sum(open_area(plan.vessel(m)) for m in members)
        dioxide = float(np.mean([water.vessels[m].carbon_dioxide for m in members]))
        levels = alkaline[members]
        ph = tuple(ph_of(level, dioxide, found.water.temperature) for level in levels)
        return LoopCourse(whole, 7.0 * dries, mean(nitrate), mean(salt), levels, ph)

    fish, plants = loop(pair.fish), loop(pair.plants)
    makes = _WEEK * sum(made.values())
    takes = 7.0 * sum(wants.get(m, 0.0) for m in pair.plants)
    brings = plan.site.tap_nitrate * let_down
    spent = ALKALINITY_FOR_NITROGEN * 7.0 * sum(water.nitrified.get(m, 0.0) for m in pair.fish)
    short = spent - let_down * plan.site.tap_alkalinity
    return PairCourse(
        pair,
        let_down,
        fish,
        plants,
        makes,
        takes,
        plan.site.tap_nitrate + makes / let_down,
        (makes + brings - takes) / plants.volume,
        short,
    )


def _alkalinity(
    found: Evaluation, water: WaterResult, pair: Pair, let_down: float
) -> dict[tuple[str, ...], tuple[float, ...]]:
    """Of both loops after each of ``WEEKS`` with nothing given: fresh water brings some in where
    it is made up, bacteria spend it, plants give some back, and what is let down carries it on."""
    plan, site = found.plan, found.plan.site
    volumes = {m: sum(found.vessels[v].volume for v in m) for m in (pair.fish, pair.plants)}
    spent = {
        m: ALKALINITY_FOR_NITROGEN * sum(water.nitrified.get(v, 0.0) for v in m) for m in volumes
    }
    given = {m: ALKALINITY_OF_UPTAKE * sum(water.taken_up.get(v, 0.0) for v in m) for m in volumes}
    dries = plan.site.dries * sum(open_area(plan.vessel(v)) for v in pair.plants)
    passes = let_down / 7.0
    leaves = max(passes - dries, 0.0)
    fish = plants = site.alkalinity
    told: dict[tuple[str, ...], list[float]] = {pair.fish: [fish], pair.plants: [plants]}
    for day in range(1, 7 * WEEKS[-1] + 1):
        before = fish
        own = given[pair.fish] - spent[pair.fish] + passes * site.tap_alkalinity
        fish = _mixed(fish, own, passes, volumes[pair.fish])
        own = given[pair.plants] - spent[pair.plants] + passes * 0.5 * (before + fish)
        plants = _mixed(plants, own, leaves, volumes[pair.plants])
        if day % 7 == 0 and day // 7 in WEEKS:
            told[pair.fish].append(fish)
            told[pair.plants].append(plants)
    return {members: tuple(levels) for members, levels in told.items()}


def _mixed(level: float, brought: float, leaves: float, volume: float) -> float:
    """A mixed water a day later [g/m³], that something is brought into [g/d] and that loses a part
    of itself [m³/d]; never under the least."""
    if leaves <= 0.0:
        return max(level + brought / volume, _LEAST_ALKALINITY)
    end = brought / leaves
    return max(end + (level - end) * math.exp(-leaves / volume), _LEAST_ALKALINITY)


def _net_with(net: FlowNet, pair: Pair, flow: float) -> FlowNet:
    """The same flows with so much let down, made up fresh where it is taken."""
    number = {place: n for n, place in enumerate(net.places)}
    own = {pair.carrier, f"{pair.source}.made_up"}
    legs = [leg for leg in net.legs if leg.id not in own]
    source, target = number[pair.source], number[pair.target]
    legs += [Leg(pair.carrier, source, target, flow), Leg("fresh", -1, source, flow)]
    return FlowNet(net.places, net.volumes, tuple(legs))


def _nitrate(
    net: FlowNet, of: Constituent, wants: Mapping[str, float]
) -> dict[str, tuple[float, ...]]:
    """After each of ``WEEKS``; plants take up the slower the less they have, day by day."""
    now = dict.fromkeys((p for p, v in zip(net.places, net.volumes, strict=True) if v > 0), 0.0)
    volumes = dict(zip(net.places, net.volumes.tolist(), strict=True))
    told = {place: [0.0] for place in now}
    for day in range(1, 7 * WEEKS[-1] + 1):
        decay = {
            id_: grams / _DAY / (volumes[id_] * (HALF_UPTAKE + now[id_]))
            for id_, grams in wants.items()
        }
        step = Constituent(of.name, of.sources, decay=decay, outside=of.outside)
        rows = carried_through(net, step, now, (0.0, _STEP * _DAY))
        now = {place: max(float(row[-1]), 0.0) for place, row in rows.items()}
        if day % 7 == 0 and day // 7 in WEEKS:
            for place, level in now.items():
                told[place].append(level)
    return {place: tuple(levels) for place, levels in told.items()}
