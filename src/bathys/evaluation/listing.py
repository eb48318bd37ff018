"""Every figure of an evaluation, in the order of the water."""

from collections.abc import Iterator
from typing import TYPE_CHECKING

from bathys.evaluation import formulas as by
from bathys.evaluation.beds import BedResult
from bathys.evaluation.duty import Duty
from bathys.evaluation.figures import Figure, Input
from bathys.evaluation.runs import RunResult
from bathys.evaluation.vessels import VesselResult
from bathys.physics import area_of
from bathys.physics.friction import hazen_williams_head
from bathys.physics.siphon import START_FROUDE
from bathys.plan.pumps import LabelPump
from bathys.simulation import PumpedBedLoop

if TYPE_CHECKING:
    from bathys.evaluation.result import Evaluation

__all__ = ["list_figures"]

_TABLE_BORE, _NEW, _OLD = 0.025, 150.0, 130.0  # of Hazen–Williams: least bore [m], C [-]
_MOST_HEADLINES = 2  # of one kind, so that the head of the page stays readable
_NO_CYCLE = {
    "never_starts": "the siphon never starts",
    "holds": "the siphon never stops",
    "hangs": "the siphon hangs at its slots",
    "overflows": "the bed runs over",
    "starved": "the tank runs out first",
    "no_inflow": "no water arrives",
}


def list_figures(found: "Evaluation") -> tuple[Figure, ...]:
    """Figures of an evaluation.

    Parameters
    ----------
    found : Evaluation
        Its numbers

    Returns
    -------
    tuple of Figure
        Headlines first come first
    """
    rows: list[Figure] = []
    for number, duty in enumerate(found.duties.values()):
        rows.append(_pump_flow(found, duty, number < _MOST_HEADLINES))
    tanks = [v for v in found.vessels.values() if v.vessel.job == "fish_tank"]
    for vessel in found.vessels.values():
        rows += _vessel(found, vessel, vessel in tanks[:_MOST_HEADLINES])
    few = len(found.beds) <= _MOST_HEADLINES
    for bed in found.beds:
        rows += [_cycle(bed, few), _siphon(bed, few and len(found.beds) == 1)]
    for closer in dict.fromkeys(found.balance.closing.values()):
        rows += _closing_levels(found, closer)
    for number, duty in enumerate(found.duties.values()):
        rows += [_power(found, duty, number < _MOST_HEADLINES), _pump_head(found, duty)]
    for run in found.runs.values():
        rows += _run(found, run)
    return tuple(rows)


def _pump_flow(found: "Evaluation", duty: Duty, headline: bool) -> Figure:
    pump = duty.pump
    told = "{share:percent} of " + (
        "the label’s {label:flow}" if isinstance(pump.curve, LabelPump)
        else "the {label:flow} it moves at no lift"
    )  # fmt: skip
    if duty.flow_high - duty.flow_low > 0.002 * duty.flow_high:
        told += "; {low:flow} to {high:flow} as its water falls and rises"
    if pump.switch is not None:
        told += "; it runs {time:percent} of the time"
    lifts = [d.lift for d in duty.deliveries if d.flow > 0.0] or [0.0]
    name = f"Flow of {pump.name.lower()}" if len(found.duties) > 1 else "Pumped flow"
    return by.PUMP_FLOW.of(
        f"{pump.id}.flow", pump.id,
        (Input("greatest lift", max(lifts), "head"), Input("head it makes", duty.head, "head"),
         Input("lost on the way there", duty.head - max(lifts), "head")),
        told,
        {"share": duty.label_share, "label": duty.label_flow, "low": duty.flow_low,
         "high": duty.flow_high, "time": duty.share},
        value=duty.flow, headline=headline, label=name,
    )  # fmt: skip


def _pump_head(found: "Evaluation", duty: Duty) -> Figure:
    return by.PUMP_HEAD.of(
        f"{duty.pump.id}.head", duty.pump.id, (Input("flow", duty.flow, "flow"),),
        "it stops at {top:head}", {"top": duty.shut_off_head}, value=duty.head,
    )  # fmt: skip


