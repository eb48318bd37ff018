"""The figures that matter of a pumped bed loop."""

from bathys.evaluation.figures import Figure, Input
from bathys.evaluation.result import LoopResult
from bathys.physics.siphon import START_FROUDE
from bathys.plan.model import LabelPump, Site

__all__ = ["figures_of_loop"]

_NO_CYCLE = {
    "never_starts": "the siphon never starts",
    "holds": "the siphon never stops",
    "hangs": "the siphon hangs at its slots",
    "overflows": "the bed runs over",
    "starved": "the tank runs out first",
    "no_inflow": "no water arrives",
}


def figures_of_loop(result: LoopResult, site: Site) -> list[Figure]:
    """Figures of one loop, in the order a builder asks for them.

    Parameters
    ----------
    result : LoopResult
        Its numbers
    site : Site
        Tariff and currency

    Returns
    -------
    list of Figure
        The figures
    """
    return [
        _flow(result), _tank_turnover(result), _cycle_time(result), _siphon(result),
        _tank_low(result), _tank_high(result), _energy(result, site),
    ]  # fmt: skip


def _flow(result: LoopResult) -> Figure:
    duty = result.duty
    is_label = isinstance(result.loop.pump.curve, LabelPump)
    told = "{share:percent} of " + (
        "the label’s {label:flow}" if is_label else "the {label:flow} it moves at no lift"
    )
    is_steady = duty.flow_high - duty.flow_low < 0.002 * duty.flow_high
    swing = "" if is_steady else "; {low:flow} to {high:flow} as the tank falls and rises"
    return Figure(
        f"{result.loop.pump.id}.flow", result.loop.pump.id, "Flow to the bed", duty.flow, "flow",
        told + swing,
        {"share": duty.label_share, "label": duty.label_flow,
         "low": duty.flow_low, "high": duty.flow_high},
        "pump head H(Q) = lift + Σ f (L/D) V²/2g + Σ K V²/2g",
        (
            Input("lift from the tank’s mean level", duty.lift, "head"),
            Input("head the pump makes", duty.head, "head"),
            Input("velocity in the riser", duty.velocity, "speed"),
        ),
        "Darcy–Weisbach; Colebrook–White (1939); fittings Crane TP-410; the pump’s own curve",
        "published",
    )  # fmt: skip


def _tank_turnover(result: LoopResult) -> Figure:
    tank = result.loop.tank
    return Figure(
        f"{tank.id}.turnover", tank.id, "Tank turnover", result.tank_turnover, "per_hour",
        "once is accepted, 1.5 to 2 preferred; the bed’s shell {bed:per_hour}",
        {"bed": result.bed_turnover},
        "mean flow over a cycle ÷ mean volume of the tank",
        (Input("mean flow", result.cycle.mean_inflow, "flow"),),
        "limits are common practice", "common practice",
    )  # fmt: skip


def _cycle_time(result: LoopResult) -> Figure:
    cycle = result.cycle
    key, bed = f"{result.loop.bed.id}.cycle", result.loop.bed.id
    if cycle.period is None:
        return Figure(
            key, bed, "Siphon cycle", None, "time", f"no cycle: {_NO_CYCLE[cycle.verdict]}"
        )
    assert cycle.fill_time is not None and cycle.drain_time is not None  # noqa: S101
    assert cycle.exchanged is not None  # noqa: S101
    return Figure(
        key, bed, "Siphon cycle", cycle.period, "time",
        "fills in {fill:time}, drains in {drain:time}, moves {moved:volume} each time",
        {"fill": cycle.fill_time, "drain": cycle.drain_time, "moved": cycle.exchanged},
        "t = ∫ A φ dh ÷ (inflow − outflow), from break to start and back",
        (
            Input("inflow as it starts", cycle.start_inflow, "flow"),
            Input("peak flow of the siphon", cycle.peak_flow, "flow"),
        ),
        "mass balance of the bed", "derived",
    )  # fmt: skip


def _siphon(result: LoopResult) -> Figure:
    cycle, siphon = result.cycle, result.loop.bell.siphon
    return Figure(
        f"{siphon.id}.window", siphon.id, "Inflow the siphon gets", cycle.start_inflow, "flow",
        "starts above {start:flow} (or {low:flow} to {high:flow}), stops up to {stop:flow} "
        "(or {stop_low:flow} to {stop_high:flow})",
        {
            "start": cycle.window.start.value, "low": cycle.window.start.low,
            "high": cycle.window.start.high, "stop": cycle.window.stop.value,
            "stop_low": cycle.window.stop.low, "stop_high": cycle.window.stop.high,
        },
        f"start: Q = Fr (π/4) d² √(g d), Fr = {START_FROUDE.value} "
        f"({START_FROUDE.low}–{START_FROUDE.high}); stop: Q = "
        f"{result.loop.bell.break_share.value} of the full flow at the intake",
        (
            Input("standpipe bore d", result.loop.bell.bore, "length"),
            Input("intake over the bed’s floor", result.loop.bell.intake, "length"),
            Input("bed floor over the tail’s outlet",
                  result.loop.bell.floor - result.loop.bell.outlet, "length"),
        ),
        "self-venting limit: Simpson (1968), Hills (1983), from memory; the share that breaks it "
        "is assumed", "derived",
    )  # fmt: skip


def _tank_low(result: LoopResult) -> Figure:
    loop, cycle = result.loop, result.cycle
    return Figure(
        f"{loop.tank.id}.low", loop.tank.id, "Tank at its lowest",
        cycle.tank_low - loop.tank.floor_height, "length",
        "over its floor; the pump’s inlet is at {inlet:length}, filled to {filled:length}",
        {"inlet": loop.pump.inlet_height, "filled": loop.tank.water_depth or 0.0},
        "tank = all water − bed at its fullest − riser",
        (Input("all water that moves", loop.total_volume, "volume"),),
        "mass balance", "derived",
    )  # fmt: skip


def _tank_high(result: LoopResult) -> Figure:
    loop = result.loop
    worst = max(result.outages, key=lambda o: o.tank_level)
    return Figure(
        f"{loop.tank.id}.outage", loop.tank.id, "Tank after a power cut",
        worst.tank_level - loop.tank.floor_height, "length",
        "over its floor; the rim is at {rim:length}; {back:volume} comes back",
        {"rim": loop.tank_storage.rim, "back": worst.returned},
        "tank = all water − what the bed keeps, at the worst moment",
        (Input("all water that moves", loop.total_volume, "volume"),),
        "mass balance", "derived",
    )  # fmt: skip


def _energy(result: LoopResult, site: Site) -> Figure:
    duty = result.duty
    return Figure(
        f"{result.loop.pump.id}.power", result.loop.pump.id, "Power", duty.power, "power",
        "{energy:energy} and {cost:price} " + site.currency + " a year; {share:percent} of it "
        "leaves in the water",
        {"energy": duty.energy_year, "cost": duty.cost_year, "share": duty.efficiency},
        "kWh a year = W × 8760 h ÷ 1000; wire-to-water efficiency = ρ g Q H ÷ P",
        (Input("watts drawn", duty.power, "power"), Input("head", duty.head, "head")),
        "arithmetic", "derived",
    )  # fmt: skip
