"""Where a day's solids end: made of feed, carried by grain class, caught, held, or left in the
water."""

from dataclasses import dataclass
from threading import Lock

from cachetools import LRUCache, cached

from bathys.evaluation import Evaluation
from bathys.quality.filters import FilterResult, filter_results, shares_held
from bathys.quality.flows import flow_net
from bathys.quality.grains import CUT, FINES, FRESH, MASHED, GrainClass, Spread, classes_of
from bathys.quality.settling import SettlerResult, capture_of, settler_of
from bathys.quality.solids_lines import reached_from
from bathys.quality.stocking import feed_of, stock_of
from bathys.quality.transport import Carried, Constituent, steady

__all__ = ["SOLIDS_OF_FEED", "SolidsResult", "solids_of"]

SOLIDS_OF_FEED = 0.25
"""Dry solids made of a mass of feed (Timmons & Ebeling, memory) [-]."""

_FINE_SHARE = 0.15  # of what is made, fine from the beginning (assumed)
_BED = (0.6, 0.05)  # what a media bed holds a pass of grains over the cut, and under it (assumed)
_DAY = 86400.0
_GRAMS = 1000.0


@dataclass(frozen=True)
class SolidsResult:
    """What becomes of a plan's solids.

    Attributes
    ----------
    feed : float
        A day, [kg]
    made : float
        Dry solids a day, [g]
    classes : tuple of GrainClass
        From the finest on
    carried : tuple of Carried
        What becomes of each class
    settlers : tuple of SettlerResult
        In the plan's order
    filters : tuple of FilterResult
        In the order of their runs
    mashed : tuple of str
        Fish tanks whose waste goes through a pump first, since nothing runs out of them by itself
    """

    feed: float
    made: float
    classes: tuple[GrainClass, ...]
    carried: tuple[Carried, ...]
    settlers: tuple[SettlerResult, ...]
    filters: tuple[FilterResult, ...]
    mashed: tuple[str, ...]

    def held(self, place: str) -> float:
        """What a place holds back a day [g]."""
        return _DAY * sum(c.held.get(place, 0.0) for c in self.carried)

    @property
    def ends(self) -> dict[str, float]:
        """What each place holds back a day, the most first [g]."""
        places = dict.fromkeys(p for c in self.carried for p in c.held)
        rows = {place: self.held(place) for place in places}
        return dict(sorted(rows.items(), key=lambda row: -row[1]))

    def in_water(self, place: str) -> float:
        """Solids in a place's water [g/m³], which is mg/L; infinite where they climb."""
        return sum(c.concentrations[place] for c in self.carried)

    @property
    def leaves(self) -> float:
        """What leaves with water a day [g]."""
        return _DAY * sum(c.leaves for c in self.carried)

    @property
    def climbs(self) -> float:
        """What nothing takes out of the water a day [g]."""
        return _DAY * sum(c.climbs for c in self.carried)

    def caught_by(self, settler: str) -> float:
        """Share of what comes to a settler that it holds back, by mass [-]."""
        held = self.held(settler)
        through = sum(
            c.concentrations[settler] for c in self.carried if c.concentrations[settler] < 1e12
        )
        flow = next((s.flow for s in self.settlers if s.vessel.id == settler), 0.0)
        passes = _DAY * through * flow
        return held / (held + passes) if held + passes > 0.0 else 0.0


def _same(found: Evaluation) -> int:
    return id(found)


@cached(LRUCache(maxsize=8), key=_same, lock=Lock())
def _kept(found: Evaluation) -> list[tuple[Evaluation, SolidsResult]]:
    """Kept with its evaluation, so that no other can have its identity."""
    return [(found, _solids_of(found))]


def solids_of(found: Evaluation) -> SolidsResult:
    """What becomes of the solids that a plan's feed makes.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    SolidsResult
        By class and in all; kept, since rules, figures and pages all ask
    """
    return _kept(found)[0][1]


def _solids_of(found: Evaluation) -> SolidsResult:
    plan, net = found.plan, flow_net(found)
    tanks = [v for v in plan.vessels if v.use.keeps_fish]
    feed = feed_of(found)
    made = SOLIDS_OF_FEED * feed * _GRAMS
    fed = {id_: s.feed for id_, s in stock_of(found).items()}
    in_all = max(sum(fed.values()), 1e-12)
    # Where water also runs out by itself, the waste goes that way, from the floor.
    mashed = tuple(
        v.id
        for v in tanks
        if any(p.stands_in == v.id for p in plan.pumps)
        and not reached_from(found, v.id, by_itself=True)
    )
    filters = filter_results(found)
    cuts = tuple(f.filter.cut for f in filters)
    classes = classes_of(_mix(FRESH), cuts)
    shares = {id_: [c.share for c in classes_of(_mix(MASHED), cuts)] for id_ in mashed}
    settlers = tuple(s for v in plan.vessels if (s := settler_of(found, v.id)) is not None)
    rows = []
    for number, grains in enumerate(classes):
        sources = {
            v.id: made
            / _DAY
            * fed.get(v.id, 0.0)
            / in_all
            * (shares[v.id][number] if v.id in shares else grains.share)
            for v in tanks
        }
        held = {
            **_held(found, settlers, grains.grain),
            **shares_held(filters, grains.grain),
        }
        rows.append(Constituent(f"{grains.grain * 1e6:.0f} µm", sources, held))
    return SolidsResult(feed, made, classes, steady(net, rows), settlers, filters, mashed)


def _mix(coarse: Spread) -> list[tuple[float, Spread]]:
    return [(_FINE_SHARE, FINES), (1.0 - _FINE_SHARE, coarse)]


def _held(found: Evaluation, settlers: tuple[SettlerResult, ...], grain: float) -> dict[str, float]:
    """Share of a grain that each vessel holds back of what comes to it."""
    held: dict[str, float] = {}
    viscosity = found.water.kinematic_viscosity
    rates = {s.vessel.id: s.rate for s in settlers}
    for vessel in found.plan.vessels:
        inflow = found.vessels[vessel.id].inflow
        if vessel.use.has_rafts and inflow > 0.0:
            # In the calm under rafts waste settles, and on the roots.
            rates.setdefault(vessel.id, inflow / vessel.shape.footprint)
        if vessel.id in rates:
            held[vessel.id] = capture_of(vessel, rates[vessel.id], grain, viscosity)
        elif vessel.media is not None:
            held[vessel.id] = _BED[0] if grain >= CUT else _BED[1]
    return held
