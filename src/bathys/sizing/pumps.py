"""Which pumps would do, and what each costs to run.

With every outlet at its wanted flow and the valve open at the one that needs most head, the plan
asks for one flow at one head. A pump does if it makes that head, with a reserve, in pipes a
season old.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from bathys.edits.editing import Edit, EditRefused, apply_edits
from bathys.network import Balance, Network, NotSolved, solve
from bathys.network.layout import Layout, layout_of, pressure_network
from bathys.parts.practice import PUMP_RESERVE, TURNOVER_AIMS
from bathys.parts.pumps import CatalogPump
from bathys.plan.model import Plan
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.plan.tariff import mean_price, spells_of
from bathys.plan.topology import reached, tied_together
from bathys.plan.vessel import Vessel
from bathys.sizing.ageing import aged
from bathys.sizing.balancing import wanted_flows
from bathys.sizing.throttling import line_with_open_valve, outlet_head
from bathys.vessels import storage_of

__all__ = [
    "BASIS",
    "Candidate",
    "Demand",
    "PumpSearch",
    "flow_asked",
    "pump_edits",
    "search_pumps",
]


_HOURS_A_YEAR = 8760.0
_MOST_ROWS = 12
_MOST_TIMES = 50.0  # more of today's flow than this is a vessel that gets next to nothing


Basis = Literal["wanted", "tank", "frugal", "whole_system", "today"]
BASIS: dict[Basis, str] = {
    "wanted": "the flows you want",
    "tank": "tanks that turn over one and a half times an hour",
    "frugal": "beds that get their volume twice an hour",
    "whole_system": "all the water twice an hour",
    "today": "today’s flows",
}
"""What a demand follows, in words."""


@dataclass(frozen=True, slots=True)
class Demand:
    """What a plan asks of its pump.

    Attributes
    ----------
    flow : float
        All wanted flows together, reserve included, [m³/s]
    head : float
        Head they need, [m]
    neediest : str
        Id of the run whose outlet needs it
    basis : str
        What the flows follow: ``wanted`` in the plan, the name of the school that asks most, or
        those of ``today``
    """

    flow: float
    head: float
    neediest: str
    basis: Basis


@dataclass(frozen=True, slots=True)
class Candidate:
    """A pump held against the demand.

    Attributes
    ----------
    pump : CatalogPump
        The pump
    head : float
        Head it makes at the flow asked for, [m]
    spare : float
        That less the head asked for, [m]
    energy_year : float
        Energy a year, [kWh]
    cost_year : float
        Cost a year, [money]
    """

    pump: CatalogPump
    head: float
    spare: float
    energy_year: float
    cost_year: float


@dataclass(frozen=True, slots=True)
class PumpSearch:
    """The pumps that do, cheapest to run first.

    Attributes
    ----------
    demand : Demand
        What is asked for
    fitting : tuple of Candidate
        Those that do, at most twelve
    count : int
        How many do, [-]
    nearest : Candidate or None
        The one that misses by least among those that would be cheaper to run
    cures : tuple of str
        What would make the nearest miss do
    missing_head : float
        Head it is short of, [m]
    """

    demand: Demand
    fitting: tuple[Candidate, ...]
    count: int
    nearest: Candidate | None
    cures: tuple[str, ...]
    missing_head: float


def search_pumps(
    now: Balance,
    pump: Pump,
    catalogue: Sequence[CatalogPump],
    reserve: float = PUMP_RESERVE,
    fouling: str = "season",
) -> PumpSearch:
    """Try every pump of a catalogue in a pump's place.

    Parameters
    ----------
    now : Balance
        The plan as it stands
    pump : Pump
        The pump to replace
    catalogue : sequence of CatalogPump
        The pumps to try
    reserve : float
        Share more than wanted, [-]
    fouling : str
        State of every wall, a key of ``FOULING``

    Returns
    -------
    PumpSearch
        Those that do, and the nearest that does not

    Raises
    ------
    NotSolved
        If the wanted flows cannot be led to their outlets
    """
    older = aged(now.plan, fouling)
    layout = layout_of(older, now.layout.water)
    demand = _demand(now, layout, pump, reserve)
    rows = _candidates(now.plan, pump, catalogue, demand)
    fitting = sorted((r for r in rows if r.spare >= 0.0), key=lambda r: r.cost_year)
    limit = fitting[0].cost_year if fitting else np.inf
    missing = [r for r in rows if r.spare < 0.0 and r.cost_year < limit]
    nearest = max(missing, key=lambda r: r.spare, default=None)
    cures = _cures(now, older, pump, reserve, demand, nearest) if nearest else ()
    return PumpSearch(
        demand,
        tuple(fitting[:_MOST_ROWS]),
        len(fitting),
        nearest,
        cures,
        -nearest.spare if nearest else 0.0,
    )


def _outlets(now: Balance, pump: Pump) -> tuple[dict[str, float], Basis]:
    """Flow each outlet of a pump is to carry [m³/s], and what that follows: what is wanted, else
    what the chosen schools ask, else what it carries now. A bypass is only there to burn a
    surplus."""
    wanted = wanted_flows(now.plan, now.layout)
    found: dict[str, float] = {}
    for run in tied_together(now.plan, [pump.leads_from]).runs:
        is_bypass = run.target == pump.stands_in and run.id not in wanted
        if now.plan.port(run.end) is not None and not is_bypass:
            found[run.id] = wanted.get(run.id, max(now.flows[run.id], 0.0))
    flows = {r: q for r, q in found.items() if q > 0.0}
    if wanted.keys() & flows.keys():
        return flows, "wanted"
    share, basis = _asked_by_schools(now, pump, sum(flows.values()))
    return {r: share * q for r, q in flows.items()}, basis


def flow_asked(now: Balance, pump: Pump) -> tuple[float, Basis]:
    """What a plan asks of a pump, reserve included [m³/s], and what that follows.

    Parameters
    ----------
    now : Balance
        The balance
    pump : Pump
        The pump

    Returns
    -------
    (float, Basis)
        The flow, [m³/s], and what it follows
    """
    flows, basis = _outlets(now, pump)
    return (1.0 + PUMP_RESERVE) * sum(flows.values()), basis


def _asked_by_schools(now: Balance, pump: Pump, flow: float) -> tuple[float, Basis]:
    """How many times today's flow the schools of a plan aim at: the greatest, and whose it is."""
    closer = now.closing.get(pump.stands_in)
    loop = [now.plan.vessel(v) for v, c in now.closing.items() if c == closer]
    asked: list[tuple[float, Basis]] = []
    for school in now.plan.brief.schools:
        if school == "tank":
            asked += [
                (_share_of(now, v, TURNOVER_AIMS[school], v.shape.height), "tank")
                for v in loop
                if v.use.keeps_fish
            ]
        elif school == "frugal":
            asked += [
                (TURNOVER_AIMS[school] * v.shape.capacity / max(now.inflow(v.id), 1e-12), "frugal")
                for v in loop
                if v.use.floods
            ]
        elif school == "whole_system" and flow > 0.0:
            water = sum(_water(now, v, now.rest_levels[v.id]) for v in loop)
            asked.append((TURNOVER_AIMS[school] * water / flow, "whole_system"))
    sane = [a for a in asked if a[0] < _MOST_TIMES]
    return max(sane, default=(1.0, "today"))