def _vessel(found: "Evaluation", result: VesselResult, headline: bool) -> Iterator[Figure]:
    vessel = result.vessel
    if result.inflow <= 0.0 or result.volume <= 0.0:
        return
    through = Input("what passes through", result.inflow, "flow")
    holds = Input("water in it", result.volume, "volume")
    aims = {
        "fish_tank": "once is accepted, 1.5 to 2 preferred",
        "raft": "rafts are held for one to four hours",
    }.get(vessel.job, "")
    yield by.TURNOVER.of(
        f"{vessel.id}.turnover", vessel.id, (through, holds), aims, headline=headline,
        label=f"{vessel.name} turnover",
    )  # fmt: skip
    yield by.HOLD.of(
        f"{vessel.id}.hold", vessel.id, (holds, through), label=f"Water stays in {vessel.name}"
    )


def _cycle(bed: BedResult, headline: bool) -> Figure:
    cycle, key = bed.cycle, f"{bed.bed.id}.cycle"
    name = f"Cycle of {bed.bed.name.lower()}"
    if cycle.period is None or cycle.fill_time is None or cycle.drain_time is None:
        told = f"no cycle: {_NO_CYCLE[cycle.verdict]}"
        return by.CYCLE.of(key, bed.bed.id, (), told, headline=headline, label=name)
    return by.CYCLE.of(
        key, bed.bed.id,
        (
            Input("inflow as it starts", cycle.start_inflow, "flow"),
            Input("peak flow of the siphon", cycle.peak_flow, "flow"),
            Input("filling", cycle.fill_time, "time"), Input("draining", cycle.drain_time, "time"),
        ),
        "fills in {fill:time}, drains in {drain:time}, moves {moved:volume} each time",
        {"fill": cycle.fill_time, "drain": cycle.drain_time, "moved": cycle.exchanged or 0.0},
        value=cycle.period, headline=headline, label=name,
    )  # fmt: skip


def _siphon(bed: BedResult, headline: bool) -> Figure:
    cycle, built = bed.cycle, bed.loop.built
    return by.SIPHON_INFLOW.of(
        f"{bed.siphon.id}.window", bed.siphon.id,
        (
            Input("standpipe bore d", built.bore, "length"),
            Input("Fr at the start", START_FROUDE.value, "ratio"),
            Input("share at which it breaks", built.break_share.value, "ratio"),
            Input("intake over the bed’s floor", built.intake, "length"),
            Input("bed floor over the tail’s outlet", built.floor - built.outlet, "length"),
        ),
        "starts above {start:flow} (or {low:flow} to {high:flow}), stops up to {stop:flow} "
        "(or {stop_low:flow} to {stop_high:flow})",
        {
            "start": cycle.window.start.value, "low": cycle.window.start.low,
            "high": cycle.window.start.high, "stop": cycle.window.stop.value,
            "stop_low": cycle.window.stop.low, "stop_high": cycle.window.stop.high,
        },
        value=cycle.start_inflow, headline=headline, label=f"Inflow of {bed.siphon.name.lower()}",
    )  # fmt: skip


def _closing_levels(found: "Evaluation", id_: str) -> Iterator[Figure]:
    """The vessel that takes up what the others hold, and the one that most comes back to."""
    result = found.vessels[id_]
    vessel, floor = result.vessel, result.vessel.floor_height
    inlets = [p.inlet_height for p in found.plan.pumps if p.stands_in == id_]
    yield by.LEVEL_LOW.of(
        f"{id_}.low", id_, (Input("water in it at rest", result.rest_volume, "volume"),),
        "over its floor" + ("; the pump’s inlet is at {inlet:length}" if inlets else "")
        + ", filled to {filled:length}",
        {"inlet": max(inlets, default=0.0), "filled": vessel.water_depth or 0.0},
        value=result.levels.low - floor, headline=True, label=f"{vessel.name} at its lowest",
    )  # fmt: skip
    yield _after_a_cut(found, id_)


def _after_a_cut(found: "Evaluation", closer: str) -> Figure:
    loop = [found.vessels[v] for v, c in found.balance.closing.items() if c == closer]
    result = max(loop, key=lambda r: (r.rest_volume - r.volume, r.vessel.id == closer))
    vessel, floor, id_ = result.vessel, result.vessel.floor_height, result.vessel.id
    outages = [o for b in found.beds for o in b.outages
               if isinstance(b.loop, PumpedBedLoop) and b.loop.tank.id == id_]  # fmt: skip
    rest = max([o.tank_level for o in outages], default=result.levels.at_rest) - floor
    low = result.levels.low - floor
    back = max([o.returned for o in outages], default=max(rest - low, 0.0) * result.area)
    return by.LEVEL_REST.of(
        f"{id_}.outage", id_, (Input("water in it at rest", result.rest_volume, "volume"),),
        "over its floor; the rim is at {rim:length}; {back:volume} comes back at the most",
        {"rim": vessel.shape.height, "back": back}, value=rest, headline=True,
        label=f"{vessel.name} after a power cut",
    )  # fmt: skip


