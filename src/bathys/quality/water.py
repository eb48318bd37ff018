"""What fish, bacteria, plants and air do to the water of each vessel, in the long run."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from threading import Lock

from cachetools import LRUCache, cached

from bathys.evaluation import Evaluation
from bathys.physics.carbonate import CO2_IN_BALANCE, ph_of, unionised_share
from bathys.physics.nitrogen import (
    ALKALINITY_FOR_NITROGEN,
    ALKALINITY_OF_UPTAKE,
    AMMONIA,
    NITRITE,
    OXYGEN_FOR_NITROGEN,
    OxidisedBy,
)
from bathys.physics.oxygen import fall_share, saturation
from bathys.quality.air import air_flows
from bathys.quality.flows import flow_net
from bathys.quality.mineralising import NITROGEN_IN_SOLIDS
from bathys.quality.solids import solids_of
from bathys.quality.stocking import TankStock, stock_of
from bathys.quality.surfaces import depth_of, surfaces_of
from bathys.quality.transport import Constituent, FlowNet, steady, steady_with_uptake
from bathys.quality.uptake import HALF_UPTAKE, plant_uptake
from bathys.quality.venturis import drawn_airs
from bathys.quality.water_result import AS_IT_IS, Otherwise, VesselWater, WaterResult

__all__ = [
    "OPEN_SURFACE",
    "TAN_OF_PROTEIN",
    "water_of",
]

TAN_OF_PROTEIN = 0.092
"""Ammonia nitrogen made of a mass of protein fed (Timmons & Ebeling, memory) [-]."""

_DAY = 86400.0
_OXYGEN_OF_FEED = 0.4  # taken by fish, as a daily mean (memory) [-]
_OXYGEN_OF_ROT = 0.15  # taken by what rots of a day's feed (memory) [-]
_CO2_OF_OXYGEN = 1.375  # given off for the oxygen taken [-]
OPEN_SURFACE = 0.45  # what an open surface brings for each g/m³ short (memory) [m/d]
_BETA = 0.98  # of what clean water holds, in fish water (memory) [-]
_ROOTS = 4.0  # oxygen taken by roots under rafts (assumed) [g/m²·d]
_FLOODED = 0.5  # of what is short, that water makes up passing a bed flooded by turns (assumed) [-]
_SPRAYED = 0.4  # and that leaves by small holes in the air (assumed) [-]
_CLEAN, _BROKEN = 1.25, 0.8  # water and shape of a fall (memory) [-]
_GAS, _GAS_IN_MEDIA = 0.1, 0.3  # of nitrate that is lost as gas (memory) [-]
_CO2_OVER_OXYGEN = 0.9  # how fast carbon dioxide goes over, against oxygen (memory) [-]
_CO2_BUBBLES = 1.19  # carbon dioxide that a bubble holds in balance, over the water's (24 °C) [-]
_ROUNDS = 12
_SETTLED = 1e-4  # of oxygen, between two rounds [g/m³]


def _same(found: Evaluation, otherwise: Otherwise) -> tuple[int, Otherwise]:
    return id(found), otherwise


@cached(LRUCache(maxsize=32), key=_same, lock=Lock())
def _kept(found: Evaluation, otherwise: Otherwise) -> list[tuple[Evaluation, WaterResult | None]]:
    """Kept with its evaluation, so that no other can have its identity."""
    stock = stock_of(found, otherwise.harvest)
    return [(found, _Working(found, stock, otherwise).result() if stock else None)]


def water_of(found: Evaluation, otherwise: Otherwise = AS_IT_IS) -> WaterResult | None:
    """What the water of a plan comes to in the long run.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    otherwise : Otherwise
        What is to be other than it is

    Returns
    -------
    WaterResult or None
        None for a plan that nothing is fed in; kept, since rules, figures and pages all ask

    Notes
    -----
    Nitrification and oxygen hang on each other, so both are worked out in turn until oxygen moves
    no more. pH follows from the alkalinity told for the site and the carbon dioxide.
    """
    return _kept(found, otherwise)[0][1]


@dataclass(frozen=True)
class _Air:
    """What brings oxygen, apart from flows.

    Attributes
    ----------
    stones, surfaces : dict of str to float
        What stones and the open surface of a vessel bring for each g/m³ short, [m³/s]
    bubbles : dict of str to float
        Free air of its stones, [m³/s]
    passing : dict of str to float
        Share of what is short made up on the way through a run, or into a vessel, [-]
    """

    stones: dict[str, float]
    surfaces: dict[str, float]
    bubbles: dict[str, float]
    passing: dict[str, float]


def _air_of(found: Evaluation) -> _Air:
    plan, warm = found.plan, found.water.temperature
    stones: dict[str, float] = {}
    bubbles: dict[str, float] = {}
    flows = air_flows(found)
    for aerator in plan.air:
        id_ = aerator.stands_in
        level = depth_of(found, id_)
        stones[id_] = stones.get(id_, 0.0) + aerator.transfer(flows[aerator.id], level, warm)
        bubbles[id_] = bubbles.get(id_, 0.0) + flows[aerator.id]
    for drawn in drawn_airs(found):
        id_ = drawn.run.target
        stones[id_] = stones.get(id_, 0.0) + drawn.transfer
        bubbles[id_] = bubbles.get(id_, 0.0) + drawn.air
    surfaces = {
        v.id: OPEN_SURFACE / _DAY * v.shape.footprint * (1.0 - v.covered) for v in plan.vessels
    }
    passing: dict[str, float] = {}
    for run in plan.runs:
        end = plan.elevation(run.end)
        if plan.group_of(run.target) != "vessels" or end is None:
            continue
        height = end - found.vessels[run.target].levels.high
        share = fall_share(height, warm, _CLEAN, _BROKEN)
        if height > 0.0 and run.ends_in is not None and run.ends_in.small_holes:
            share = max(share, _SPRAYED)
        passing[run.id] = share
    flooded = {v for b in found.beds for v in b.linked} | {b.bed.id for b in found.beds}
    passing |= dict.fromkeys(flooded, _FLOODED)
    return _Air(stones, surfaces, bubbles, passing)


class _Working:
    """One plan's water while it is worked out."""

    def __init__(
        self, found: Evaluation, stock: Mapping[str, TankStock], otherwise: Otherwise
    ) -> None:
        self.found, self.stock, self.feed = found, stock, otherwise.feed
        net = flow_net(found)
        legs = tuple(replace(leg, flow=otherwise.flow * leg.flow) for leg in net.legs)
        self.net: FlowNet = replace(net, legs=legs)
        self.air = _air_of(found)
        self.warm = found.water.temperature
        site = found.plan.site
        self.works = site.nitrification
        self.holds = saturation(self.warm, site.altitude)
        self.surfaces = {
            id_: area
            for id_, area in surfaces_of(found).items()
            if otherwise.beds or found.vessels[id_].vessel.media is None
        }
        # The solids of the plan as it stands, in proportion to what is fed.
        solids = solids_of(found)
        now = max(1000.0 * solids.feed, 1e-9)
        self.rots = {
            v.id: solids.held(v.id) * self._fed / now
            for v in found.plan.vessels
            if v.media is not None or v.use.has_rafts
        }
        held = {v.id: solids.held(v.id) for v in found.plan.vessels if solids.held(v.id) > 0.0}
        whole = sum(held.values())
        first = next(iter(stock))
        self.rot_shares = (
            {id_: grams / whole for id_, grams in held.items()} if whole > 0.0 else {first: 1.0}
        )

    @property
    def _fed(self) -> float:
        """Feed a day in all [g]."""
        return self.feed * sum(s.feed for s in self.stock.values())

    def result(self) -> WaterResult:
        """Nitrogen and oxygen in turn, then the rest."""
        oxygen = dict.fromkeys(self.found.vessels, 0.7 * self.holds)
        for _ in range(_ROUNDS):
            tan, nitrified = self._oxidised(self._tan_sources(), AMMONIA, oxygen)
            nitrite, onward = self._oxidised(
                {id_: q / _DAY for id_, q in nitrified.items()}, NITRITE, oxygen
            )
            before, (oxygen, used) = oxygen, self._oxygen(nitrified)
            if max(abs(oxygen[v] - before[v]) for v in oxygen) < _SETTLED:
                break
        nitrate, taken, gas, left = self._nitrate(onward)
        dioxide = self._carbon_dioxide(used)
        return self._told(
            (tan, nitrite, nitrate, oxygen, dioxide), nitrified, taken, (gas, left), used
        )

    def _tan_sources(self) -> dict[str, float]:
        """Ammonia nitrogen that is added [g/s]."""
        rows = {
            id_: self.feed * s.feed * s.protein * TAN_OF_PROTEIN / _DAY
            for id_, s in self.stock.items()
        }
        for id_, grams in self.rots.items():
            rows[id_] = rows.get(id_, 0.0) + grams * NITROGEN_IN_SOLIDS / _DAY
        return rows

    def _oxidised(
        self, sources: dict[str, float], by: OxidisedBy, oxygen: Mapping[str, float]
    ) -> tuple[dict[str, float], dict[str, float]]:
        """Concentrations [g/m³], and what each vessel turns over [g/d]."""
        most = {
            id_: self.works * by.rate(1e9, self.warm, max(oxygen[id_], 0.0)) * area / _DAY
            for id_, area in self.surfaces.items()
        }
        carried, taken = steady_with_uptake(
            self.net, Constituent("nitrogen", sources), most, by.half
        )
        levels = {id_: carried.concentrations[id_] for id_ in self.found.vessels}
        return levels, {id_: _DAY * q for id_, q in taken.items()}

    def _oxygen(
        self, nitrified: Mapping[str, float]
    ) -> tuple[dict[str, float], dict[str, dict[str, float]]]:
        """Oxygen in each vessel [g/m³], and what is used there a day, by what uses it [g]."""
        used: dict[str, dict[str, float]] = {
            "fish": {id_: self.feed * s.feed * _OXYGEN_OF_FEED for id_, s in self.stock.items()},
            "bacteria": {id_: OXYGEN_FOR_NITROGEN * q for id_, q in nitrified.items()},
            "rot": {
                id_: self._fed * _OXYGEN_OF_ROT * share for id_, share in self.rot_shares.items()
            },
            "roots": {
                v.id: _ROOTS * v.shape.footprint * (v.crop.planted if v.crop else 1.0)
                for v in self.found.plan.vessels
                if v.use.has_rafts
            },
        }
        sources: dict[str, float] = {}
        for rows in used.values():
            for id_, grams in rows.items():
                sources[id_] = sources.get(id_, 0.0) + grams / _DAY
        # Fish water holds a little less than clean water: bubbles stop at that.
        for id_, transfer in self.air.stones.items():
            sources[id_] = sources.get(id_, 0.0) + transfer * (1.0 - _BETA) * self.holds
        decay = {
            id_: (self.air.stones.get(id_, 0.0) + brings) / self._volume(id_)
            for id_, brings in self.air.surfaces.items()
        }
        short = Constituent("oxygen short", sources, self.air.passing, decay)
        (carried,) = steady(self.net, [short])
        levels = {
            id_: max(self.holds - min(carried.concentrations[id_], 2.0 * self.holds), 0.0)
            for id_ in self.found.vessels
        }
        return levels, used

    def _volume(self, id_: str) -> float:
        return float(self.net.volumes[self.net.places.index(id_)])

    def _nitrate(
        self, made: Mapping[str, float]
    ) -> tuple[dict[str, float], dict[str, float], float, float]:
        """Nitrate [g/m³], what plants take up by vessel, what is lost as gas, what is left over
        [g/d]."""
        plan = self.found.plan
        has_media = any(v.media is not None for v in plan.vessels)
        gas_share = _GAS_IN_MEDIA if has_media else _GAS
        sources = {id_: (1.0 - gas_share) * q / _DAY for id_, q in made.items()}
        most = {id_: grams / _DAY for id_, grams in plant_uptake(plan).items()}
        of = Constituent("nitrate", sources, outside=plan.site.tap_nitrate)
        if most:
            carried, taken = steady_with_uptake(self.net, of, most, HALF_UPTAKE)
        else:
            (carried,), taken = steady(self.net, [of]), {}
        levels = {id_: carried.concentrations[id_] for id_ in self.found.vessels}
        gas = gas_share * sum(made.values())
        return levels, {k: _DAY * q for k, q in taken.items()}, gas, _DAY * carried.climbs

    def _carbon_dioxide(self, used: Mapping[str, Mapping[str, float]]) -> dict[str, float]:
        """Carbon dioxide in each vessel [g/m³]: what is over the balance with air, stripped."""
        sources: dict[str, float] = {}
        for what in ("fish", "rot", "roots"):
            for id_, grams in used[what].items():
                sources[id_] = sources.get(id_, 0.0) + _CO2_OF_OXYGEN * grams / _DAY
        decay = {}
        for id_, surface in self.air.surfaces.items():
            rate = _CO2_OVER_OXYGEN * surface
            stones, bubbles = self.air.stones.get(id_, 0.0), self.air.bubbles.get(id_, 0.0)
            if stones > 0.0 and bubbles > 0.0:
                # A bubble is full after a while: what it can carry off in all is in series.
                rate += 1.0 / (1.0 / (_CO2_OVER_OXYGEN * stones) + 1.0 / (_CO2_BUBBLES * bubbles))
            decay[id_] = rate / self._volume(id_)
        held = {id_: _CO2_OVER_OXYGEN * share for id_, share in self.air.passing.items()}
        (carried,) = steady(self.net, [Constituent("carbon dioxide", sources, held, decay)])
        return {
            id_: CO2_IN_BALANCE + min(carried.concentrations[id_], 1e3)
            for id_ in self.found.vessels
        }

    def _told(
        self,
        levels: tuple[dict[str, float], ...],
        nitrified: dict[str, float],
        taken: dict[str, float],
        rest: tuple[float, float],
        used: dict[str, dict[str, float]],
    ) -> WaterResult:
        tan, nitrite, nitrate, oxygen, dioxide = levels
        alkalinity = self.found.plan.site.alkalinity
        rows = {}
        for id_, result in self.found.vessels.items():
            ph = ph_of(alkalinity, dioxide[id_], self.warm)
            rows[id_] = VesselWater(
                result.vessel,
                tan[id_],
                nitrite[id_],
                nitrate[id_],
                oxygen[id_],
                oxygen[id_] / self.holds,
                dioxide[id_],
                ph,
                tan[id_] * unionised_share(ph, self.warm),
            )
        gas, left = rest
        spent = ALKALINITY_FOR_NITROGEN * sum(nitrified.values())
        regained = ALKALINITY_OF_UPTAKE * (sum(taken.values()) + gas)
        able = {
            id_: self.works * AMMONIA.rate(1e9, self.warm, oxygen[id_]) * area
            for id_, area in self.surfaces.items()
        }
        return WaterResult(
            self.stock,
            rows,
            _DAY * sum(self._tan_sources().values()),
            nitrified,
            able,
            taken,
            gas,
            left,
            {what: sum(rows_.values()) for what, rows_ in used.items()},
            self._brought(oxygen),
            spent - regained,
            self.holds,
            {
                id_: sum(rows_.get(id_, 0.0) for rows_ in used.values())
                for id_ in self.found.vessels
            },
            self.air.stones,
            (1.0 - _BETA) * self.holds,
        )

    def _brought(self, oxygen: Mapping[str, float]) -> dict[str, float]:
        """Oxygen a day by what brings it [g]."""
        short = {id_: self.holds - level for id_, level in oxygen.items()}
        stones = sum(
            k * (short[id_] - (1.0 - _BETA) * self.holds) for id_, k in self.air.stones.items()
        )
        surfaces = sum(k * short[id_] for id_, k in self.air.surfaces.items())
        by_way = {"falls": 0.0, "beds": 0.0, "fresh water": 0.0}
        # What a leg carries short of the limit: through joints as its sources are.
        at = self._short_at(short)
        for leg in self.net.legs:
            begins = 0.0 if leg.start < 0 else at[self.net.places[leg.start]]
            carried = leg.flow * begins
            on_way = self.air.passing.get(leg.id, 0.0)
            by_way["falls"] += on_way * carried
            if leg.end >= 0:
                into = self.air.passing.get(self.net.places[leg.end], 0.0)
                by_way["beds"] += (1.0 - on_way) * into * carried
            if leg.end < 0:
                by_way["fresh water"] += (
                    carried  # what leaves short is made up by water that is not
                )
        rows = {"stones": stones, "open surfaces": surfaces, **by_way}
        return {name: _DAY * q for name, q in rows.items()}

    def _short_at(self, short: Mapping[str, float]) -> dict[str, float]:
        """What the water of each place is short of, joints as what comes to them."""
        at = {p: short.get(p, 0.0) for p in self.net.places}
        ways: dict[str, list[tuple[float, str]]] = {
            p: [] for p in self.net.places if p not in short
        }
        for leg in self.net.legs:
            end = self.net.places[leg.end] if leg.end >= 0 else ""
            if end in ways:
                through = leg.flow * (1.0 - self.air.passing.get(leg.id, 0.0))
                ways[end].append((through, self.net.places[leg.start] if leg.start >= 0 else ""))
        comes = {p: sum(g.flow for g in self.net.legs if g.end == n) for n, p in enumerate(at)}
        for _ in ways:
            for place, legs in ways.items():
                if comes[place] > 0.0:
                    brought = sum(q * at.get(start, 0.0) for q, start in legs)
                    at[place] = brought / comes[place]
        return at