def _water(now: Balance, vessel: Vessel, level: float) -> float:
    return storage_of(now.plan, vessel).volume_at(level - vessel.floor_height)


def _share_of(now: Balance, vessel: Vessel, aim: float, tall: float) -> float:
    level = min(now.levels[vessel.id], vessel.floor_height + tall)
    return aim * _water(now, vessel, level) / max(now.inflow(vessel.id), 1e-12)


def _demand(now: Balance, layout: Layout, pump: Pump, reserve: float) -> Demand:
    asked, basis = _outlets(now, pump)
    wanted = {r: (1.0 + reserve) * q for r, q in asked.items()}
    if not wanted:
        raise NotSolved(f"no outlet of {pump.name} carries or wants a flow")
    heads = _heads_below(layout, now, pump, wanted)
    needs = {}
    for id_, flow in wanted.items():
        run = layout.plan.part(id_)
        if run.start not in heads:
            raise NotSolved(f"no open way leads to {run.name}")
        lost = float(line_with_open_valve(layout.lines[id_]).loss(np.array([flow]))[0][0])
        needs[id_] = outlet_head(layout, now.levels, run) + lost - heads[run.start]
    neediest = max(needs, key=lambda r: needs[r])
    head = needs[neediest] - now.levels[pump.stands_in]
    return Demand(sum(wanted.values()), head, neediest, basis)