def _power(found: "Evaluation", duty: Duty, headline: bool) -> Figure:
    site = found.plan.site
    name = f"Power of {duty.pump.name.lower()}" if len(found.duties) > 1 else "Power"
    return by.ENERGY.of(
        f"{duty.pump.id}.power", duty.pump.id,
        (
            Input("watts drawn", duty.power, "power"), Input("head", duty.head, "head"),
            Input("share of the time", duty.share, "percent"),
        ),
        "{energy:energy} and {cost:price} " + site.currency + " a year; {share:percent} of it "
        "leaves in the water",
        {"energy": duty.energy_year, "cost": duty.cost_year, "share": duty.efficiency},
        value=duty.power, headline=headline, label=name,
    )  # fmt: skip


def _second_opinion(result: RunResult) -> float | None:
    """What the formula behind many tables of the trade would give, where it holds [m]."""
    if result.gravity is not None or result.bore < _TABLE_BORE or result.regime != "turbulent":
        return None
    coefficient = _NEW if result.run.fouling == "new" else _OLD
    return hazen_williams_head(abs(result.flow), result.bore, result.length, coefficient)


def _across(found: "Evaluation", result: RunResult) -> float:
    if result.velocity == 0.0:
        return result.bore
    return result.reynolds * found.water.kinematic_viscosity / result.velocity


def _run(found: "Evaluation", result: RunResult) -> Iterator[Figure]:
    run, id_ = result.run, result.run.id
    inside = Input("bore the film leaves", result.bore, "length")
    yield by.RUN_FLOW.of(
        f"{id_}.flow", id_, (inside, Input("length", result.length, "head")),
        "{mean:flow} with rests counted" if result.mean_flow != result.flow else "",
        {"mean": result.mean_flow}, value=result.flow, label=f"Flow in {run.name}",
    )  # fmt: skip
    carried, label = Input("flow", abs(result.flow), "flow"), f"Velocity in {run.name}"
    is_full = result.wetted == area_of(result.bore)
    if is_full:
        yield by.VELOCITY.of(f"{id_}.velocity", id_, (carried, inside), label=label)
    else:
        part = Input("area of the water", result.wetted, "area")
        yield by.PART_FULL_VELOCITY.of(f"{id_}.velocity", id_, (carried, part), label=label)
    yield by.REYNOLDS.of(
        f"{id_}.reynolds", id_,
        (Input("velocity", result.velocity, "speed"),
         Input("hydraulic diameter", _across(found, result), "length"),
         Input("kinematic viscosity", found.water.kinematic_viscosity, "viscosity")),
        result.regime, label=f"Reynolds number in {run.name}",
    )  # fmt: skip
    opinion = _second_opinion(result)
    yield by.LOSS.of(
        f"{id_}.loss", id_, tuple(Input(p.label, h, "head") for p, h in result.losses),
        "Hazen–Williams would say {theirs:head} for the pipe alone" if opinion else "",
        {"theirs": opinion or 0.0}, label=f"Head lost in {run.name}",
    )  # fmt: skip
    gravity = result.gravity
    if gravity is None:
        return
    yield by.HEAD_OVER.of(
        f"{id_}.over", id_,
        (Input("level upstream", gravity.crest + gravity.head_over, "length"),
         Input("crest", gravity.crest, "length")),
        "it falls back to the crest when the pump stops", label=f"Level over {run.name}",
    )  # fmt: skip
    yield by.DRAIN_FILL.of(
        f"{id_}.fill", id_,
        (Input("flow", result.flow, "flow"), inside, Input("slope", gravity.slope, "percent")),
        "at most half, so that air passes over the water", value=gravity.fill,
        label=f"Depth in {run.name}",
    )  # fmt: skip
    yield by.SPARE.of(
        f"{id_}.capacity", id_, (inside,), "{spare:flow} to spare",
        {"spare": gravity.capacity - result.flow}, value=gravity.capacity,
        label=f"Most {run.name} could pass",
    )  # fmt: skip