def _heads_below(
    layout: Layout, now: Balance, pump: Pump, wanted: dict[str, float]
) -> dict[str, float]:
    """Head at every junction against the pump's outlet, which stands at 0, with every outlet at
    its flow [m]."""
    network = pressure_network(layout, now.levels, wanted)
    source = pump.leads_from
    lines = [k for k in network.links if k.line is not None]
    places = reached(
        [source],
        lambda here: [end for k in lines if here in (k.start, k.end) for end in (k.start, k.end)],
    )
    links = [k for k in lines if k.start in places]
    demands = {n: q for n, q in network.demands.items() if n in places and n != source}
    if not links:
        return {source: 0.0}
    solution = solve(Network(tuple(links), {source: 0.0}, demands))
    return solution.heads


def _candidates(
    plan: Plan, pump: Pump, catalogue: Sequence[CatalogPump], demand: Demand
) -> list[Candidate]:
    heads = [p.head_at(demand.flow) for p in catalogue]
    share = pump.clock.share if pump.clock is not None else 1.0
    energy = np.array([p.power for p in catalogue]) * _HOURS_A_YEAR * share / 1000.0
    price = mean_price(plan.site, spells_of(pump.clock, share))
    return [
        Candidate(p, h, h - demand.head, float(e), float(e) * price)
        for p, h, e in zip(catalogue, heads, energy, strict=True)
    ]


def _cures(
    now: Balance, older: Plan, pump: Pump, reserve: float, demand: Demand, nearest: Candidate
) -> tuple[str, ...]:
    """What would make the nearest miss do: less lift, or one run a size wider."""
    cures = [f"{{less:head}} less lift at {named(older.part(demand.neediest))}"]
    for run in _way_to(older, demand.neediest):
        wider = _next_size(run)
        if wider is None:
            continue
        try:
            plan = apply_edits(older, [Edit(f"runs.{run.id}.bore", wider)])
            asked = _demand(now, layout_of(plan, now.layout.water), pump, reserve)
        except (EditRefused, NotSolved):  # it does not go into its vessel, say
            continue
        if asked.head <= nearest.head:
            cures.append(f"{named(run)} in {wider['nominal']}")
    return tuple(cures)


def _way_to(plan: Plan, run_id: str) -> list[Run]:
    way = [plan.part(run_id)]
    while True:
        before = [r for r in plan.runs_to(way[-1].start) if r not in way]
        if not before:
            return way
        way.append(before[0])


def _next_size(run: Run) -> dict[str, str] | None:
    wider = next(iter(run.bore.wider), None)
    return wider.as_data if wider is not None else None


def pump_edits(pump: Pump, chosen: CatalogPump) -> tuple[Edit, ...]:
    """The change that puts a pump of the catalogue in a pump's place.

    Parameters
    ----------
    pump : Pump
        The pump
    chosen : CatalogPump
        The pump of the catalogue

    Returns
    -------
    tuple of Edit
        The edits that do so
    """
    path = f"pumps.{pump.id}"
    return (
        Edit(f"{path}.curve", chosen.as_curve),
        Edit(f"{path}.power", chosen.power),
        Edit(f"{path}.name", chosen.name),
        Edit(f"{path}.dial", 1.0),
        Edit(f"{path}.wear", 1.0),
    )
